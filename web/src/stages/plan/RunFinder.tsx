import { useState } from "react";
import { useNavigate } from "react-router-dom";
import { asRefused, type CircuitView, type Laid, type LegBreaks, type PlanView, type RunOrder } from "../../api/client";
import { useChoices } from "../../data/useChoices";
import { useJob } from "../../data/useJob";
import type { useRoutes } from "../../data/useRoutes";
import { withOrWithout } from "../../lists";
import { Choice } from "../../parts/fields";
import { RefusalNote } from "../../parts/RefusalNote";
import { titleOf } from "./marks";

const SHAPES = { ring: "Ring", radial: "One radial", "two-radials": "Two radials" } as const;
const NO_POINTS = new Set(["data", "thermostat", "board"]);

/** A run through marks that are of no circuit yet: which order takes least, as a ring or radials, and laying it. */
export function RunFinder({ view, routes }: { view: PlanView; routes: ReturnType<typeof useRoutes> }) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [orders, setOrders] = useState<readonly RunOrder[]>();
  const [breaks, setBreaks] = useState<readonly LegBreaks[]>();
  const [into, setInto] = useState("");
  const [kind, setKind] = useState<Laid["kind"]>("sockets");
  const [refused, setRefused] = useState<ReturnType<typeof asRefused>>();
  const job = useJob();
  const choices = useChoices(job.head);
  const go = useNavigate();
  const free = view.places.marks.filter((mark) => !mark.point && !mark.is_existing && !NO_POINTS.has(mark.kind));
  const named = (id: string) => {
    const mark = view.places.marks.find((each) => each.id === id);
    if (!mark) return id;
    const inRoom = view.places.marks.filter((each) => each.room === mark.room);
    return `${view.places.rooms.find((each) => each.id === mark.room)?.name ?? ""} ${titleOf(mark, inRoom)}`;
  };
  async function tried(doing: () => Promise<void>) {
    setRefused(undefined);
    try {
      await doing();
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  const opened = async (made: Promise<CircuitView>) => {
    void go(`/jobs/${view.job_id}/circuits/${(await made).id}`);
  };
  if (free.length === 0) return null;
  const least = Math.min(...(orders ?? []).map((each) => each.length_mm));
  return (
    <details className="border border-base-300 p-2" data-run-finder>
      <summary className="cursor-pointer font-semibold">A new circuit through {free.length} marks of none yet</summary>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      <div className="grid gap-x-4 pt-2 sm:grid-cols-2 lg:grid-cols-3">
        {free.map((mark) => (
          <label key={mark.id} className="flex min-h-9 items-center gap-2">
            <input
              type="checkbox"
              className="checkbox"
              name={`through ${mark.id}`}
              checked={chosen.includes(mark.id)}
              onChange={(event) => {
                setOrders(undefined);
                setBreaks(undefined);
                setChosen(withOrWithout(chosen, mark.id, event.target.checked));
              }}
            />
            {named(mark.id)}
          </label>
        ))}
      </div>
      <p className="flex flex-wrap items-end gap-2 pt-2">
        <Choice
          name="Kind of the circuit"
          caption="A circuit of"
          value={kind}
          options={(choices.data?.kinds ?? []).map((each) => [each.id, each.name] as const)}
          onCommit={setKind}
        />
        <button
          className="btn btn-primary"
          data-find
          disabled={chosen.length === 0}
          onClick={() => void tried(async () => setOrders(await routes.orders([...chosen])))}
        >
          Find the best order
        </button>
        <Choice
          name="Into a circuit"
          caption="or into one there is"
          blank="which?"
          value={into}
          options={job.circuits.map((each) => [each.id, `${String(each.number)} ${each.name}`] as const)}
          onCommit={(circuit) => {
            setInto(circuit);
            setBreaks(undefined);
          }}
        />
        <button
          className="btn"
          data-breaks
          disabled={chosen.length === 0 || !into}
          onClick={() => void tried(async () => setBreaks(await routes.breaks(into, [...chosen])))}
        >
          Which leg to break
        </button>
      </p>
      {orders?.length === 0 && <p className="pt-2">No way leads to all of these from the board.</p>}
      <ul>
        {orders?.map((order) => (
          <li
            key={`${order.shape} ${order.runs.join()}`}
            className="border-b border-base-300 py-2"
            data-order={order.shape}
          >
            <p className="flex flex-wrap items-baseline gap-3">
              <b className="text-lg">{SHAPES[order.shape]}</b>
              {order.busier_percent != null && (
                <span className="tabular-nums" title="of a load that is alike at every place">
                  {order.busier_percent} % by its busier end
                </span>
              )}
              <b className="text-xl tabular-nums">{(order.length_mm / 1000).toFixed(1)} m</b>
              {order.length_mm > least && (
                <span className="tabular-nums">+ {((order.length_mm - least) / 1000).toFixed(1)} m</span>
              )}
              <span className="quiet text-sm">
                {order.is_proved ? "none costs less" : "the best that was found; not proved"}
              </span>
              <button
                className="btn btn-sm ml-auto"
                onClick={() =>
                  void tried(() =>
                    opened(
                      routes.lay({
                        kind,
                        shape: order.shape,
                        marks: [...chosen],
                        busier_percent: order.busier_percent,
                      }),
                    ),
                  )
                }
              >
                Lay it
              </button>
            </p>
            {order.runs.map((run, at) => (
              <p key={at} className="text-sm">
                Board → {run.map(named).join(" → ")}
                {order.shape === "ring" && " → board"}
              </p>
            ))}
          </li>
        ))}
      </ul>
      {breaks?.length === 0 && <p className="pt-2">None of its legs has both its ends on the plan.</p>}
      <ul>
        {breaks?.map((each) => (
          <li
            key={each.broken.map((one) => one.leg).join()}
            className="border-b border-base-300 py-2"
            data-break={each.broken[0]?.leg}
          >
            <p className="flex flex-wrap items-baseline gap-3">
              <b className="text-lg">Break {each.broken.map((one) => one.leg).join(" and ")}</b>
              <b className="text-xl tabular-nums">{(each.length_mm / 1000).toFixed(1)} m</b>
              <span className="quiet text-sm">
                of new cable; {each.is_proved ? "none costs less through it" : "not proved"}
              </span>
              <button
                className="btn btn-sm ml-auto"
                onClick={() => void tried(() => opened(routes.extend(into, each.broken)))}
              >
                Break it so
              </button>
            </p>
            {each.broken.map((one) => (
              <p key={one.leg} className="text-sm">
                {one.leg}: through {one.marks.map(named).join(" → ")}
              </p>
            ))}
          </li>
        ))}
      </ul>
    </details>
  );
}
