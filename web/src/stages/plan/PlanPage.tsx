import { useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router-dom";
import type { PlacesCommand, PlanView } from "../../api/client";
import { useJob } from "../../data/useJob";
import { usePlan, type PlanWork } from "../../data/usePlan";
import { ConflictNote } from "../../parts/ConflictNote";
import { Opened } from "../../parts/Opened";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { tape } from "./geometry";
import { HouseDrawing } from "./HouseDrawing";
import { titleOf, wantWords } from "./marks";
import { MarkPanel } from "./MarkPanel";
import { RoomDrawing } from "./RoomDrawing";
import { RoomPanel } from "./RoomPanel";
import { SetOutView } from "./SetOutView";
import { TypedLine } from "./TypedLine";
import { WallPanel } from "./WallPanel";

const LINES = [
  "door 838 s left 100 hinge left",
  "window 1200 n left 1500 sill 900",
  "bed 1500 w middle",
  "units 600 600 450 n left 0",
  "socket both sides of bed",
  "switch beside door",
  "socket between window window2",
  "socket over units 2",
  "2 sockets spread e",
  "light ceiling w 1.20 s 0.90",
  "6 spots grid 3x2 400lm 36deg cut 70 clear",
  "3 spots edge units",
  "joists n pitch 400 wide 47 first 120",
  "6 spots, fan, 3 sockets",
  "wall n stud depth 60 plaster 12",
  "wall e is 4.25",
  "wall e moves 0.30 out",
  "wall e against Kitchen w thick 100",
  "ceiling 2.40 lath void 200 insulated",
  "pipe e 1.20 wide 22",
  "lies over Kitchen e 0 n 0",
];

/** The rooms by the tape: typed, drawn to scale, marked by rule, and set out on site. */
export function PlanPage() {
  const job = useJob();
  const work = usePlan(job.id);
  useUndoKeys(work);
  const [search] = useSearchParams();
  const storey = search.get("storey");
  return (
    <Opened query={work.query}>
      {(view) => (
        <main className="grid w-full gap-4 p-3 md:grid-cols-[15rem_minmax(0,1fr)] md:p-4">
          <Rooms view={view} work={work} />
          {storey === null ? <Room view={view} work={work} /> : <HouseDrawing view={view} storeyId={storey || null} />}
        </main>
      )}
    </Opened>
  );
}

interface Here {
  view: PlanView;
  work: PlanWork;
}

/** The rooms on their storeys, each with what is wrong in it; typing one more. */
function Rooms({ view, work }: Here) {
  const { room: at } = useParams();
  const go = useNavigate();
  const { storeys, rooms } = view.places;
  const groups = [...storeys.map((each) => ({ id: each.id, name: each.name })), { id: null, name: "No storey said" }];
  async function type(typed: string): Promise<boolean> {
    const kept = await work.command({ op: "type-room", typed, storey: null });
    const name = typed
      .replace(/\s*[\d.,]+\s*(x|×|by).*$/i, "")
      .trim()
      .toLowerCase();
    const made = kept?.places.rooms.find((room) => room.name.toLowerCase() === name);
    if (made) void go(`/jobs/${view.job_id}/plan/${made.id}`);
    return kept !== undefined;
  }
  return (
    <aside className="min-w-0">
      <TypedLine name="Another room" placeholder="Loft 3.10 x 1.80" onTyped={type} />
      <nav aria-label="Rooms" className="mt-2 flex gap-x-1 overflow-x-auto pb-1 md:block md:overflow-visible md:pb-0">
        {groups.map((storey) => {
          const mine = rooms.filter((room) => room.storey === storey.id);
          if (mine.length === 0) return null;
          return (
            <section key={storey.id ?? ""} className="max-md:contents">
              <h2 className="pt-2 text-sm font-semibold max-md:self-center max-md:pt-0">
                <Link
                  className="link inline-flex min-h-6 items-center max-md:min-h-11 max-md:whitespace-nowrap"
                  to={`/jobs/${view.job_id}/plan?storey=${storey.id ?? ""}`}
                  data-storey={storey.id ?? ""}
                >
                  {storey.name}
                </Link>
              </h2>
              {mine.map((room) => {
                const answer = view.answer.rooms.find((each) => each.room === room.id);
                const wrong = answer?.conflicts.length ?? 0;
                return (
                  <Link
                    key={room.id}
                    to={`/jobs/${view.job_id}/plan/${room.id}`}
                    aria-current={room.id === at ? "page" : undefined}
                    data-room={room.id}
                    className={`flex min-h-9 items-center gap-2 px-2 max-md:min-h-11 max-md:shrink-0 max-md:border max-md:border-base-300 ${room.id === at ? "bg-primary text-primary-content" : "hover:bg-base-200"}`}
                  >
                    <span className="grow font-semibold">{room.name}</span>
                    {wrong > 0 && (
                      <b className="rounded bg-error px-1.5 text-error-content" title={`${String(wrong)} in conflict`}>
                        {wrong}!
                      </b>
                    )}
                    <span className={`tabular-nums ${room.id === at ? "" : "quiet"} text-sm`}>
                      {answer ? `${answer.area_m2.toFixed(1)} m²` : "no measures"}
                    </span>
                  </Link>
                );
              })}
            </section>
          );
        })}
      </nav>
      <Files view={view} work={work} />
    </aside>
  );
}

/** The plan as a table out, and tables of rooms or lamps in. */
function Files({ view, work }: Here) {
  return (
    <p className="flex flex-wrap items-center gap-2 pt-3 max-md:*:not-first:hidden">
      <Link className="btn btn-sm max-md:min-h-11" to={`/jobs/${view.job_id}/work`}>
        Work
      </Link>
      <Link className="btn btn-sm btn-primary" to={`/jobs/${view.job_id}/routes`}>
        Routes
      </Link>
      <Link className="btn btn-sm" to={`/jobs/${view.job_id}/quote`}>
        Quote
      </Link>
      <a className="btn btn-sm" href={`/api/jobs/${view.job_id}/plan.csv`} download>
        CSV
      </a>
      <label className="btn btn-sm focus-within:outline-2">
        Rooms or lamps in
        <input
          className="sr-only"
          type="file"
          name="plan"
          aria-label="Take in a CSV of rooms or lamps"
          accept=".csv,text/csv,text/plain"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            void file?.text().then(work.takeIn);
          }}
        />
      </label>
      {view.places.lamps.length > 0 && (
        <span className="quiet text-sm" data-lamps={view.places.lamps.length}>
          Lamps: {view.places.lamps.map((lamp) => lamp.name.replace(/ /g, "-")).join(", ")}
        </span>
      )}
    </p>
  );
}

function Room({ view, work }: Here) {
  const { room: at, face } = useParams();
  const [picked, setPicked] = useState<string>();
  const [showLight, setShowLight] = useState(false);
  const room = view.places.rooms.find((each) => each.id === at) ?? view.places.rooms.find((each) => each.outline);
  const answer = view.answer.rooms.find((each) => each.room === room?.id);
  const bar = (
    <div className="ml-auto flex flex-wrap items-center gap-2">
      <UndoBar work={work} canUndo={view.can_undo} canRedo={view.can_redo} savedAt={view.changed_at} />
    </div>
  );
  const notes = (
    <>
      <ConflictNote work={work} />
      {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
    </>
  );
  if (!room)
    return (
      <section>
        {notes}
        <p className="text-xl font-semibold">Type the first room as you read it off the tape.</p>
        <p className="quiet">Bedroom 4.20 x 3.60 h 2.40: the first figure runs east, the second north.</p>
      </section>
    );
  if (!room.outline || !answer)
    return (
      <section className="grid content-start gap-3">
        <h1 className="flex flex-wrap items-center gap-3 text-xl font-bold">
          {room.name} {bar}
        </h1>
        {notes}
        <p>It has no measures yet. Four walls, or all of them in their order:</p>
        <TypedLine
          name="Its walls"
          placeholder="4.20 x 3.60 h 2.40, or 4.20 n, 1.10 e, 0.60 s …"
          onTyped={async (typed) => (await work.command({ op: "measure", room: room.id, typed })) !== undefined}
        />
      </section>
    );
  const marks = view.places.marks.filter((mark) => mark.room === room.id);
  const mark = marks.find((each) => each.id === picked);
  const wants = Object.entries(answer.wants);
  return (
    <section className="min-w-0">
      <h1 className="flex flex-wrap items-center gap-x-4 gap-y-1 text-xl font-bold">
        {room.name}
        <span className="text-base font-normal tabular-nums">
          {answer.area_m2.toFixed(1)} m² · {(room.outline.height_mm / 1000).toFixed(2)} m high · {marks.length} marks
        </span>
        <nav aria-label="Plan or set-out" className="flex gap-1">
          <Link className={`btn btn-sm ${face ? "" : "btn-primary"}`} to={`/jobs/${view.job_id}/plan/${room.id}`}>
            Plan
          </Link>
          <Link
            className={`btn btn-sm ${face ? "btn-primary" : ""}`}
            to={`/jobs/${view.job_id}/plan/${room.id}/set-out`}
          >
            Set out
          </Link>
        </nav>
        {bar}
      </h1>
      {notes}
      {face ? (
        <SetOutView jobId={view.job_id} outline={room.outline} room={answer} work={work} />
      ) : (
        <div className="grid gap-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <div className="min-w-0">
            <RoomDrawing
              outline={room.outline}
              room={answer}
              marks={marks}
              picked={picked}
              showLight={showLight}
              onPick={setPicked}
              onPickWall={setPicked}
            />
            <TypedLine
              name="What is in it"
              placeholder={marks.length ? "socket both sides of bed" : "door 838 s left 100 hinge left"}
              offered={LINES}
              onTyped={async (typed) => (await work.command({ op: "line", room: room.id, typed })) !== undefined}
            />
            {answer.light && (
              <p
                className="flex flex-wrap items-center gap-x-4 gap-y-1 pt-2"
                data-light-average={answer.light.average_lx}
              >
                <b className="text-xl tabular-nums">{answer.light.average_lx} lx</b>
                <span>
                  on {answer.light.plane_mm ? `the worktop at ${String(answer.light.plane_mm)} mm` : "the floor"}; least{" "}
                  <b className="tabular-nums">{answer.light.least_lx} lx</b> at {tape(answer.light.least_x)} from the
                  west, {tape(answer.light.least_y)} from the south; uniformity {answer.light.uniformity.toFixed(2)}. A
                  help to choose, on cells of {answer.light.cell_mm} mm; no measurement.
                </span>
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    className="toggle"
                    checked={showLight}
                    onChange={(event) => setShowLight(event.target.checked)}
                  />
                  Show it
                </label>
              </p>
            )}
            {answer.grids.map((grid) => (
              <p key={`${String(grid.columns)}x${String(grid.rows)}`} className="pt-1">
                {grid.columns} × {grid.rows} lamps clear the joists: none moved more than{" "}
                <b className="tabular-nums">{grid.greatest_mm} mm</b>
                {grid.gave_way.length > 0 && `; ${grid.gave_way.join(" and ")} gave way`}.
                {grid.other_mm != null && (
                  <button
                    className="btn btn-sm ml-2"
                    onClick={() => void work.command(regridded(grid, !grid.is_unsymmetric))}
                  >
                    {grid.is_unsymmetric ? "Symmetric instead" : "Not symmetric instead"}: at most {grid.other_mm} mm
                  </button>
                )}
              </p>
            ))}
            <RoomPanel view={view} roomId={room.id} outline={room.outline} work={work} />
            {wants.length > 0 && (
              <p className="pt-1">
                A room like this usually has {wants.map(([kind, count]) => wantWords(kind, count)).join(", ")}.
              </p>
            )}
          </div>
          <div className="min-w-0">
            {picked && (
              <WallPanel
                key={picked}
                view={view}
                roomId={room.id}
                outline={room.outline}
                room={answer}
                wallId={picked}
                work={work}
                onClose={() => setPicked(undefined)}
              />
            )}
            {mark && (
              <MarkPanel
                key={mark.id}
                points={view.points}
                title={titleOf(mark, marks)}
                mark={mark}
                room={answer}
                work={work}
                onClose={() => setPicked(undefined)}
              />
            )}
            <ul aria-label="Marks" data-marks={marks.length}>
              {marks.map((each) => {
                const placed = answer.marks.find((one) => one.mark === each.id);
                const wrong = answer.conflicts.filter((one) => one.mark === each.id);
                const zone = answer.zones.find((one) => one.mark === each.id);
                return (
                  <li key={each.id} className="border-b border-base-300">
                    <button
                      className="w-full cursor-pointer py-1.5 text-left hover:bg-base-200"
                      onClick={() => setPicked(each.id)}
                    >
                      <span className="flex items-baseline gap-2">
                        <b className="grow">{titleOf(each, marks)}</b>
                        <span className="tabular-nums">
                          {placed?.left_mm != null
                            ? `${answer.walls[placed.wall] ?? ""} ${String(placed.left_mm)}`
                            : "ceiling"}
                          {placed?.height_mm != null && placed.left_mm != null && ` ↑ ${String(placed.height_mm)}`}
                        </span>
                      </span>
                      {wrong.map((one) => (
                        <span key={one.why} className="block font-semibold text-error" data-conflict={each.id}>
                          ✕ {one.why}
                        </span>
                      ))}
                      {placed?.departs && <span className="block text-warning">△ {placed.departs}</span>}
                      {zone && zone.zone !== "outside" && <span className="block text-sm">Zone {zone.zone}</span>}
                    </button>
                  </li>
                );
              })}
            </ul>
            {answer.reaches.map((reach) => (
              <p key={reach.kind} className="pt-2">
                {reach.kind.replace("-", " ")}: farthest spot {(reach.farthest_mm / 1000).toFixed(2)} m,{" "}
                {reach.farthest_mm <= reach.most_mm ? "within" : <b className="text-error">beyond</b>}{" "}
                {(reach.most_mm / 1000).toFixed(1)} m
              </p>
            ))}
          </div>
        </div>
      )}
    </section>
  );
}

/** The marks of a grid, with symmetry given up or asked for again. */
function regridded(grid: { columns: number; rows: number }, is_unsymmetric: boolean) {
  return ({ places }: PlanView): PlacesCommand[] =>
    places.marks.flatMap((mark) =>
      mark.rule.rule === "grid" && mark.rule.columns === grid.columns && mark.rule.rows === grid.rows
        ? [{ op: "mark", mark: { ...mark, rule: { ...mark.rule, is_unsymmetric } } }]
        : [],
    );
}
