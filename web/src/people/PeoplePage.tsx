import { useState, type SyntheticEvent } from "react";
import { asRefused, type Handed, type PeopleView, type PersonLine, type Refused, type Role } from "../api/client";
import { Header } from "../app/Header";
import { usePeople, type PeopleWork } from "../data/usePeople";
import { withOrWithout } from "../lists";
import { recordTime } from "../numbers";
import { Opened } from "../parts/Opened";
import { RefusalNote } from "../parts/RefusalNote";
import { roleName, ROLES } from "./roles";

/** Everybody of the firm: who may do what, who is let in, who is invited. */
export function PeoplePage() {
  const work = usePeople();
  const { query } = work;
  const [refused, setRefused] = useState<Refused>();
  const [handed, setHanded] = useState<Handed & { to: string }>();

  /** Do something about people; what comes back is either all of them anew, or a link to hand on. */
  async function act(doing: Promise<PeopleView | Handed>, to: string): Promise<boolean> {
    try {
      const done = await doing;
      setRefused(undefined);
      if ("path" in done) setHanded({ ...done, to });
      return true;
    } catch (error) {
      setRefused(asRefused(error));
      return false;
    }
  }

  return (
    <>
      <Header>
        <h1 className="truncate text-lg font-bold">People of the firm</h1>
      </Header>
      <main className="mx-auto max-w-5xl p-4">
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        {handed && <HandedLink handed={handed} onClose={() => setHanded(undefined)} />}
        <Opened query={query}>
          {(view) => (
            <>
              <ul className="border-t-2 border-base-content/70" data-people>
                {view.people.map((person) => (
                  <PersonRow
                    key={person.id}
                    person={person}
                    work={work}
                    onAct={(doing) => void act(doing, person.name)}
                  />
                ))}
              </ul>
              {view.invited.length > 0 && (
                <>
                  <h2 className="pt-6 text-xl font-bold">Invited, not here yet</h2>
                  <ul className="border-t-2 border-base-content/70">
                    {view.invited.map((each) => (
                      <li
                        key={each.id}
                        data-invited={each.email}
                        className="flex flex-wrap items-center gap-x-4 border-b border-base-300 py-2"
                      >
                        <span className="font-semibold">{each.name}</span> {each.email}
                        <span className="quiet ml-auto">
                          {each.roles.map(roleName).join(", ") || "Reader"}, until {recordTime(each.until)}
                        </span>
                        <button
                          className="btn btn-sm"
                          aria-label={`Take back the invitation of ${each.name}`}
                          onClick={() => void act(work.takeBack(each.id), each.name)}
                        >
                          Take back
                        </button>
                      </li>
                    ))}
                  </ul>
                </>
              )}
              <InviteForm onInvite={(body) => act(work.invite(body), body.name)} />
            </>
          )}
        </Opened>
      </main>
    </>
  );
}

interface RowProps {
  person: PersonLine;
  work: PeopleWork;
  onAct: (doing: Promise<PeopleView | Handed>) => void;
}

function PersonRow({ person, work, onAct }: RowProps) {
  const give = (role: Role, on: boolean) => onAct(work.give(person.id, role, on));
  return (
    <li className="border-b border-base-300 py-3" data-person={person.email}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <span className="text-xl font-bold">{person.name}</span>
        <span className="quiet">{person.email}</span>
        {person.you && <span className="font-semibold">you</span>}
        {person.locked && <span className="bg-error px-2 font-bold text-error-content">LOCKED OUT</span>}
        <span className={`ml-auto ${person.second_factor ? "" : "quiet"}`}>
          {person.second_factor ? "second factor on" : "no second factor"}
        </span>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <RoleButtons roles={person.roles} onGive={give} />
        <details className="dropdown dropdown-end ml-auto">
          <summary className="btn btn-sm" aria-label={`More for ${person.name}`}>
            More
          </summary>
          <div className="dropdown-content z-10 mt-1 flex w-64 flex-col gap-1 border border-base-300 bg-base-100 p-2 shadow">
            <button className="btn btn-sm justify-start" onClick={() => onAct(work.reset(person.id))}>
              Link to set a new password
            </button>
            {person.second_factor && (
              <button className="btn btn-sm justify-start" onClick={() => onAct(work.takeFactorOff(person.id))}>
                Take the second factor off
              </button>
            )}
            {person.locked ? (
              <button className="btn btn-sm justify-start" onClick={() => onAct(work.letIn(person.id))}>
                Let in again
              </button>
            ) : (
              <button className="btn btn-sm justify-start text-error" onClick={() => onAct(work.lockOut(person.id))}>
                Lock out, at once
              </button>
            )}
          </div>
        </details>
      </div>
    </li>
  );
}

function RoleButtons({ roles, onGive }: { roles: readonly Role[]; onGive: (role: Role, on: boolean) => void }) {
  return ROLES.map(({ role, name, may }) => {
    const on = roles.includes(role);
    return (
      <button
        key={role}
        type="button"
        aria-pressed={on}
        title={may}
        className={`btn btn-sm ${on ? "btn-neutral" : "border-base-300 bg-base-100"}`}
        onClick={() => onGive(role, !on)}
      >
        <span aria-hidden="true">{on ? "✓" : "+"}</span> {name}
      </button>
    );
  });
}

function InviteForm({
  onInvite,
}: {
  onInvite: (body: { email: string; name: string; roles: Role[] }) => Promise<boolean>;
}) {
  const [name, setName] = useState("");
  const [email, setEmail] = useState("");
  const [roles, setRoles] = useState<Role[]>([]);
  async function invite(event: SyntheticEvent) {
    event.preventDefault();
    if (!(await onInvite({ name, email, roles }))) return;
    setName("");
    setEmail("");
    setRoles([]);
  }
  return (
    <form className="mt-8 border-l-4 border-accent bg-base-200 p-4" onSubmit={(event) => void invite(event)}>
      <h2 className="text-xl font-bold">Invite somebody</h2>
      <div className="mt-2 flex flex-wrap items-end gap-3">
        <label className="flex flex-col">
          <span className="font-semibold">Name</span>
          <input
            className="input w-56"
            name="invite-name"
            required
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="flex flex-col">
          <span className="font-semibold">E-mail</span>
          <input
            className="input w-72"
            name="invite-email"
            type="email"
            required
            maxLength={200}
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
        </label>
        <div className="flex basis-full flex-wrap items-center gap-2">
          <RoleButtons roles={roles} onGive={(role, on) => setRoles(withOrWithout(roles, role, on))} />
          <button className="btn btn-primary ml-auto">Invite</button>
        </div>
      </div>
      <p className="quiet mt-2 text-sm">
        Everybody of the firm reads all its jobs. {ROLES.map((each) => `${each.name}: ${each.may}`).join(". ")}.
      </p>
    </form>
  );
}

/** A link that works once: shown here and never again. */
function HandedLink({ handed, onClose }: { handed: Handed & { to: string }; onClose: () => void }) {
  const address = `${location.origin}${handed.path}`;
  return (
    <section className="mb-4 border-l-6 border-success bg-base-200 px-4 py-3" role="status" data-handed>
      <p className="text-lg font-bold">
        {handed.mailed ? `Sent to ${handed.to} by mail.` : `Hand this link to ${handed.to} yourself.`} It works once,
        until {recordTime(handed.until)}, and is not shown again.
      </p>
      <div className="mt-2 flex flex-wrap gap-2">
        <input
          className="input min-w-0 grow font-mono text-sm"
          readOnly
          aria-label="Link"
          value={address}
          onFocus={(event) => event.target.select()}
        />
        <button className="btn" onClick={() => void navigator.clipboard.writeText(address)}>
          Copy
        </button>
        <button className="btn" onClick={onClose}>
          Done
        </button>
      </div>
    </section>
  );
}
