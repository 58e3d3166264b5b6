import { useState } from "react";
import { NavLink, useParams } from "react-router-dom";
import type { WorkStep, WorkView } from "../../api/client";
import { useJob } from "../../data/useJob";
import { usePlaces } from "../../data/usePlaces";
import { spell, standingSteps, useWork, type Work } from "../../data/useWork";
import { MakePdf } from "../../parts/MakePdf";
import { Opened } from "../../parts/Opened";
import { DaysPart } from "./DaysPart";
import { StepLine } from "./StepLine";
import { UsedPart } from "./UsedPart";

const PARTS = [
  ["rooms", "Room by room"],
  ["days", "Days, van"],
  ["used", "Used"],
] as const;
const PHASES = {
  clear: "Cleared, opened",
  "first-fix": "First fix",
  hold: "Before anything is closed",
  close: "Closed again",
  "second-fix": "Second fix",
} as const;
const SHEETS = [
  ["first-fix", "First fix"],
  ["second-fix", "Second fix"],
  ["hidden", "What lies in walls"],
] as const;

/** The work on site: what is done in which room and in which order, what holds it up, how far it has come. */
export function WorkPage() {
  const job = useJob();
  const work = useWork(job.id);
  return <Opened query={work.query}>{(view) => <Whole view={view} work={work} />}</Opened>;
}

function Whole({ view, work }: { view: WorkView; work: Work }) {
  const job = useJob();
  const { part = "rooms" } = useParams();
  const places = usePlaces(job.id).query.data;
  const name = (id: string) => places?.rooms.find((each) => each.id === id)?.name ?? (id || "All over the house");
  const steps = standingSteps(view.work.steps, work.waiting);
  const done = steps.filter((each) => each.stands.status === "done");
  const left = steps
    .filter((each) => each.stands.status !== "done")
    .reduce((sum, each) => sum + Number(each.minutes), 0);
  const holds = steps.filter((each) => each.phase === "hold" && each.stands.status !== "done");
  return (
    <main className="mx-auto w-full max-w-4xl p-3 md:p-5">
      <h1 className="flex flex-wrap items-baseline gap-x-4 text-xl font-bold" data-work-done={done.length}>
        {steps.length === 0 ? "No work yet" : `${String(done.length)} of ${String(steps.length)} done`}
        {steps.length > 0 && <span className="text-base font-normal">{spell(left)} left</span>}
        {work.waiting.length > 0 && (
          <span className="text-base font-normal" data-waiting={work.waiting.length}>
            {work.waiting.length} kept on this device until there is a signal
          </span>
        )}
      </h1>
      {steps.length === 0 && (
        <p className="py-2">It follows from the marks of the plan and the cables of the circuits.</p>
      )}
      {holds.length > 0 && (
        <p className="mt-2 border-l-4 border-warning bg-base-200 px-3 py-2 font-semibold" data-holds={holds.length}>
          Before anything is closed: {holds.length} to do, first {name(holds[0]?.room ?? "")}: {holds[0]?.what}.
        </p>
      )}
      <nav className="flex flex-wrap gap-2 py-3" aria-label="Parts of the work">
        {PARTS.map(([id, words]) => (
          <NavLink
            key={id}
            className={`btn ${part === id ? "btn-primary" : ""}`}
            to={id === "rooms" ? `/jobs/${job.id}/work` : `/jobs/${job.id}/work/${id}`}
            end
          >
            {words}
          </NavLink>
        ))}
        <span className="grow" />
        {SHEETS.map(([kind, words]) => (
          <MakePdf key={kind} href={`/api/jobs/${job.id}/papers/${kind}.pdf`} words={words} name={kind} />
        ))}
      </nav>
      {part === "days" ? (
        <DaysPart view={view} steps={steps} work={work} name={name} />
      ) : part === "used" ? (
        <UsedPart view={view} work={work} />
      ) : (
        <Rooms steps={steps} work={work} name={name} />
      )}
    </main>
  );
}

interface RoomsProps {
  steps: readonly WorkStep[];
  work: Work;
  name: (room: string) => string;
}

function Rooms({ steps, work, name }: RoomsProps) {
  const rooms = [...new Set(steps.map((each) => each.room))];
  const [at, setAt] = useState<string>();
  const open = rooms.find((room) => steps.some((each) => each.room === room && each.stands.status !== "done"));
  const room = at ?? open ?? rooms[0];
  const here = steps.filter((each) => each.room === room);
  return (
    <>
      <ul className="flex flex-wrap gap-1.5 pb-2 max-md:flex-nowrap max-md:overflow-x-auto" aria-label="Rooms">
        {rooms.map((id) => {
          const mine = steps.filter((each) => each.room === id);
          const undone = mine.filter((each) => each.stands.status !== "done").length;
          return (
            <li key={id}>
              <button
                className={`btn btn-sm min-h-11 whitespace-nowrap ${id === room ? "btn-primary" : ""}`}
                aria-current={id === room ? "true" : undefined}
                data-work-room={id}
                onClick={() => setAt(id)}
              >
                {name(id)} <span className="tabular-nums">{undone === 0 ? "✓" : undone}</span>
              </button>
            </li>
          );
        })}
      </ul>
      {(Object.keys(PHASES) as (keyof typeof PHASES)[]).map((phase) => {
        const lines = here.filter((each) => each.phase === phase);
        if (lines.length === 0) return null;
        return (
          <section key={phase} className="pt-2">
            <h2 className="text-lg font-bold">{PHASES[phase]}</h2>
            <ul>
              {lines.map((step) => (
                <StepLine key={step.key} step={step} work={work} name={name} />
              ))}
            </ul>
          </section>
        );
      })}
    </>
  );
}
