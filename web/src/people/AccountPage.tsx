import { useState, type SyntheticEvent } from "react";
import { asRefused, type FactorOffer, type Refused } from "../api/client";
import { Header } from "../app/Header";
import { CodeField, PasswordField } from "../app/SignedIn";
import { useMe } from "../data/me";
import { setPassword, useSecondFactor, useSessions } from "../data/useAccount";
import { recordTime } from "../numbers";
import { Opened } from "../parts/Opened";
import { RefusalNote } from "../parts/RefusalNote";
import { roleName } from "./roles";

/** One's own account: what one may do, where one is signed in, password and second factor. */
export function AccountPage() {
  const me = useMe();
  return (
    <>
      <Header>
        <h1 className="truncate text-lg font-bold">Your account</h1>
      </Header>
      <main className="mx-auto grid max-w-5xl gap-x-10 gap-y-8 p-4 md:grid-cols-2">
        <section className="md:col-span-2">
          <p className="text-2xl font-bold">{me.name}</p>
          <p>
            {me.email} · {me.firm} · {me.roles.map(roleName).join(", ") || "Reader"}
          </p>
          {me.held_at && (
            <p role="alert" className="mt-2 border-l-6 border-warning bg-base-200 px-4 py-3">
              <b>Many wrong passwords were tried on your account</b> on {recordTime(me.held_at)}. Nobody got in by that.
              Change your password if it is used anywhere else{me.second_factor ? "" : ", and set up the second factor"}
              .
            </p>
          )}
        </section>
        <Sessions />
        <div className="flex flex-col gap-8">
          <SecondFactor />
          <NewPassword />
        </div>
      </main>
    </>
  );
}

function Sessions() {
  const { query, end, endOthers } = useSessions();
  return (
    <section>
      <h2 className="text-xl font-bold">Where you are signed in</h2>
      <Opened query={query}>
        {(sessions) => (
          <>
            <ul className="border-t-2 border-base-content/70" data-sessions>
              {sessions.map((each) => (
                <li key={each.id} className="flex items-center gap-3 border-b border-base-300 py-2">
                  <div className="min-w-0 grow">
                    <p className="font-semibold">
                      {browserOf(each.device)}{" "}
                      {each.this && <span className="bg-success px-2 text-success-content">this one</span>}
                    </p>
                    <p className="quiet text-sm">
                      from {each.address}, last used {recordTime(each.seen_at)}, begun {each.begun_at.slice(0, 10)}
                    </p>
                  </div>
                  {!each.this && (
                    <button className="btn btn-sm" onClick={() => void end(each.id)}>
                      End
                    </button>
                  )}
                </li>
              ))}
            </ul>
            {sessions.length > 1 && (
              <button className="btn btn-sm mt-3" onClick={() => void endOthers()}>
                End all others
              </button>
            )}
            <p className="quiet mt-2 text-sm">
              A session ends by itself when it is not used for some hours, and in any case after some days.
            </p>
          </>
        )}
      </Opened>
    </section>
  );
}

/** The little of what a browser says it is that a person knows it by. */
function browserOf(device: string): string {
  const browser = ["Firefox", "Edg", "Chrome", "Safari"].find((each) => device.includes(each)) ?? "A browser";
  const on = ["Android", "iPhone", "iPad", "Windows", "Mac OS", "Linux"].find((each) => device.includes(each));
  return `${browser === "Edg" ? "Edge" : browser}${on ? ` on ${on}` : ""}`;
}

function NewPassword() {
  const me = useMe();
  const [current, setCurrent] = useState("");
  const [code, setCode] = useState("");
  const [next, setNext] = useState("");
  const [refused, setRefused] = useState<Refused>();
  const [done, setDone] = useState(false);
  async function change(event: SyntheticEvent) {
    event.preventDefault();
    try {
      await setPassword(current, code, next);
      setRefused(undefined);
      setDone(true);
      setCurrent("");
      setCode("");
      setNext("");
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <form className="flex flex-col gap-3" onSubmit={(event) => void change(event)} data-password>
      <h2 className="border-b-2 border-base-content/70 text-xl font-bold">Password</h2>
      <PasswordField words="Password now" name="current" value={current} onChange={setCurrent} />
      {me.second_factor && <CodeField value={code} onChange={setCode} />}
      <PasswordField words="New password" name="new" kind="new-password" value={next} onChange={setNext} />
      <p className="quiet text-sm">12 characters or more; four unrelated words do well. All your other sessions end.</p>
      {refused && <RefusalNote refused={refused} />}
      {done && <p className="font-semibold text-success">Changed.</p>}
      <button className="btn">Change it</button>
    </form>
  );
}

function SecondFactor() {
  const me = useMe();
  const factor = useSecondFactor();
  const [offer, setOffer] = useState<FactorOffer>();
  const [code, setCode] = useState("");
  const [refused, setRefused] = useState<Refused>();
  async function act(work: () => Promise<void>) {
    try {
      await work();
      setRefused(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  const turned = () => {
    setOffer(undefined);
    setCode("");
  };
  return (
    <section data-factor={me.second_factor ? "on" : "off"}>
      <h2 className="border-b-2 border-base-content/70 text-xl font-bold">Second factor</h2>
      <p className="py-2 text-lg font-semibold">
        {me.second_factor
          ? "On: a code is asked for at every sign-in."
          : "Off. A stolen password is enough to sign in as you."}
      </p>
      {refused && <RefusalNote refused={refused} />}
      {offer ? (
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            void act(async () => {
              await factor.turnOn(offer, code);
              turned();
            });
          }}
        >
          <p>Scan this with an authenticator app, or type the secret into it; then enter the code it shows.</p>
          <div className="flex flex-wrap items-center gap-4">
            <img
              className="w-44 bg-white"
              alt="The secret as squares to scan"
              src={`data:image/svg+xml;utf8,${encodeURIComponent(offer.svg)}`}
            />
            <p className="font-mono text-lg break-all">{offer.secret.match(/.{4}/g)?.join(" ")}</p>
          </div>
          <CodeField value={code} onChange={setCode} />
          <button className="btn btn-primary">Turn it on</button>
        </form>
      ) : me.second_factor ? (
        <button
          className="btn"
          onClick={() =>
            void act(async () => {
              await factor.turnOff();
              turned();
            })
          }
        >
          Turn it off
        </button>
      ) : (
        <button className="btn btn-primary" onClick={() => void act(async () => setOffer(await factor.offer()))}>
          Set it up
        </button>
      )}
    </section>
  );
}
