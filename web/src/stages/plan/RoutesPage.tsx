import { useState } from "react";
import { Link, useSearchParams } from "react-router-dom";
import { asRefused, type LegRoute, type PlanView, type RouteRules, type RoutesView } from "../../api/client";
import { useJob } from "../../data/useJob";
import { usePlan, type PlanWork } from "../../data/usePlan";
import { useRoutes } from "../../data/useRoutes";
import { Choice } from "../../parts/fields";
import { Opened } from "../../parts/Opened";
import { ConflictNote } from "../../parts/ConflictNote";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { PipesPart } from "./PipesPart";
import { RouteDrawing } from "./RouteDrawing";
import { changingWays } from "./changing";
import { titleOf } from "./marks";
import { RunFinder } from "./RunFinder";
import { WaysPanel } from "./WaysPanel";

/** The ways that cables take: leg by leg as they would be laid, beside what is drawn; best orders of new runs. */
export function RoutesPage() {
  const job = useJob();
  const work = usePlan(job.id);
  return <Opened query={work.query}>{(view) => <Ways view={view} work={work} />}</Opened>;
}

function Ways({ view, work }: { view: PlanView; work: PlanWork }) {
  const job = useJob();
  const routes = useRoutes(job.id, view.version);
  const [search, setSearch] = useSearchParams();
  const [picked, setPicked] = useState<string>();
  const [refused, setRefused] = useState<ReturnType<typeof asRefused>>();
  return (
    <Opened query={routes.query}>
      {({ answer }) => {
        const circuits = job.circuits.map((line) => {
          const legs = answer.legs.filter((leg) => leg.circuit === line.id.replaceAll("-", ""));
          return { line, legs, ways: legs.filter((leg) => leg.pieces.length > 0) };
        });
        const here =
          circuits.find((each) => each.line.id === search.get("circuit")) ??
          circuits.find((each) => each.ways.length > 0) ??
          circuits[0];
        return (
          <main className="grid w-full gap-4 p-3 md:grid-cols-[17rem_minmax(0,1fr)] md:p-4">
            <aside className="min-w-0">
              <h1 className="text-xl font-bold">Routes</h1>
              <p className="flex gap-4 text-sm">
                <Link className="link" to={`/jobs/${job.id}/plan`}>
                  Back to the plan
                </Link>
                <Link className="link" to={`/jobs/${job.id}/quote`}>
                  Take-off, quote
                </Link>
              </p>
              <ul className="pt-2" aria-label="Circuits">
                {circuits.map(({ line, legs, ways }) => (
                  <li key={line.id}>
                    <button
                      className={`flex w-full min-h-11 cursor-pointer items-center gap-2 px-2 text-left ${line.id === here?.line.id ? "bg-primary text-primary-content" : "hover:bg-base-200"}`}
                      aria-current={line.id === here?.line.id ? "true" : undefined}
                      data-route-circuit={line.number}
                      onClick={() => {
                        setPicked(undefined);
                        setSearch({ circuit: line.id });
                      }}
                    >
                      <span className="w-6 text-right tabular-nums">{line.number}</span>
                      <span className="grow font-semibold">{line.name}</span>
                      <span className="text-sm whitespace-nowrap tabular-nums">
                        {ways.length === legs.length ? `${metres(sum(ways))} m` : `${ways.length} of ${legs.length}`}
                      </span>
                    </button>
                  </li>
                ))}
              </ul>
            </aside>
            <section className="grid min-w-0 content-start gap-3">
              <ConflictNote work={work} />
              {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
              {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
              <div className="flex flex-wrap items-center gap-3">
                {here && (
                  <>
                    <h2 className="text-xl font-bold">
                      {here.line.number} {here.line.name}
                    </h2>
                    <b className="text-xl tabular-nums" data-routed-m={metres(sum(here.ways))}>
                      {metres(sum(here.ways))} m
                    </b>
                    <button
                      className="btn btn-primary"
                      data-take
                      disabled={here.ways.length === 0}
                      onClick={() => {
                        setRefused(undefined);
                        routes.take(here.line.id).catch((error: unknown) => setRefused(asRefused(error)));
                      }}
                    >
                      Take these lengths
                    </button>
                    <Link className="btn" to={`/jobs/${job.id}/circuits/${here.line.id}`}>
                      The circuit
                    </Link>
                  </>
                )}
                <span className="ml-auto">
                  <UndoBar work={work} canUndo={view.can_undo} canRedo={view.can_redo} savedAt={view.changed_at} />
                </span>
              </div>
              {answer.missing.map((each) => (
                <p key={each} className="font-semibold text-warning">
                  △ {each}
                </p>
              ))}
              <Bearing bears={answer.bears} keeps={answer.keeps} />
              {here && (
                <div className="grid gap-4 xl:grid-cols-[minmax(0,1fr)_24rem]">
                  <RouteDrawing view={view} legs={here.ways} picked={picked} onPick={setPicked} />
                  <Legs view={view} work={work} legs={here.legs} picked={picked} onPick={setPicked} />
                </div>
              )}
              <RunFinder view={view} routes={routes} />
              <PipesPart view={view} routes={routes} />
              <WaysPanel view={view} work={work} />
              <p className="quiet text-sm">
                Ways keep to safe zones: upright and level from each place, beside corners, under the ceiling; joists
                are drilled in the middle, a quarter to two fifths of their span from an end. Lengths are reckoned from
                the plan; a length that was measured on site stays.
              </p>
            </section>
          </main>
        );
      }}
    </Opened>
  );
}

/** What joists and walls do not bear and what cable comes too near to, then what is not known; the rest on demand. */
function Bearing({ bears, keeps }: Pick<RoutesView["answer"], "bears" | "keeps">) {
  const fails = bears.filter((each) => each.verdict === "fail");
  const open = bears.filter((each) => each.verdict === "cannot-tell");
  const near = keeps.filter((each) => each.verdict === "fail");
  const rest = [...bears, ...keeps].filter((each) => each.verdict !== "fail");
  if (bears.length === 0 && near.length + rest.length === 0) return null;
  return (
    <div>
      {[...fails, ...near].map((each) => (
        <p key={each.told} className="font-semibold text-error" data-bears="fail">
          ✕ {each.told}
        </p>
      ))}
      <details>
        <summary className="min-h-11 cursor-pointer py-2">
          Joists and walls: {bears.length - fails.length - open.length} bear what is cut
          {open.length > 0 && `, ${String(open.length)} not known`}
        </summary>
        <ul className="text-sm">
          {rest.map((each) => (
            <li key={each.told} data-bears={each.verdict}>
              {each.verdict === "pass" ? "✓" : "△"} {each.told}
            </li>
          ))}
        </ul>
      </details>
    </div>
  );
}

const WITHIN = { wall: "in a wall of", over: "over", under: "under", outside: "outside" } as const;

interface LegsProps {
  view: PlanView;
  work: PlanWork;
  legs: readonly LegRoute[];
  picked: string | undefined;
  onPick: (leg: string) => void;
}

/** Each leg with its way's length beside what is drawn, and what it meets. */
function Legs({ view, work, legs, picked, onPick }: LegsProps) {
  return (
    <ul aria-label="Legs">
      {legs.map((leg) => {
        const holes = leg.pieces.reduce((all, each) => all + each.joist_holes, 0);
        const shared = Math.max(1, ...leg.pieces.map((each) => each.grouped));
        return (
          <li key={leg.leg} className="border-b border-base-300" data-leg-route={leg.leg}>
            <button
              className={`w-full cursor-pointer px-2 py-1.5 text-left hover:bg-base-200 ${picked === leg.leg ? "bg-base-200" : ""}`}
              onClick={() => onPick(leg.leg)}
            >
              <span className="flex items-baseline gap-3">
                <b className="grow">
                  {leg.a} – {leg.b}
                </b>
                {leg.why_not ? (
                  <span className="text-warning">△ {leg.why_not}</span>
                ) : (
                  <b className="text-lg tabular-nums">{metres(leg.way_mm + leg.slack_mm)} m</b>
                )}
              </span>
              {!leg.why_not && (
                <span className={`block text-sm ${leg.differs ? "font-semibold text-warning" : "quiet"}`}>
                  {leg.differs && "△ "}
                  {leg.drawn_m == null ? "no length drawn" : `drawn ${leg.drawn_m.toFixed(1)} m`}
                  {leg.is_taped && ", measured on site"}
                  {holes > 0 && ` · ${String(holes)} ${holes === 1 ? "joist" : "joists"} drilled`}
                  {shared > 1 &&
                    ` · beside ${String(shared - 1)} ${shared === 2 ? "circuit" : "circuits"} more at most`}
                </span>
              )}
            </button>
            {picked === leg.leg && <GoesBy view={view} work={work} leg={leg} />}
            {picked === leg.leg && (
              <ol className="px-2 pb-2 text-sm">
                {leg.pieces.map((piece, at) => (
                  <li key={at} className="flex gap-2">
                    <span className="w-14 shrink-0 text-right tabular-nums">{metres(piece.mm)} m</span>
                    <span>
                      {WITHIN[piece.within]} {view.places.rooms.find((room) => room.id === piece.room)?.name}, method{" "}
                      {piece.method}
                      {piece.grouped > 1 && `, ${String(piece.grouped)} circuits`}
                    </span>
                  </li>
                ))}
              </ol>
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** By which place a leg goes, whatever that costs: the way a person wants it to take. */
function GoesBy({ view, work, leg }: { view: PlanView; work: PlanWork; leg: LegRoute }) {
  const { ways, marks, rooms } = view.places;
  const isIts = (each: { circuit: string; leg: string }) => each.circuit === leg.circuit && each.leg === leg.leg;
  const named = (mark: (typeof marks)[number]) => {
    const inRoom = marks.filter((each) => each.room === mark.room);
    return `${rooms.find((room) => room.id === mark.room)?.name ?? ""} ${titleOf(mark, inRoom)}`;
  };
  return (
    <div className="px-2 pb-2">
      <Choice
        name={`${leg.leg} goes by`}
        caption="goes by"
        blank="whichever way is least"
        value={ways.forced.find(isIts)?.by ?? ""}
        options={marks.map((mark) => [mark.id, named(mark)] as const)}
        onCommit={(by) => {
          const its = by ? [{ circuit: leg.circuit, leg: leg.leg, by }] : [];
          const change = ({ forced }: RouteRules) => ({ forced: [...forced.filter((each) => !isIts(each)), ...its] });
          void work.command(changingWays(change));
        }}
      />
    </div>
  );
}

function sum(legs: readonly LegRoute[]): number {
  return legs.reduce((all, each) => all + each.way_mm + each.slack_mm, 0);
}

function metres(mm: number): string {
  return (mm / 1000).toFixed(1);
}
