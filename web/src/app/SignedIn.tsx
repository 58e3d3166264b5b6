import { useEffect, useState, type ReactNode, type SyntheticEvent } from "react";
import { asRefused, whenProofIsAsked, whenSessionEnds, type Me, type Refused } from "../api/client";
import { MeContext, useMe } from "../data/me";
import { useSendingOutbox } from "../data/useOutbox";
import { prove, signIn, useAbout, useLettingIn, useSession } from "../data/useSession";
import { RefusalNote } from "../parts/RefusalNote";
import { Wordmark } from "../parts/Wordmark";

/** Sends what waits on this device, as long as its person is signed in. */
function SendsOutbox({ me }: { me: Me }) {
  useSendingOutbox(me);
  return null;
}

/** Show the application to whoever is signed in, the sign-in page to everyone else. */
export function SignedIn({ children }: { children: ReactNode }) {
  const lettingIn = useLettingIn();
  const me = useSession();
  // Those who wait for somebody to sign in again, while what they were doing stays on the page.
  const [waiting, setWaiting] = useState<(() => void)[]>([]);
  // Whoever waits for the password to be given again, before something that matters.
  const [asked, setAsked] = useState<(given: boolean) => void>();
  const known = me.data !== undefined;
  useEffect(() => {
    if (!known) return;
    whenSessionEnds(() => new Promise<void>((goOn) => setWaiting((others) => [...others, goOn])));
    whenProofIsAsked(() => new Promise<boolean>((answer) => setAsked(() => answer)));
  }, [known]);
  if (me.isPending) return null;
  if (me.isError) {
    const refused = asRefused(me.error);
    return <SignInPage trouble={refused.status === 401 ? undefined : refused} />;
  }
  function signedInAgain(now: Me) {
    if (now.id !== me.data?.id) {
      // Somebody else: nothing that was fetched or typed by the first is theirs.
      location.assign("/");
      return;
    }
    lettingIn.known(now);
    waiting.forEach((goOn) => goOn());
    setWaiting([]);
  }
  return (
    <MeContext value={me.data}>
      <SendsOutbox me={me.data} />
      {children}
      {waiting.length > 0 && (
        <InFront label="Sign in again">
          <h2 className="text-2xl font-bold">Your session has ended</h2>
          <p>Sign in again and go on: what you typed is still here.</p>
          <SignInForm onSignedIn={signedInAgain} />
        </InFront>
      )}
      {asked && (
        <InFront label="Password again">
          <ProofForm
            onAnswer={(given) => {
              asked(given);
              setAsked(undefined);
            }}
          />
        </InFront>
      )}
    </MeContext>
  );
}

function InFront({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div
      role="dialog"
      aria-modal="true"
      aria-label={label}
      className="fixed inset-0 z-30 grid place-items-center bg-black/55 p-4"
    >
      <div
        className="flex w-full max-w-md flex-col gap-4 border-t-6 border-accent bg-base-100 p-6 shadow-xl"
        data-in-front={label}
      >
        {children}
      </div>
    </div>
  );
}

/** The password once more, and the code where there is a second factor. */
function ProofForm({ onAnswer }: { onAnswer: (given: boolean) => void }) {
  const me = useMe();
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const [refused, setRefused] = useState<Refused>();
  async function give(event: SyntheticEvent) {
    event.preventDefault();
    try {
      await prove({ password, code });
      onAnswer(true);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <form className="flex flex-col gap-4" onSubmit={(event) => void give(event)}>
      <h2 className="text-2xl font-bold">Your password again</h2>
      <p>This changes who may do what. It asks once in ten minutes.</p>
      <PasswordField value={password} onChange={setPassword} autoFocus />
      {me.second_factor && <CodeField value={code} onChange={setCode} />}
      {refused && <RefusalNote refused={refused} />}
      <div className="flex gap-2">
        <button className="btn btn-primary grow">Go on</button>
        <button type="button" className="btn" onClick={() => onAnswer(false)}>
          Leave it
        </button>
      </div>
    </form>
  );
}

export function PasswordField({
  value,
  onChange,
  words = "Password",
  name = "password",
  kind = "current-password",
  autoFocus = false,
}: {
  value: string;
  onChange: (value: string) => void;
  words?: string;
  name?: string;
  kind?: "current-password" | "new-password";
  autoFocus?: boolean;
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">{words}</span>
      <input
        className="input input-lg w-full"
        type="password"
        name={name}
        autoComplete={kind}
        autoFocus={autoFocus}
        required
        maxLength={200}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

export function CodeField({
  value,
  onChange,
  autoFocus = false,
  required = true,
}: {
  value: string;
  onChange: (value: string) => void;
  autoFocus?: boolean;
  required?: boolean;
}) {
  return (
    <label className="flex flex-col gap-1">
      <span className="font-semibold">Code from your authenticator</span>
      <input
        className="input input-lg w-full text-2xl tracking-[.3em]"
        name="code"
        inputMode="numeric"
        autoComplete="one-time-code"
        autoFocus={autoFocus}
        required={required}
        maxLength={7}
        value={value}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

/** E-mail and password, and what the server says to them. */
function SignInForm({
  trouble,
  filled,
  onSignedIn,
}: {
  trouble?: Refused | undefined;
  filled?: { email: string; password: string } | undefined;
  onSignedIn: (me: Me) => void;
}) {
  const [email, setEmail] = useState(filled?.email ?? "");
  const [password, setPassword] = useState(filled?.password ?? "");
  const [code, setCode] = useState("");
  const [refused, setRefused] = useState<Refused | undefined>(trouble);
  const [factor, setFactor] = useState(false);

  async function go(event: SyntheticEvent) {
    event.preventDefault();
    try {
      onSignedIn(await signIn({ email, password, code }));
    } catch (error) {
      const said = asRefused(error);
      // The password is right; what is still missing is no mistake.
      setRefused(said.body.code === "second-factor" ? undefined : said);
      // What others tried on the account holds it back: the code opens it all the same, where there is one.
      setFactor(factor || ["second-factor", "too-many-attempts"].includes(said.body.code));
    }
  }

  return (
    <form className="flex flex-col gap-4" onSubmit={(event) => void go(event)}>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">E-mail</span>
        <input
          className="input input-lg w-full"
          type="email"
          name="email"
          autoComplete="username"
          autoFocus
          required
          value={email}
          onChange={(event) => setEmail(event.target.value)}
        />
      </label>
      <PasswordField value={password} onChange={setPassword} />
      {factor && <CodeField value={code} onChange={setCode} autoFocus required={!refused} />}
      {refused && <RefusalNote refused={refused} />}
      <button className="btn btn-primary btn-lg">Sign in</button>
    </form>
  );
}

function SignInPage({ trouble }: { trouble?: Refused | undefined }) {
  const lettingIn = useLettingIn();
  const about = useAbout();
  const [filled, setFilled] = useState<{ email: string; password: string }>();
  const demo = about.data?.demo;

  return (
    <main className="grid min-h-dvh md:grid-cols-[1fr_26rem]">
      <section className="hidden flex-col justify-between bg-[#3d2243] p-10 text-[#fdfcf9] md:flex">
        <Wordmark className="text-3xl" />
        <SignInDrawing />
        <p className="max-w-lg text-lg leading-snug">
          Every answer from one model of the wiring, with its working shown. A prediction never replaces a test.
        </p>
      </section>
      <section className="flex flex-col justify-center gap-6 p-8">
        <Wordmark className="text-3xl md:hidden" />
        <h1 className="text-2xl font-bold">Sign in</h1>
        <SignInForm key={filled?.email ?? ""} trouble={trouble} filled={filled} onSignedIn={lettingIn.anew} />
        {demo && (
          <div className="border-l-4 border-accent bg-base-200 p-4">
            <p className="font-semibold">This is the demo.</p>
            <p className="mt-1">
              {demo.email}
              <br />
              {demo.password}
            </p>
            <button className="btn btn-sm mt-3" onClick={() => setFilled(demo)}>
              Fill it in
            </button>
          </div>
        )}
      </section>
    </main>
  );
}

function SignInDrawing() {
  return (
    <svg viewBox="0 0 520 260" className="max-w-2xl" aria-hidden="true">
      <g fill="none" stroke="#fdfcf9" strokeWidth="4">
        <path d="M70 130V70a24 24 0 0 1 24-24h370a24 24 0 0 1 24 24v120a24 24 0 0 1-24 24H94a24 24 0 0 1-24-24z" />
        <path d="M360 46V10" strokeDasharray="7 7" />
      </g>
      {[150, 255, 360, 445].map((x) => (
        <circle key={x} cx={x} cy="46" r="15" fill="#3d2243" stroke="#fdfcf9" strokeWidth="4" />
      ))}
      {[150, 270, 390].map((x) => (
        <circle key={x} cx={x} cy="214" r="15" fill="#3d2243" stroke="#fdfcf9" strokeWidth="4" />
      ))}
      <rect x="40" y="98" width="60" height="64" rx="5" fill="#fdfcf9" />
      <path d="M55 130h30M70 115v30" stroke="#3d2243" strokeWidth="5" />
      <text x="180" y="142" fill="#fdfcf9" fontSize="46" fontWeight="700">
        0.60 Ω
      </text>
      <text x="342" y="142" fill="#dcb3e4" fontSize="24">
        at most 1.37
      </text>
    </svg>
  );
}
