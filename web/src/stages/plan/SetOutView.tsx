import { useState } from "react";
import type { Outline, RoomPlan, SetOut } from "../../api/client";
import type { PlanWork } from "../../data/usePlan";
import { Labelled } from "../../parts/fields";
import { MakePdf } from "../../parts/MakePdf";
import { kindWords } from "./marks";

interface Props {
  jobId: string;
  outline: Outline;
  room: RoomPlan;
  work: PlanWork;
}

/** Wall by wall and the ceiling: running dimensions from the left, heights from the floor, ticked as they are made. */
export function SetOutView({ jobId, outline, room, work }: Props) {
  if (room.set_out.length === 0) return <p className="py-4">Nothing is marked in this room yet.</p>;
  return (
    <div className="grid gap-6 pt-2">
      <p className="flex flex-wrap items-center gap-3">
        <MakePdf href={`/api/jobs/${jobId}/papers/set-out.pdf`} words="PDF of all rooms" name="set-out" />
        <a className="btn" href={`/api/jobs/${jobId}/papers/set-out.csv`} download>
          CSV
        </a>
      </p>
      {room.set_out.map((face) => (
        <section key={face.face} data-face={face.called}>
          <h2 className="flex flex-wrap items-center gap-3 text-lg font-bold">
            {face.face === "ceiling"
              ? "Ceiling, from the west and the south"
              : `Wall ${face.called}, from its left end`}
            <a className="btn btn-sm" href={`/api/jobs/${jobId}/plan/${room.room}/${face.face}.svg`} download>
              SVG
            </a>
          </h2>
          <div className="grid gap-x-6 lg:grid-cols-2">
            <Elevation face={face} outline={outline} room={room} />
            <ol>
              {face.marks.map((mark, index) => (
                <Line key={mark.mark} number={index + 1} mark={mark} work={work} />
              ))}
            </ol>
          </div>
        </section>
      ))}
    </div>
  );
}

/** A wall as one faces it, or the ceiling from above; every figure from the same end. */
function Elevation({ face, outline, room }: { face: SetOut; outline: Outline; room: RoomPlan }) {
  const unit = Math.max(face.width_mm, face.height_mm * 1.6) / 34;
  const floor = face.height_mm;
  const isWall = face.face !== "ceiling";
  const openings = isWall ? outline.openings.filter((each) => each.wall === face.face) : [];
  return (
    <svg
      viewBox={`${String(-unit * 2)} ${String(-unit * 2)} ${String(face.width_mm + unit * 4)} ${String(floor + unit * (3 + 1.3 * face.marks.length))}`}
      className="max-h-[44dvh] w-full"
      role="img"
      aria-label={isWall ? `Wall ${face.called} as one faces it` : "The ceiling from above"}
      fontSize={unit}
    >
      <rect width={face.width_mm} height={floor} className="fill-base-200 stroke-base-content" strokeWidth={unit / 6} />
      {openings.map((opening) => {
        const drawn = room.parts.find((each) => each.id === opening.id);
        if (!drawn) return null;
        return (
          <rect
            key={opening.id}
            x={drawn.left_mm}
            y={floor - opening.head_mm}
            width={drawn.right_mm - drawn.left_mm}
            height={opening.head_mm - opening.sill_mm}
            className="fill-base-100 stroke-base-content/60"
            strokeWidth={unit / 10}
          />
        );
      })}
      {isWall &&
        outline.things
          .filter((each) => each.wall === face.face && each.fate !== "remove")
          .map((thing) => {
            const drawn = room.parts.find((each) => each.id === thing.id);
            if (!drawn) return null;
            return (
              <rect
                key={thing.id}
                x={drawn.left_mm}
                y={floor - thing.bottom_mm - thing.height_mm}
                width={drawn.right_mm - drawn.left_mm}
                height={thing.height_mm}
                className="fill-base-300 stroke-base-content/60"
                strokeWidth={unit / 12}
                opacity={0.7}
              >
                <title>{thing.name || thing.id}</title>
              </rect>
            );
          })}
      {face.marks.map((mark, index) => {
        const y = floor - (mark.up_mm ?? 0);
        const line = floor + unit * (1.6 + 1.3 * index);
        return (
          <g key={mark.mark} className={mark.goes ? "opacity-40" : ""}>
            <line
              x1={mark.across_mm}
              x2={mark.across_mm}
              y1={y}
              y2={line}
              className="stroke-base-content/40"
              strokeWidth={unit / 14}
            />
            <rect
              x={mark.left_edge_mm}
              y={y - mark.height_mm / 2}
              width={mark.right_edge_mm - mark.left_edge_mm}
              height={mark.height_mm}
              className={mark.is_existing ? "fill-none stroke-base-content" : "fill-accent stroke-accent"}
              strokeWidth={unit / 10}
            />
            <text x={0} y={line} dominantBaseline="middle" className="fill-base-content">
              {index + 1}
            </text>
            {isWall && (
              <text
                x={mark.across_mm}
                y={y - mark.height_mm / 2 - unit * 0.4}
                textAnchor="middle"
                className="fill-base-content"
                fontWeight="700"
              >
                {mark.up_mm ?? "?"}
              </text>
            )}
            <line
              x1={unit * 1.4}
              x2={mark.across_mm}
              y1={line}
              y2={line}
              className="stroke-base-content"
              strokeWidth={unit / 12}
            />
            <text
              x={Math.min(mark.across_mm + unit / 3, face.width_mm - unit * 2)}
              y={line}
              dominantBaseline="middle"
              fontWeight="700"
              className="fill-base-content"
            >
              {mark.across_mm}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

function Line({ number, mark, work }: { number: number; mark: SetOut["marks"][number]; work: PlanWork }) {
  const [open, setOpen] = useState(false);
  const [right, setRight] = useState("0");
  const [up, setUp] = useState("0");
  const [why, setWhy] = useState("");
  // What waits for a signal counts as done here; the last that was said of it.
  const waits = work.ticking.findLast((each) => each.tick.mark === mark.mark);
  const isMade = waits?.tick.is_made ?? mark.is_made;
  const figure = (text: string) => (/^-?\d{1,5}$/.test(text.trim()) ? Number(text) : 0);
  return (
    <li
      className="border-b border-base-300 py-1"
      data-set-out={mark.mark}
      data-made={isMade}
      data-waiting={waits !== undefined}
    >
      <div className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="checkbox"
          aria-label={`${mark.name || mark.mark} is marked`}
          checked={isMade}
          onChange={(event) => work.tick({ op: "tick", mark: mark.mark, is_made: event.target.checked, why: "" })}
        />
        <span className="w-5 text-right tabular-nums">{number}</span>
        <span className="grow">
          <b>{mark.name || kindWords(mark.kind as Parameters<typeof kindWords>[0])}</b>{" "}
          <span className="quiet text-sm">
            {mark.width_mm} × {mark.height_mm}, {mark.depth_mm} deep
            {mark.entry && `, cable in at the ${mark.entry}`}
            {mark.is_existing && ", there already"}
            {mark.goes && ", goes"}
          </span>
        </span>
        <span className="text-xl font-bold whitespace-nowrap tabular-nums">→ {mark.across_mm}</span>
        {mark.up_mm !== null && (
          <span className="text-xl font-bold whitespace-nowrap tabular-nums">↑ {mark.up_mm}</span>
        )}
        <button className="btn btn-sm" onClick={() => setOpen(!open)}>
          Could not
        </button>
      </div>
      {waits && <p className="text-sm">{waits.trouble ?? "Kept on this device: it is sent when there is a signal."}</p>}
      {mark.moved && <p className="font-semibold text-warning">Moved {mark.moved}</p>}
      {open && (
        <form
          className="flex flex-wrap items-end gap-2 pb-2"
          onSubmit={(event) => {
            event.preventDefault();
            const moved = { right_mm: figure(right), up_mm: figure(up) };
            work.tick({ op: "tick", mark: mark.mark, is_made: true, moved, why });
            setOpen(false);
          }}
        >
          <Labelled label="Right, mm">
            <input
              className="input w-24"
              name="Right"
              inputMode="numeric"
              value={right}
              onChange={(event) => setRight(event.target.value)}
            />
          </Labelled>
          <Labelled label="Up, mm">
            <input
              className="input w-24"
              name="Up"
              inputMode="numeric"
              value={up}
              onChange={(event) => setUp(event.target.value)}
            />
          </Labelled>
          <Labelled label="Why">
            <input
              className="input w-48"
              name="Why moved"
              value={why}
              maxLength={80}
              onChange={(event) => setWhy(event.target.value)}
            />
          </Labelled>
          <button className="btn btn-primary" disabled={!why.trim()}>
            Moved by that
          </button>
        </form>
      )}
    </li>
  );
}
