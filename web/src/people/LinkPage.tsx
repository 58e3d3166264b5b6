import { useState, type SyntheticEvent } from "react";
import { useParams } from "react-router-dom";
import { asRefused, type LinkView, type Refused } from "../api/client";
import { PasswordField } from "../app/SignedIn";
import { takeLink, useLink } from "../data/usePeople";
import { RefusalNote } from "../parts/RefusalNote";
import { Wordmark } from "../parts/Wordmark";

const HEADS: Record<LinkView["purpose"], string> = {
  begin: "Begin: the first account",
  join: "Join your firm",
  reset: "Set a new password",
};

/** What a link leads to: the first account, joining a firm, a new password. */
export function LinkPage() {
  const { token = "" } = useParams();
  const query = useLink(token);
  return (
    <main className="mx-auto flex min-h-dvh max-w-md flex-col justify-center gap-6 p-6">
      <Wordmark className="text-3xl" />
      {query.isError && (
        <>
          <RefusalNote refused={asRefused(query.error)} />
          <a className="link" href="/">
            To the sign-in page
          </a>
        </>
      )}
      {query.data && <UseForm token={token} link={query.data} />}
    </main>
  );
}

function UseForm({ token, link }: { token: string; link: LinkView }) {
  const [firm, setFirm] = useState("");
  const [name, setName] = useState(link.name);
  const [email, setEmail] = useState(link.email);
  const [password, setPassword] = useState("");
  const [refused, setRefused] = useState<Refused>();
  async function use(event: SyntheticEvent) {
    event.preventDefault();
    const first = link.purpose === "begin" ? { firm, email } : {};
    const said = link.purpose === "reset" ? {} : { name, ...first };
    try {
      await takeLink({ token, password, ...said });
      location.assign("/");
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <form className="flex flex-col gap-4" onSubmit={(event) => void use(event)} data-link={link.purpose}>
      <h1 className="text-2xl font-bold">{HEADS[link.purpose]}</h1>
      {link.purpose !== "begin" && (
        <p className="text-lg">
          <b>{link.firm}</b> · {link.email}
        </p>
      )}
      {link.purpose === "begin" && (
        <>
          <Field words="Firm" name="firm" value={firm} onChange={setFirm} />
          <Field words="E-mail" name="email" type="email" value={email} onChange={setEmail} />
        </>
      )}
      {link.purpose !== "reset" && (
        <Field words="Your name, as it stands beside readings" name="name" value={name} onChange={setName} />
      )}
      <PasswordField words="Password to be" kind="new-password" value={password} onChange={setPassword} />
      <p className="quiet text-sm">12 characters or more; four unrelated words do well.</p>
      {refused && <RefusalNote refused={refused} />}
      <button className="btn btn-primary btn-lg">{link.purpose === "reset" ? "Set it, then sign in" : "Begin"}</button>
    </form>
  );
}

function Field({
  words,
  name,
  type = "text",
  value,
  onChange,
}: {
  words: string;
  name: string;
  type?: string;
  value: string;
  onChange: (value: string) => void;
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">{words}</span>
      <input
        className="input input-lg w-full"
        name={name}
        type={type}
        required
        maxLength={200}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
