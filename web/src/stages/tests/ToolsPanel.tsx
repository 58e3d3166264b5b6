import { useState } from "react";
import { asRefused, type CircuitLine, type TripSearch } from "../../api/client";
import { useCodes, useTrips } from "../../data/useDiagnosis";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";

const WHEN = [
  ["at-once", "At once"],
  ["under-load", "Under load"],
  ["now-and-then", "Now and then"],
] as const;

/** An RCD that trips: what to switch off or unplug next, until one suspect is left. */
export function TripsPanel({ jobId }: { jobId: string }) {
  const [when, setWhen] = useState<NonNullable<TripSearch["when"]>>("at-once");
  const [answers, setAnswers] = useState<NonNullable<TripSearch["answers"]>>([]);
  const query = useTrips(jobId, { when, circuits: [], answers });
  const found = query.data;
  return (
    <section data-trips>
      <h2 className="text-xl font-bold">An RCD trips: which circuit, load or wiring?</h2>
      <p className="quiet">Isolate before you take a neutral out, and prove it dead. Competent persons only.</p>
      <div className="flex flex-wrap items-center gap-3 py-2">
        <span className="font-semibold">It trips</span>
        <Pick name="When it trips" small value={when} options={WHEN} onCommit={setWhen} />
        {answers.length > 0 && (
          <button className="btn btn-sm" onClick={() => setAnswers(answers.slice(0, -1))}>
            Take the last answer back
          </button>
        )}
      </div>
      {query.isError && <RefusalNote refused={asRefused(query.error)} />}
      {found && (
        <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
          <div>
            {found.next ? (
              <div className="border-2 border-base-content/70 px-4 py-3" data-step={found.next.id}>
                <p className="quiet text-sm font-semibold">Next, step {answers.length + 1}</p>
                <p className="text-xl leading-tight font-bold">{found.next.title}</p>
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {([true, false] as const).map((tripped) => (
                    <button
                      key={String(tripped)}
                      className="btn h-16 bg-base-200 text-xl"
                      onClick={() => found.next && setAnswers([...answers, { question: found.next.id, tripped }])}
                    >
                      {tripped ? found.next?.yes : found.next?.no}
                    </button>
                  ))}
                </div>
              </div>
            ) : (
              <p className="border-l-6 border-error bg-base-200 px-4 py-3 text-2xl font-bold">{found.sentence}</p>
            )}
          </div>
          <ul className="border-t-2 border-base-content/70">
            {found.suspects.map((suspect) => (
              <li key={suspect.id} className="flex gap-3 border-b border-base-300 py-1">
                <span className="w-14 text-right text-lg font-bold">{Math.round(suspect.share * 100)} %</span>
                {suspect.title}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

const WHAT = {
  cables: {
    title: "Bell out cables: which far end is which?",
    far: "Far ends, one a line",
    near: "Cables at this end, one a line",
    round: "Join line to neutral at these far ends, all others open",
    read: "Which cables read closed here?",
    note: "Both ends isolated and out of everything. Each cable is read line to neutral by itself.",
  },
  breakers: {
    title: "Trace a board: which breaker feeds which outlet?",
    far: "Breakers, one a line",
    near: "Outlets, one a line",
    round: "Switch these breakers off, all others on; then one walk round",
    read: "Which outlets are dead?",
    note: "Tell the household first; freezers, alarms and medical equipment on another supply. A plug-in indicator shows, it does not prove dead.",
  },
} as const;

const lines = (text: string) => [...new Set(text.split("\n").map((each) => each.trim()).filter(Boolean))];

/** Telling many apart in as few rounds as they have binary digits: cables belled out, or a board traced. */
export function CodesPanel({ what, circuits }: { what: keyof typeof WHAT; circuits: readonly CircuitLine[] }) {
  const words = WHAT[what];
  const [far, setFar] = useState(what === "breakers" ? circuits.map((line) => `${line.number} ${line.name}`).join("\n") : "");
  const [near, setNear] = useState("");
  const [seen, setSeen] = useState<Record<string, boolean[]>>({});
  const [round, setRound] = useState(0);
  const things = lines(near);
  const names = lines(far);
  const plan = useCodes({ what, names, seen: [] }).data?.plan;
  const over = plan !== undefined && round >= plan.rounds.length;
  const told = things.map((name) => ({ name, rounds: (plan?.rounds ?? []).map((_, at) => seen[name]?.[at] ?? false) }));
  const answer = useCodes({ what, names: over && things.length > 0 ? names : [], seen: told });
  return (
    <section data-codes={what}>
      <h2 className="text-xl font-bold">{words.title}</h2>
      <p className="quiet">{words.note}</p>
      <div className="grid gap-3 py-2 md:grid-cols-2">
        {(
          [
            [words.near, near, setNear],
            [words.far, far, setFar],
          ] as const
        ).map(([label, text, set]) => (
          <label key={label} className="flex flex-col gap-0.5">
            <span className="text-sm font-semibold">{label}</span>
            <textarea
              name={label}
              className="textarea min-h-28 w-full text-base"
              value={text}
              onChange={(event) => {
                set(event.target.value);
                setRound(0);
                setSeen({});
              }}
            />
          </label>
        ))}
      </div>
      {plan && things.length > 0 && !over && (
        <div className="border-2 border-base-content/70 px-4 py-3" data-round={round + 1}>
          <p className="quiet text-sm font-semibold">
            Round {round + 1} of {plan.rounds.length}
          </p>
          <p className="font-semibold">{words.round}:</p>
          <p className="text-2xl leading-tight font-bold">{plan.rounds[round]?.join(", ")}</p>
          <p className="mt-2 font-semibold">{words.read}</p>
          <div className="flex flex-wrap gap-1.5 py-1">
            {things.map((name) => {
              const on = seen[name]?.[round] ?? false;
              return (
                <button
                  key={name}
                  aria-pressed={on}
                  className={`btn ${on ? "btn-primary" : "bg-base-200"}`}
                  onClick={() => {
                    const bits = [...(seen[name] ?? [])];
                    bits[round] = !on;
                    setSeen({ ...seen, [name]: bits });
                  }}
                >
                  {name}
                </button>
              );
            })}
          </div>
          <div className="flex gap-2">
            {round > 0 && (
              <button className="btn" onClick={() => setRound(round - 1)}>
                Back
              </button>
            )}
            <button className="btn btn-primary" onClick={() => setRound(round + 1)}>
              {round + 1 === plan.rounds.length ? "Say which is which" : "Next round"}
            </button>
          </div>
        </div>
      )}
      {over && answer.data && (
        <div data-told>
          <table className="w-full max-w-2xl text-left text-lg">
            <tbody>
              {answer.data.found.map((each) => (
                <tr key={each.name} className="border-b border-base-300">
                  <td className="pr-4">{each.name}</td>
                  <td className={`font-bold ${each.belongs_to ? "" : "text-error"}`}>{each.belongs_to ?? each.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <div className="flex gap-2 pt-2 print:hidden">
            <button className="btn" onClick={() => setRound(0)}>
              Go through again
            </button>
            <button className="btn btn-primary" onClick={() => print()}>
              Print labels
            </button>
          </div>
        </div>
      )}
    </section>
  );
}
