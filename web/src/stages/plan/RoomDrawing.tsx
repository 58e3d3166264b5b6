import type { Mark, Opening, Outline, RoomPlan } from "../../api/client";
import { boxOf, frameOf, middleOf, onWall, points, stepsOf, tape, type Spot } from "./geometry";
import { shapeOf, titleOf } from "./marks";

interface Props {
  outline: Outline;
  room: RoomPlan;
  marks: readonly Mark[];
  picked: string | undefined;
  showLight: boolean;
  onPick: (mark: string) => void;
  onPickWall: (wall: string) => void;
}

/** A room from above, north up and to scale: its walls with their names and lengths, what stands there, the marks. */
export function RoomDrawing({ outline, room, marks, picked, showLight, onPick, onPickWall }: Props) {
  const frame = frameOf(room.corners, leavesOut(outline, room));
  const { unit } = frame;
  const wrong = new Set(room.conflicts.map((each) => each.mark));
  return (
    <svg
      viewBox={`${String(frame.x)} ${String(frame.y)} ${String(frame.wide)} ${String(frame.deep)}`}
      className="max-h-[62dvh] w-full"
      role="group"
      aria-label="The room from above, north up"
      fontSize={unit}
    >
      <polygon points={points(room.corners)} className="fill-base-200 stroke-base-content" strokeWidth={unit / 3} />
      {outline.things.map((thing) => (
        <polygon
          key={thing.id}
          points={points(room.parts.find((each) => each.id === thing.id)?.corners ?? [])}
          className={`fill-base-300 stroke-base-content/60 ${thing.fate === "remove" ? "opacity-40" : ""}`}
          strokeWidth={unit / 10}
          strokeDasharray={thing.fate === "remove" ? String(unit / 2) : undefined}
        />
      ))}
      {showLight && room.light && <LightDrawn room={room} light={room.light} />}
      {outline.joists && <JoistsDrawn outline={outline} joists={outline.joists} room={room} unit={unit} />}
      <AboveDrawn outline={outline} room={room} unit={unit} />
      {outline.openings.map((opening) => (
        <OpeningDrawn key={opening.id} opening={opening} outline={outline} room={room} unit={unit} />
      ))}
      {outline.things.map((thing) => {
        const drawn = room.parts.find((each) => each.id === thing.id);
        // What hangs over something else would be written over its name.
        const hangs = thing.kind === "extraction" || thing.kind === "wall-units";
        if (!drawn || drawn.corners.length === 0 || hangs) return null;
        // What is too thin for its name has it in front.
        const isThin = thing.depth_mm < unit * 1.4;
        const middle = middleOf(isThin ? drawn.corners.slice(2) : drawn.corners);
        const wall = outline.walls.find((each) => each.id === thing.wall);
        const out = wall && isThin ? stepsOf(wall.heading).inward : { x: 0, y: 0 };
        return (
          <text
            key={thing.id}
            x={middle.x + out.x * unit}
            y={-middle.y - out.y * unit}
            textAnchor="middle"
            dominantBaseline="middle"
            className="fill-base-content"
          >
            {thing.name || thing.id}
          </text>
        );
      })}
      {outline.walls.map((wall) => {
        const at = onWall(outline, room, wall.id, wall.length_mm / 2, -unit * 1.9);
        const isUpright = wall.heading === 0 || wall.heading === 180;
        return (
          <text
            key={wall.id}
            role="button"
            tabIndex={0}
            aria-label={`${room.walls[wall.id] ?? ""} ${tape(wall.length_mm)}: the wall`}
            data-wall={room.walls[wall.id]}
            onClick={() => onPickWall(wall.id)}
            onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onPickWall(wall.id)}
            x={at.x}
            y={-at.y}
            textAnchor="middle"
            dominantBaseline="middle"
            transform={isUpright ? `rotate(-90 ${String(at.x)} ${String(-at.y)})` : undefined}
            className={`cursor-pointer fill-base-content ${picked === wall.id ? "underline" : ""}`}
          >
            <tspan fontWeight="700">{room.walls[wall.id]}</tspan> {tape(wall.length_mm)}
          </text>
        );
      })}
      {marks.map((mark) => {
        const placed = room.marks.find((each) => each.mark === mark.id);
        if (placed?.x == null || placed.y == null) return null;
        const wall = outline.walls.find((each) => each.id === placed.wall);
        const out = wall ? stepsOf(wall.heading).inward : { x: 0, y: 0 };
        const spot = { x: placed.x + out.x * unit, y: placed.y + out.y * unit };
        const shape = shapeOf(mark.kind);
        return (
          <g
            key={mark.id}
            role="button"
            tabIndex={0}
            aria-label={`${titleOf(mark, marks)}${wrong.has(mark.id) ? ", in conflict" : ""}`}
            aria-pressed={picked === mark.id}
            data-mark={mark.id}
            transform={`translate(${String(Math.round(spot.x))} ${String(Math.round(-spot.y))})`}
            className={`cursor-pointer ${wrong.has(mark.id) ? "text-error" : "text-accent"} ${mark.fate === "remove" ? "opacity-40" : ""}`}
            onClick={() => onPick(mark.id)}
            onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onPick(mark.id)}
          >
            {picked === mark.id && (
              <circle r={unit * 1.35} className="fill-none stroke-base-content" strokeWidth={unit / 6} />
            )}
            <path
              d={shape.path}
              transform={`scale(${String(unit * 0.85)})`}
              className={mark.is_existing ? "fill-base-100" : "fill-current"}
              stroke="currentColor"
              strokeWidth={0.18}
            />
            <text
              textAnchor="middle"
              dominantBaseline="central"
              fontSize={unit * 0.85}
              fontWeight="700"
              className={mark.is_existing ? "fill-current" : "fill-base-100"}
            >
              {wrong.has(mark.id) ? "!" : shape.letter}
            </text>
          </g>
        );
      })}
    </svg>
  );
}

/** The ends of leaves that open out of the room. */
function leavesOut(outline: Outline, room: RoomPlan): Spot[] {
  return outline.openings.flatMap((opening) => {
    const drawn = room.parts.find((each) => each.id === opening.id);
    if (!drawn || opening.kind !== "door" || !opening.hinge || opening.opens !== "out") return [];
    const hinge = opening.hinge === "right" ? drawn.right_mm : drawn.left_mm;
    return [onWall(outline, room, opening.wall, hinge, -opening.width_mm)];
  });
}

/** Pipes, ducts and beams over the ceiling, named. */
function AboveDrawn({ outline, room, unit }: { outline: Outline; room: RoomPlan; unit: number }) {
  const { left, low, wide, deep } = boxOf(room.corners);
  return (
    <g className="fill-info/40 stroke-base-content/60" strokeWidth={unit / 20}>
      {outline.above.map((each) =>
        each.runs === "n" ? (
          <rect key={each.id} x={left + each.at_mm} y={-(low + deep)} width={each.width_mm} height={deep}>
            <title>{each.id}</title>
          </rect>
        ) : (
          <rect key={each.id} x={left} y={-(low + each.at_mm + each.width_mm)} width={wide} height={each.width_mm}>
            <title>{each.id}</title>
          </rect>
        ),
      )}
    </g>
  );
}

interface OpeningProps {
  opening: Opening;
  outline: Outline;
  room: RoomPlan;
  unit: number;
}

/** A gap in the wall; a window's pane across it, a door's leaf open with the way it swings. */
function OpeningDrawn({ opening, outline, room, unit }: OpeningProps) {
  const drawn = room.parts.find((each) => each.id === opening.id);
  if (!drawn) return null;
  const at = (mm: number, out = 0) => onWall(outline, room, opening.wall, mm, out);
  const [left, right] = [at(drawn.left_mm), at(drawn.right_mm)];
  const line = (a: Spot, b: Spot, width: number, className: string) => (
    <line x1={a.x} y1={-a.y} x2={b.x} y2={-b.y} strokeWidth={width} className={className} />
  );
  const hinge = opening.hinge === "right" ? drawn.right_mm : drawn.left_mm;
  const edge = opening.hinge === "right" ? drawn.left_mm : drawn.right_mm;
  const out = opening.opens === "in" ? opening.width_mm : -opening.width_mm;
  return (
    <g data-opening={opening.id}>
      {line(left, right, unit / 2, "stroke-base-100")}
      {opening.kind === "window" && line(left, right, unit / 7, "stroke-base-content")}
      {opening.kind === "door" && opening.hinge && (
        <>
          {line(at(hinge), at(hinge, out), unit / 7, "stroke-base-content")}
          {line(at(hinge, out), at(edge), unit / 14, "stroke-base-content/50")}
        </>
      )}
    </g>
  );
}

/** The light on its plane, cell by cell: the darker, the less; the least is named beside the drawing. */
function LightDrawn({ room, light }: { room: RoomPlan; light: NonNullable<RoomPlan["light"]> }) {
  const { left, low, wide, deep } = boxOf(room.corners);
  const cell = { x: wide / (light.rows[0]?.length ?? 1), y: deep / light.rows.length };
  return (
    <g data-light>
      {light.rows.flatMap((row, up) =>
        row.map((part, across) =>
          part === null ? null : (
            <rect
              key={`${String(across)}-${String(up)}`}
              x={left + cell.x * across}
              y={-(low + cell.y * (up + 1))}
              width={cell.x}
              height={cell.y}
              className="fill-neutral"
              opacity={0.55 * (1 - part / 9)}
            />
          ),
        ),
      )}
    </g>
  );
}

interface JoistsProps {
  outline: Outline;
  joists: NonNullable<Outline["joists"]>;
  room: RoomPlan;
  unit: number;
}

/** Where joists lie over the room, from the first one that a trial hole found. */
function JoistsDrawn({ joists, room, unit }: JoistsProps) {
  const { left, low, wide, deep } = boxOf(room.corners);
  const span = joists.runs === "n" ? wide : deep;
  const edges: number[] = [];
  for (let edge = joists.first_mm % joists.pitch_mm; edge < span; edge += joists.pitch_mm) edges.push(edge);
  const width = joists.width_mm;
  return (
    <g className="fill-base-content/10 stroke-base-content/50" strokeWidth={unit / 20} strokeDasharray={unit / 2}>
      {edges.map((edge) =>
        joists.runs === "n" ? (
          <rect key={edge} x={left + edge} y={-(low + deep)} width={width} height={deep} />
        ) : (
          <rect key={edge} x={left} y={-(low + edge + width)} width={wide} height={width} />
        ),
      )}
    </g>
  );
}
