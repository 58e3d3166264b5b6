import { useRef, type KeyboardEvent, type PointerEvent } from "react";
import type { Circuit, CircuitResult, Leg, Point } from "../api/client";
import { clip, inLines, plain } from "../numbers";
import { Figure } from "../parts/fields";
import type { RunLayout, Spot } from "./layout";
import { RemainsDrawn } from "./RemainsDrawn";
import { PointSymbol } from "./symbols";

export interface Picked {
  kind: "point" | "leg";
  id: string;
}
export type Showing = "lengths" | "current" | "drop" | "zs" | "r1r2" | "margin";
export const SHOWINGS: readonly (readonly [Showing, string])[] = [
  ["lengths", "Lengths"],
  ["current", "Current"],
  ["drop", "Volt drop"],
  ["zs", "Zs"],
  ["r1r2", "R1+R2"],
  ["margin", "Margin"],
];

interface Props {
  circuit: Circuit;
  result: CircuitResult;
  layout: RunLayout;
  picked: Picked;
  moving: string | undefined;
  showing: Showing;
  failing: ReadonlySet<string>;
  lit: ReadonlySet<string>;
  /** What a kind of point is called. */
  kindName: (kind: Point["kind"]) => string;
  onHover: (point: string | undefined) => void;
  onPick: (picked: Picked) => void;
  onMoveInto: (point: string, leg: string) => void;
  onKey: (event: KeyboardEvent) => void;
  onLength: (leg: string, length: number | null) => void;
  onLengthTyping: (leg: string, length: number | null) => void;
}

const DRAG_PX = 12;
const AHEAD_STEP = 128;
const BOARD: Picked = { kind: "point", id: "board" };

/** The run drawn as it goes round the house; lengths live on the legs, names at the points. */
export function RunDrawing(props: Props) {
  const { circuit, result, layout, picked, moving, showing, failing, onPick } = props;
  const points = new Map(circuit.points.map((point) => [point.id, point]));
  // What stands ahead is drawn to the left of the board, outside the run's own picture.
  const left = -circuit.ahead.length * AHEAD_STEP;
  const drag = useRef<{ id: string; x: number; y: number } | null>(null);

  function onPointerUp(event: PointerEvent) {
    const held = drag.current;
    drag.current = null;
    if (!held || Math.hypot(event.clientX - held.x, event.clientY - held.y) < DRAG_PX) return;
    // Pointer capture hides what lies underneath: ask for every element there.
    const leg = document
      .elementsFromPoint(event.clientX, event.clientY)
      .map((each) => each.closest<SVGGElement>("[data-leg]")?.dataset.leg)
      .find((id) => id !== undefined);
    if (leg) props.onMoveInto(held.id, leg);
  }

  return (
    /* eslint-disable jsx-a11y/no-noninteractive-element-interactions, jsx-a11y/no-noninteractive-tabindex --
       an application of its own: it takes the focus and answers to keys, as its label says */
    <div
      className="run h-full overflow-auto py-2 outline-offset-[-3px]"
      tabIndex={0}
      role="application"
      aria-label="The run of the circuit. Arrow keys walk along it."
      data-drawing
      onKeyDown={props.onKey}
    >
      <svg
        viewBox={`${left} 0 ${layout.width - left} ${layout.height}`}
        className="mx-auto block h-full w-full"
        style={{
          minWidth: (layout.width - left) * 0.72,
          minHeight: layout.height * 0.72,
          maxWidth: (layout.width - left) * 1.1,
        }}
        onPointerUp={onPointerUp}
      >
        <WhatIsAhead
          ahead={circuit.ahead}
          board={layout.board}
          failing={failing.has("ahead")}
          onPick={() => onPick(BOARD)}
        />
        {layout.legs.map((line) => {
          const leg = circuit.legs.find((each) => each.id === line.id);
          if (!leg) return null;
          const chosen = picked.kind === "leg" && picked.id === leg.id;
          const figures = result.legs.find((each) => each.leg === leg.id);
          const known = figures?.length_m ?? null;
          const classes = [
            "leg",
            chosen && "picked",
            props.lit.has(leg.id) && "lit",
            failing.has(leg.id) && "failing",
            moving && "target",
            known === null && "unknown",
          ];
          return (
            <g
              key={leg.id}
              data-leg={leg.id}
              className={classes.filter(Boolean).join(" ")}
              onClick={() => {
                if (moving) props.onMoveInto(moving, leg.id);
                else onPick({ kind: "leg", id: leg.id });
              }}
            >
              <path className={`cable ${leg.state === "as-found" ? "found" : ""}`} d={line.path} />
              <path className="grip" d={line.path} />
              {chosen && leg.segments.length === 1 && showing === "lengths" && !moving ? (
                <foreignObject x={line.label.x - 50} y={line.label.y - 22} width="100" height="66">
                  <Figure
                    key={`${leg.id}:${leg.b}`}
                    autoFocus
                    name={`Length of ${leg.id}`}
                    unit="m"
                    className="h-11 w-24 bg-base-100 px-2 text-lg"
                    value={leg.segments[0]?.length_m}
                    onTyping={(length) => props.onLengthTyping(leg.id, length)}
                    onCommit={(length) => props.onLength(leg.id, length)}
                  />
                </foreignObject>
              ) : (
                <LegTag leg={leg} spot={line.label} known={known} figures={figures} showing={showing} />
              )}
              {failing.has(leg.id) && (
                <g transform={`translate(${line.label.x} ${line.label.y - 34})`} aria-label="fails here">
                  <rect x="-12" y="-12" width="24" height="24" rx="3" fill="var(--color-error)" />
                  <path d="M-5 -5L5 5M5 -5L-5 5" stroke="var(--color-error-content)" strokeWidth="3.5" />
                </g>
              )}
            </g>
          );
        })}
        <g
          className={`point board ${picked.id === "board" ? "picked" : ""}`}
          transform={`translate(${layout.board.x} ${layout.board.y})`}
          data-point="board"
          onClick={() => onPick({ kind: "point", id: "board" })}
        >
          <rect className="body" x="-46" y="-34" width="92" height="68" rx="6" />
          <text y="-6" textAnchor="middle" fontSize="15">
            Board
          </text>
          <text y="20" textAnchor="middle" fontSize="22" fontWeight="700">
            {plain(circuit.device.rating_a)} A
          </text>
        </g>
        <RemainsDrawn
          remains={circuit.remains}
          spotOf={(id) => (id === "board" ? layout.board : layout.points.get(id))}
        />
        {[...layout.points].map(([id, spot]) => {
          const point = points.get(id);
          if (!point) return null;
          const chosen = picked.kind === "point" && picked.id === id;
          const classes = ["point", chosen && "picked", failing.has(id) && "failing"];
          return (
            <g
              key={id}
              className={classes.filter(Boolean).join(" ")}
              transform={`translate(${spot.x} ${spot.y})`}
              data-point={id}
              aria-label={`${props.kindName(point.kind)} ${point.name || id}`}
              onClick={() => onPick({ kind: "point", id })}
              onPointerEnter={() => props.onHover(id)}
              onPointerLeave={() => props.onHover(undefined)}
              onPointerDown={(event) => {
                drag.current = { id, x: event.clientX, y: event.clientY };
              }}
            >
              <circle r="30" fill="transparent" />
              <title>{[point.name || id, point.room].filter(Boolean).join(", ")}</title>
              <PointSymbol point={point} />
              <PointLabel point={point} beside={layout.beside.has(id)} leaning={layout.leaves.get(id) === "down"} />
              <PointFigure
                point={point}
                result={result}
                showing={showing}
                beside={layout.beside.has(id)}
                leaning={layout.leaves.get(id) === "up"}
              />
            </g>
          );
        })}
      </svg>
    </div>
  );
}

interface AheadProps {
  ahead: Circuit["ahead"];
  board: Spot;
  failing: boolean;
  onPick: () => void;
}

/** What stands between the origin and the board, origin first: devices as boxes, feeds as lengths on the line. */
function WhatIsAhead({ ahead, board, failing, onPick }: AheadProps) {
  if (ahead.length === 0) return null;
  const start = board.x - 46 - ahead.length * AHEAD_STEP;
  return (
    <g className={`leg ${failing ? "failing" : ""}`} data-ahead-drawn={ahead.length} onClick={onPick}>
      <path className="cable" d={`M${start + 6} ${board.y}H${board.x}`} />
      {ahead.map((item, index) => {
        const device = item.device;
        const words = device ? `${device.curve ?? ""}${plain(device.rating_a)} A` : `${plain(item.length_m)} m`;
        const under = device ? item.name || "device ahead" : item.name || "feed";
        return (
          <g key={index} transform={`translate(${start + (index + 0.5) * AHEAD_STEP} ${board.y})`}>
            <rect
              className={device ? "ahead" : "tag"}
              x="-38"
              y={device ? -20 : -15}
              width="76"
              height={device ? 40 : 30}
              rx="4"
            />
            <text y="6.5" textAnchor="middle" fontSize="18" fontWeight="700">
              {words}
            </text>
            <text y="40" textAnchor="middle" fontSize="13.5" className="small halo">
              {clip(under, 17)}
            </text>
            {item.feed && (
              <text y="57" textAnchor="middle" fontSize="13.5" className="small halo">
                {plain(item.feed.csa_mm2)} mm²
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

function LegTag({
  leg,
  spot,
  known,
  figures,
  showing,
}: {
  leg: Leg;
  spot: Spot;
  known: number | null;
  figures: CircuitResult["legs"][number] | undefined;
  showing: Showing;
}) {
  const shown = figures?.shown;
  const length = known === null ? "? m" : (shown?.length ?? "");
  const words =
    showing === "current" ? (shown?.current ?? "–") : showing === "margin" ? (shown?.margin ?? "–") : length;
  const big = showing === "lengths" || showing === "current" || showing === "margin";
  const width = words.length * 10 + 18;
  return (
    <g transform={`translate(${spot.x} ${spot.y})`} data-length={leg.id}>
      <rect className="tag" x={-width / 2} y="-15" width={width} height="30" rx="4" />
      <text y="6.5" textAnchor="middle" fontSize={big ? 19 : 16} fontWeight={big ? 700 : 400}>
        {words}
      </text>
    </g>
  );
}

const MARGINS = { zs: "Zs", drop: "V" } as const;

/** Where words at a point go: beside it, under it, or to the right of the branch that leaves it on that side. */
function placed(beside: boolean, leaning: boolean) {
  if (beside) return { x: 34, textAnchor: "start" } as const;
  return leaning ? ({ x: 10, textAnchor: "start" } as const) : ({ x: 0, textAnchor: "middle" } as const);
}

function PointLabel({ point, beside, leaning }: { point: Point; beside: boolean; leaning: boolean }) {
  const place = placed(beside, leaning);
  const most = leaning ? 14 : 18;
  const lines = inLines(point.name || point.id, most);
  const top = beside ? 3 : 38;
  return (
    <>
      {lines.map((line, index) => (
        <text key={line} {...place} y={top + 16 * index} fontSize="15" fontWeight="600" className="halo">
          {line}
        </text>
      ))}
      <text {...place} y={top + 16 * lines.length + 1} fontSize="13.5" className="small halo">
        {clip(point.room, most)}
      </text>
    </>
  );
}

interface PointFigureProps {
  point: Point;
  result: CircuitResult;
  showing: Showing;
  beside: boolean;
  leaning: boolean;
}

function PointFigure({ point, result, showing, beside, leaning }: PointFigureProps) {
  const figures = result.points.find((each) => each.point === point.id);
  if (!figures || showing === "lengths") return null;
  const { shown } = figures;
  const words = {
    current: figures.load_a == null ? "" : shown.load,
    drop: shown.drop,
    zs: shown.zs,
    r1r2: shown.r1_plus_r2,
    margin: figures.margin_of ? `${MARGINS[figures.margin_of]} ${shown.margin}` : "–",
  }[showing];
  return (
    <text {...placed(beside, leaning)} y={beside ? -18 : -26} fontSize="20" fontWeight="700" className="halo">
      {words}
    </text>
  );
}
