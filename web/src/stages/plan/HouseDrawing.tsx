import { Link } from "react-router-dom";
import type { PlanView } from "../../api/client";
import { boxOf, frameOf, middleOf, points } from "./geometry";
import { seatedOn } from "./seated";

interface Props {
  view: PlanView;
  storeyId: string | null;
}

/** A storey: its rooms as they lie beside each other, to scale, each leading to its own plan; what lies nowhere yet. */
export function HouseDrawing({ view, storeyId }: Props) {
  const storey = view.places.storeys.find((each) => each.id === storeyId);
  const seats = seatedOn(view, storeyId);
  const groups = [...new Set(seats.map((each) => each.group))];
  return (
    <section className="min-w-0">
      <h1 className="text-xl font-bold">{storey?.name ?? "No storey said"}</h1>
      {view.answer.apart.map((each) => (
        <p key={each.room} className="font-semibold text-error">
          ✕ Two ways to {view.places.rooms.find((room) => room.id === each.room)?.name} end {each.by_mm} mm apart:
          measure again.
        </p>
      ))}
      {groups.length > 1 && (
        <p className="quiet">
          {groups.length} groups of rooms lie by themselves: say in a room which room is behind its wall, or{" "}
          <b className="font-mono">lies over Kitchen e 1.20 n 0</b>.
        </p>
      )}
      <div className={`grid gap-4 ${groups.length > 1 ? "md:grid-cols-2" : ""}`}>
        {groups.map((group) => {
          const mine = seats.filter((each) => each.group === group);
          const frame = frameOf(mine.flatMap((each) => each.corners));
          return (
            <svg
              key={group}
              viewBox={`${String(frame.x)} ${String(frame.y)} ${String(frame.wide)} ${String(frame.deep)}`}
              className="max-h-[66dvh] w-full"
              role="group"
              aria-label="The storey from above, north up"
              fontSize={frame.unit}
              data-group={group}
            >
              {mine.map(({ room, answer, at, corners }) => {
                const middle = middleOf(corners);
                const { wide } = boxOf(corners);
                const letters = Math.min(frame.unit * 1.3, (1.5 * wide) / room.name.length);
                return (
                  <Link
                    key={room.id}
                    to={`/jobs/${view.job_id}/plan/${room.id}`}
                    aria-label={room.name}
                    data-drawn={room.id}
                  >
                    <polygon
                      points={points(corners)}
                      className="fill-base-200 stroke-base-content hover:fill-base-300"
                      strokeWidth={frame.unit / 4}
                    />
                    {answer.parts
                      .filter((each) => each.corners.length > 0)
                      .map((each) => (
                        <polygon
                          key={each.id}
                          points={points(each.corners.map(at))}
                          className="fill-base-300 stroke-base-content/40"
                          strokeWidth={frame.unit / 16}
                        />
                      ))}
                    {answer.marks.map((each) => {
                      if (each.x == null || each.y == null) return null;
                      const spot = at({ x: each.x, y: each.y });
                      const isWrong = answer.conflicts.some((one) => one.mark === each.mark);
                      return (
                        <circle
                          key={each.mark}
                          cx={spot.x}
                          cy={-spot.y}
                          r={frame.unit * (isWrong ? 0.5 : 0.35)}
                          className={isWrong ? "fill-error" : "fill-accent"}
                        />
                      );
                    })}
                    <text
                      x={middle.x}
                      y={-middle.y}
                      textAnchor="middle"
                      className="fill-base-content stroke-base-200 [paint-order:stroke]"
                      strokeWidth={letters / 4}
                      fontWeight="700"
                      fontSize={letters}
                    >
                      {room.name}
                      <tspan x={middle.x} dy={letters} fontWeight="400" fontSize={letters * 0.8}>
                        {answer.area_m2.toFixed(1)} m²
                      </tspan>
                    </text>
                  </Link>
                );
              })}
            </svg>
          );
        })}
      </div>
      {view.answer.alarm_levels.map((level) => (
        <p key={level.name} className="pt-1" data-alarm-level={level.name}>
          <b>{level.name}</b>:{" "}
          {level.without.length === 0 ? (
            level.rooms > 0 ? (
              "every room that it names has its alarm"
            ) : (
              "no room is called so"
            )
          ) : (
            <span className="text-warning">none in {level.without.join(", ")}</span>
          )}
          . <span className="quiet text-sm">{level.source}; alarms of one house are linked.</span>
        </p>
      ))}
    </section>
  );
}
