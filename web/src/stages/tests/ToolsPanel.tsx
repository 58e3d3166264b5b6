import { useState } from "react";
import { asRefused, type CircuitLine, type SwitchingView, type TripSearch } from "../../api/client";
import { boardKeyOf, useBoardsQuery } from "../../data/useBoards";
import { useCircuit } from "../../data/useCircuit";
import { useCodes, useTrips } from "../../data/useDiagnosis";
import { useLooseEnds } from "../../data/useSwitching";
import { withOrWithout } from "../../lists";
import { plain } from "../../numbers";
import { Choice, Figure } from "../../parts/fields";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { KeepFound } from "./KeepFound";

const WHEN = [
  ["at-once", "At once"],
  ["under-load", "Under load"],
  ["now-and-then", "Now and then"],
] as const;

/** An RCD that trips: what to switch off or unplug next, until one suspect is left. */
export function TripsPanel({ jobId, circuits }: { jobId: string; circuits: readonly CircuitLine[] }) {
  const [when, setWhen] = useState<NonNullable<TripSearch["when"]>>("at-once");
  // What was done, in words, with what came of it.
  const [steps, setSteps] = useState<
    { title: string; said: string; answer: NonNullable<TripSearch["answers"]>[number] }[]
  >([]);
  const answers = steps.map((step) => step.answer);
  // Those behind the RCD; none said is all of them.
  const [behind, setBehind] = useState<number[]>([]);
  const [everyH, setEveryH] = useState<number | null>(null);
  const [waitedH, setWaitedH] = useState<number | null>(null);
  const query = useTrips(jobId, { when, circuits: behind, answers, every_h: when === "now-and-then" ? everyH : null });
  const found = query.data;
  const groups = found?.groups ?? [];
  return (
    <section data-trips>
      <h2 className="text-xl font-bold">An RCD trips: which circuit, load or wiring?</h2>
      <p className="quiet">Isolate before you take a neutral out, and prove it dead. Competent persons only.</p>
      <div className="flex flex-wrap items-center gap-3 py-2">
        <span className="font-semibold">It trips</span>
        <Pick name="When it trips" small value={when} options={WHEN} onCommit={setWhen} />
        {when === "now-and-then" && (
          <Figure
            name="Hours between trips"
            caption="every"
            unit="h"
            placeholder="?"
            className="w-24"
            value={everyH}
            onCommit={setEveryH}
          />
        )}
        {steps.length > 0 && (
          <button className="btn btn-sm" onClick={() => setSteps(steps.slice(0, -1))}>
            Take the last answer back
          </button>
        )}
      </div>
      {groups.length > 0 && (
        <div className="flex flex-wrap items-center gap-1.5 pb-2">
          <span className="mr-1.5 font-semibold">The RCD</span>
          {groups.map((group) => (
            <button
              key={group.id}
              aria-pressed={sameNumbers(group.circuits, behind)}
              className={`btn ${sameNumbers(group.circuits, behind) ? "btn-primary" : "bg-base-100"}`}
              onClick={() => {
                setSteps([]);
                setBehind([...group.circuits]);
              }}
            >
              {group.title}
              {group.rated_ma != null && `, ${plain(group.rated_ma)} mA`}
            </button>
          ))}
        </div>
      )}
      <div className="flex flex-wrap items-center gap-1.5 pb-2">
        <span className="mr-1.5 font-semibold">Behind it</span>
        {circuits.map((line) => {
          const on = behind.length === 0 || behind.includes(line.number);
          return (
            <button
              key={line.id}
              aria-pressed={on}
              title={line.name}
              className={`btn btn-sm ${on ? "btn-primary" : "bg-base-100"}`}
              onClick={() => {
                setSteps([]);
                const all = circuits.map((each) => each.number);
                const now = behind.length === 0 ? all : behind;
                setBehind(withOrWithout(now, line.number, !now.includes(line.number)));
              }}
            >
              {line.number}
            </button>
          );
        })}
      </div>
      {query.isError && <RefusalNote refused={asRefused(query.error)} />}
      {found && (
        <div className="grid gap-x-8 gap-y-3 lg:grid-cols-2">
          <div>
            {found.next ? (
              <div className="border-2 border-base-content/70 px-4 py-3" data-step={found.next.id}>
                <p className="quiet text-sm font-semibold">Next, step {steps.length + 1}</p>
                <p className="text-xl leading-tight font-bold">{found.next.title}</p>
                {found.next.wait_h != null && (
                  <div className="mt-2 flex flex-wrap items-center gap-2">
                    <span>Worth waiting {plain(Math.round(found.next.wait_h))} h before it counts as held. Waited</span>
                    <Figure
                      name="Hours waited"
                      unit="h"
                      placeholder="?"
                      className="w-24"
                      value={waitedH}
                      onCommit={setWaitedH}
                    />
                  </div>
                )}
                <div className="mt-3 grid grid-cols-2 gap-2">
                  {([true, false] as const).map((tripped) => (
                    <button
                      key={String(tripped)}
                      className="btn h-16 bg-base-200 text-xl"
                      // The next step is on its way: tapped twice is answered once.
                      disabled={query.isPlaceholderData}
                      onClick={() => {
                        const { next } = found;
                        if (!next) return;
                        const answer = { question: next.id, tripped, waited_h: next.wait_h == null ? null : waitedH };
                        setSteps([...steps, { title: next.title, said: tripped ? next.yes : next.no, answer }]);
                        setWaitedH(null);
                      }}
                    >
                      {tripped ? found.next?.yes : found.next?.no}
                    </button>
                  ))}
                </div>
              </div>
            ) : (
              <div className="border-l-6 border-error bg-base-200 px-4 py-3">
                <p className="text-2xl font-bold">{found.sentence}</p>
                <KeepFound
                  jobId={jobId}
                  made={{
                    kind: "tripped",
                    title: found.sentence,
                    board: groups.find((group) => sameNumbers(group.circuits, behind))?.board ?? null,
                    lines: steps.map((step, at) => ({
                      name: `Step ${String(at + 1)}`,
                      belongs_to: step.said,
                      why: step.title,
                    })),
                  }}
                />
              </div>
            )}
          </div>
          <ul className="border-t-2 border-base-content/70">
            {found.suspects.map((suspect) => (
              <li key={suspect.id} className="flex gap-3 border-b border-base-300 py-1">
                <span className="w-14 text-right text-lg font-bold">
                  {suspect.share > 0.985 ? "nearly sure" : `${String(Math.max(1, Math.round(suspect.share * 100)))} %`}
                </span>
                {suspect.title}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

const sameNumbers = (a: readonly number[], b: readonly number[]) =>
  a.length === b.length && a.every((each) => b.includes(each));

const WHAT = {
  singles: {
    title: "Bell out single cores: which far end is which?",
    kind: "far ends",
    far: "Far ends, one a line",
    near: "Cores at this end, one a line",
    round: "Join these far ends to the return, all others open",
    read: "Which cores read closed to the return here?",
    yes: "closed",
    no: "open",
    note: "Both ends isolated and out of everything. The return is one conductor you know at both ends: the cpc, or a long lead.",
  },
  cables: {
    title: "Bell out cables: which far end is which?",
    kind: "far ends",
    far: "Far ends, one a line",
    near: "Cables at this end, one a line",
    round: "Join line to neutral at these far ends, all others open",
    read: "Which cables read closed here?",
    yes: "closed",
    no: "open",
    note: "Both ends isolated and out of everything. Each cable is read line to neutral by itself.",
  },
  breakers: {
    title: "Trace a board: which breaker feeds which outlet?",
    kind: "breakers",
    far: "Breakers, one a line",
    near: "Outlets, one a line; “hall @ 2” where the label says breaker 2",
    round: "Switch these breakers off, all others on; then one walk round",
    read: "Which outlets are dead?",
    yes: "dead",
    no: "live",
    note: "Tell the household first; freezers, alarms and medical equipment on another supply. A plug-in indicator shows, it does not prove dead.",
  },
} as const;

/** Whether what is written at an outlet ("hall @ 2") is not the breaker that feeds it. */
function isMislabelled(name: string, fedBy: string | null): boolean {
  const label = /@\s*(\S+)\s*$/.exec(name)?.[1];
  return label !== undefined && fedBy !== null && fedBy.split(" ")[0] !== label;
}

const lines = (text: string) => [
  ...new Set(
    text
      .split("\n")
      .map((each) => each.trim())
      .filter(Boolean),
  ),
];

/** Tracing one board of a job: its breakers are there to begin with. */
export function TraceBoard({ jobId, circuits }: { jobId: string; circuits: readonly CircuitLine[] }) {
  const boards = useBoardsQuery(jobId).data?.boards ?? [];
  const [chosen, setChosen] = useState<string>();
  const board = boards.find((each) => each.id === chosen) ?? (boards.length === 1 ? boards[0] : undefined);
  const on = new Set(board?.groups.flatMap((group) => group.ways.flatMap((way) => way.circuits)));
  return (
    <>
      {boards.length > 1 && (
        <div className="flex flex-wrap items-center gap-3 pb-2">
          <span className="font-semibold">Board</span>
          <Pick
            name="Board"
            value={chosen ?? ""}
            options={[["", "All of them"], ...boards.map((each) => [each.id, each.name] as const)]}
            onCommit={(id) => setChosen(id || undefined)}
          />
        </div>
      )}
      <CodesPanel
        key={chosen}
        jobId={jobId}
        what="breakers"
        circuits={chosen ? circuits.filter((line) => on.has(boardKeyOf(line.id))) : circuits}
        board={board?.id}
      />
    </>
  );
}

/** Telling many apart in as few rounds as they have binary digits: cables belled out, or a board traced. */
function CodesPanel({
  jobId,
  what,
  circuits,
  board,
}: {
  jobId: string;
  what: keyof typeof WHAT;
  circuits: readonly CircuitLine[];
  board?: string | undefined;
}) {
  const words = WHAT[what];
  const [far, setFar] = useState(
    what === "breakers" ? circuits.map((line) => `${String(line.number)} ${line.name}`).join("\n") : "",
  );
  const [near, setNear] = useState("");
  const [seen, setSeen] = useState<Record<string, (boolean | null)[]>>({});
  const [round, setRound] = useState(0);
  const [loose, setLoose] = useState<{ circuit: string; legs: Record<string, string> }>({ circuit: "", legs: {} });
  const legOf = (name: string): string | undefined => loose.legs[name];
  const things = lines(near);
  const names = lines(far);
  const plan = useCodes({ what, names, seen: [] }).data?.plan;
  const over = plan !== undefined && round >= plan.rounds.length;
  const told = things.map((name) => ({ name, rounds: (plan?.rounds ?? []).map((_, at) => seen[name]?.[at] ?? null) }));
  const say = (name: string, at: number, value: boolean) => {
    setSeen((before) => ({
      ...before,
      [name]: Array.from({ length: plan?.rounds.length ?? 0 }, (_, each) =>
        each === at ? value : (before[name]?.[each] ?? null),
      ),
    }));
  };
  const unsaid = things.filter((name) => (seen[name]?.[round] ?? null) === null);
  const answer = useCodes({ what, names: over && things.length > 0 ? names : [], seen: told });
  return (
    <section data-codes={what}>
      <h2 className="text-xl font-bold">{words.title}</h2>
      <p className="quiet">{words.note}</p>
      {what !== "breakers" && (
        <LooseEnds
          circuits={circuits}
          onTake={(circuit, here, there) => {
            setLoose({ circuit, legs: Object.fromEntries([...here, ...there].map((end) => [end.words, end.leg])) });
            setNear(here.map((end) => end.words).join("\n"));
            setFar(there.map((end) => end.words).join("\n"));
            setRound(0);
            setSeen({});
          }}
        />
      )}
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
              const said = seen[name]?.[round] ?? null;
              return (
                <button
                  key={name}
                  aria-pressed={said === true}
                  className={`btn ${said === true ? "btn-primary" : said === false ? "bg-base-200" : "btn-outline"}`}
                  onClick={() => say(name, round, said !== true)}
                >
                  {name}
                  {said !== null && <span className="ml-1 text-sm">{said ? words.yes : words.no}</span>}
                </button>
              );
            })}
          </div>
          {unsaid.length > 0 && (
            <button className="btn mb-2" data-rest onClick={() => unsaid.forEach((name) => say(name, round, false))}>
              {unsaid.length === things.length
                ? `None of them: all ${words.no}`
                : `The other ${String(unsaid.length)}: ${words.no}`}
            </button>
          )}
          <div className="flex gap-2">
            {round > 0 && (
              <button className="btn" onClick={() => setRound(round - 1)}>
                Back
              </button>
            )}
            <button className="btn btn-primary" disabled={unsaid.length > 0} onClick={() => setRound(round + 1)}>
              {round + 1 === plan.rounds.length ? "Say which is which" : "Next round"}
            </button>
          </div>
        </div>
      )}
      {over && answer.data && (
        <div data-told>
          {what !== "breakers" && (
            <WriteDown
              pairs={answer.data.found.flatMap((each) => {
                const one = legOf(each.name);
                const other = each.belongs_to ? legOf(each.belongs_to) : undefined;
                return one && other ? [[one, other] as const] : [];
              })}
              circuitId={loose.circuit}
            />
          )}
          <table className="w-full max-w-2xl text-left text-lg">
            <tbody>
              {answer.data.found.map((each) => (
                <tr key={each.name} className="border-b border-base-300">
                  <td className="pr-4">{each.name}</td>
                  <td className={`font-bold ${each.belongs_to ? "" : "text-error"}`}>
                    {each.belongs_to ?? each.why}
                    {isMislabelled(each.name, each.belongs_to) && (
                      <span className="ml-3 bg-error px-2 text-base text-error-content">the label is wrong</span>
                    )}
                  </td>
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
          <KeepFound
            jobId={jobId}
            made={{
              kind: what === "breakers" ? "traced" : "belled",
              title: `${String(answer.data.found.filter((each) => each.belongs_to).length)} of ${String(answer.data.found.length)} told, of ${String(names.length)} ${words.kind}`,
              circuit: circuits.find((line) => line.id === loose.circuit)?.number ?? null,
              board: board ?? null,
              lines: answer.data.found.map((each) => ({
                name: each.name,
                belongs_to: each.belongs_to ?? "",
                why: each.why,
              })),
            }}
          />
        </div>
      )}
    </section>
  );
}

const BELLED = [
  ["cables", "Whole cables"],
  ["singles", "Single cores, common return"],
] as const;

/** Belling out whole cables, or single cores against a return that is known at both ends. */
export function BellOut({ jobId, circuits }: { jobId: string; circuits: readonly CircuitLine[] }) {
  const [what, setWhat] = useState<(typeof BELLED)[number][0]>("cables");
  return (
    <>
      <div className="pt-2">
        <Pick name="What is belled out" value={what} options={BELLED} onCommit={setWhat} />
      </div>
      <CodesPanel key={what} jobId={jobId} what={what} circuits={circuits} />
    </>
  );
}

type LooseEnd = SwitchingView["loose"][number];

/** Ends of cables that the drawing of a circuit knows and cannot place: those in the fullest box, and all the others. */
function LooseEnds({
  circuits,
  onTake,
}: {
  circuits: readonly CircuitLine[];
  onTake: (circuit: string, here: readonly LooseEnd[], there: readonly LooseEnd[]) => void;
}) {
  const [chosen, setChosen] = useState("");
  const loose = useLooseEnds(chosen);
  const ends = loose.data ?? [];
  const places = [...new Set(ends.map((end) => end.place))];
  const box = places.sort(
    (a, b) => ends.filter((end) => end.place === b).length - ends.filter((end) => end.place === a).length,
  )[0];
  return (
    <div className="flex flex-wrap items-center gap-2 py-1">
      <Choice
        name="Circuit with ends not found"
        className="w-72"
        value={chosen}
        blank="from the drawing of a circuit…"
        options={circuits.map((line) => [line.id, `${String(line.number)} ${line.name}`] as const)}
        onCommit={setChosen}
      />
      {loose.data && ends.length === 0 && <span className="quiet">Every end in it has been found.</span>}
      {ends.length > 0 && (
        <button
          className="btn btn-sm"
          onClick={() =>
            onTake(
              chosen,
              ends.filter((end) => end.place === box),
              ends.filter((end) => end.place !== box),
            )
          }
        >
          Take its {ends.length} ends
        </button>
      )}
    </div>
  );
}

/** Write what was belled out into the drawing: which ends are one cable. */
function WriteDown({ circuitId, pairs }: { circuitId: string; pairs: readonly (readonly [string, string])[] }) {
  const circuit = useCircuit(circuitId === "" ? undefined : circuitId);
  const [done, setDone] = useState(false);
  if (circuitId === "" || pairs.length === 0) return null;
  const commands = pairs.map(([leg, other]) => ({ op: "same-cable", leg, other, same: true }) as const);
  return (
    <p className="py-2">
      {done ? (
        <b className="text-success">Written into the drawing.</b>
      ) : (
        <button
          className="btn btn-primary"
          onClick={() => void circuit.command(...commands).then((kept) => setDone(kept !== undefined))}
        >
          Write {pairs.length} cables into the drawing
        </button>
      )}
      {circuit.refused && <RefusalNote refused={circuit.refused} />}
    </p>
  );
}
