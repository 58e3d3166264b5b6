import { useState } from "react";
import { asRefused, type PipeLayout, type PlanView } from "../../api/client";
import type { useRoutes } from "../../data/useRoutes";
import { withOrWithout } from "../../lists";
import { RefusalNote } from "../../parts/RefusalNote";
import { titleOf } from "./marks";

const MOST = 16;
const DEPTH = { pass: "✓", fail: "✕", "cannot-tell": "△" } as const;

interface Props {
  view: PlanView;
  routes: ReturnType<typeof useRoutes>;
}

/** Pipes in a slab or a screed: a pipe from the board to each place, laid so that least of them cross. */
export function PipesPart({ view, routes }: Props) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [layout, setLayout] = useState<PipeLayout>();
  const [refused, setRefused] = useState<ReturnType<typeof asRefused>>();
  const marks = view.places.marks.filter((mark) => !mark.is_existing && mark.kind !== "board");
  const named = (id: string) => {
    const mark = marks.find((each) => each.id === id);
    if (!mark) return id;
    const inRoom = view.places.marks.filter((each) => each.room === mark.room);
    return `${view.places.rooms.find((each) => each.id === mark.room)?.name ?? ""} ${titleOf(mark, inRoom)}`;
  };
  if (marks.length === 0) return null;
  const find = async () => {
    setRefused(undefined);
    try {
      setLayout(await routes.pipes([...chosen]));
    } catch (error) {
      setRefused(asRefused(error));
    }
  };
  return (
    <details className="border border-base-300 p-2" data-pipes>
      <summary className="cursor-pointer font-semibold">Pipes in a slab or a screed</summary>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      <div className="grid gap-x-4 pt-2 sm:grid-cols-2 lg:grid-cols-3">
        {marks.map((mark) => (
          <label key={mark.id} className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="checkbox"
              name={`pipe ${mark.id}`}
              checked={chosen.includes(mark.id)}
              disabled={chosen.length >= MOST && !chosen.includes(mark.id)}
              onChange={(event) => {
                setLayout(undefined);
                setChosen(withOrWithout(chosen, mark.id, event.target.checked));
              }}
            />
            {named(mark.id)}
          </label>
        ))}
      </div>
      <p className="pt-2">
        <button className="btn btn-primary" disabled={chosen.length === 0} onClick={() => void find()}>
          Lay {chosen.length || "the"} pipes
        </button>
      </p>
      {layout && <Laid layout={layout} named={named} />}
    </details>
  );
}

function Laid({ layout, named }: { layout: PipeLayout; named: (mark: string) => string }) {
  return (
    <>
      {layout.missing.map((each) => (
        <p key={each} className="font-semibold text-warning">
          △ {each}
        </p>
      ))}
      <p className="flex flex-wrap items-baseline gap-x-4 py-2" data-crossings={layout.crossings.length}>
        <b className="text-xl">
          {layout.crossings.length === 0
            ? "None crosses another"
            : layout.crossings.length === 1
              ? "One crossing"
              : `${String(layout.crossings.length)} crossings`}
        </b>
        <span className="quiet text-sm">{layout.is_proved ? "none crosses less" : "the best that was found"}</span>
        <span className={layout.depth === "fail" ? "font-semibold text-error" : ""}>
          {DEPTH[layout.depth]}{" "}
          {layout.wanted_mm == null
            ? "a pipe has no size"
            : layout.screed_mm == null
              ? `${String(layout.wanted_mm)} mm of screed wanted: say how much there is`
              : `${String(layout.wanted_mm)} mm of screed wanted, ${String(layout.screed_mm)} mm there`}
        </span>
        <span>
          {layout.spares} empty {layout.spares === 1 ? "pipe" : "pipes"} to the next storey besides
        </span>
      </p>
      {layout.crossings.map((each) => (
        <p key={`${each.one}/${each.other}`} className={each.is_main ? "font-semibold text-error" : "text-warning"}>
          {named(each.one)} crosses {named(each.other)}
          {each.is_main && ": main runs must not"}
        </p>
      ))}
      <div className="grid gap-4 overflow-x-auto">
        <Drawing layout={layout} />
        <table className="table w-full">
          <thead>
            <tr>
              <th>At the board, from the left</th>
              <th>To</th>
              <th>Drawn in</th>
              <th className="text-right">Pipe</th>
              <th className="text-right">m</th>
            </tr>
          </thead>
          <tbody>
            {layout.pipes.map((pipe) => (
              <tr key={pipe.mark} data-pipe={pipe.mark}>
                <td className="tabular-nums">
                  {pipe.slot + 1}
                  {pipe.circuits.length > 0 && `, circuit ${pipe.circuits.join(", ")}`}
                  {pipe.is_heavy && ", its own"}
                </td>
                <td className="font-semibold">{named(pipe.mark)}</td>
                <td>{pipe.drawn_in}</td>
                <td className="text-right whitespace-nowrap tabular-nums">
                  {pipe.size_mm == null ? (
                    <span className="text-warning">none takes it</span>
                  ) : (
                    <>
                      <b>{pipe.size_mm} mm</b>
                      <span className="quiet block text-sm">
                        {pipe.fill_percent} % of {pipe.most_percent} %
                      </span>
                    </>
                  )}
                </td>
                <td className="text-right tabular-nums">
                  {(pipe.mm / 1000).toFixed(1)}
                  <span className="quiet block text-sm">
                    {pipe.bends} bends{pipe.draw_boxes > 0 && `, ${String(pipe.draw_boxes)} boxes`}
                  </span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** The slab from above, north up: each pipe from the board to its place. */
function Drawing({ layout }: { layout: PipeLayout }) {
  const spots = layout.pipes.flatMap((pipe) => pipe.corners);
  if (spots.length === 0) return null;
  const xs = spots.map((spot) => spot.x);
  const ys = spots.map((spot) => spot.y);
  const [west, east] = [Math.min(...xs), Math.max(...xs)];
  const [south, north] = [Math.min(...ys), Math.max(...ys)];
  const unit = Math.max(east - west, north - south, 1000) / 60;
  return (
    <svg
      viewBox={`${String(west - 3 * unit)} ${String(-north - 3 * unit)} ${String(east - west + 6 * unit)} ${String(north - south + 6 * unit)}`}
      className="max-h-[50dvh] w-full border border-base-300"
      role="img"
      aria-label="The pipes from above"
      fontSize={2 * unit}
    >
      {layout.pipes[0]?.corners[0] && (
        <rect
          x={layout.pipes[0].corners[0].x - unit}
          y={-layout.pipes[0].corners[0].y - unit}
          width={2 * unit}
          height={2 * unit}
          className="fill-base-300 stroke-base-content"
          strokeWidth={unit / 5}
        />
      )}
      {layout.pipes.map((pipe) => {
        const end = pipe.corners.at(-1);
        return (
          <g key={pipe.mark}>
            <polyline
              points={pipe.corners.map((spot) => `${String(spot.x)},${String(-spot.y)}`).join(" ")}
              fill="none"
              className={pipe.is_heavy ? "stroke-accent" : "stroke-base-content"}
              strokeWidth={unit / (pipe.is_heavy ? 2 : 4)}
            />
            {end && (
              <text x={end.x + unit / 2} y={-end.y - unit / 2} className="fill-base-content">
                {pipe.slot + 1}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}
