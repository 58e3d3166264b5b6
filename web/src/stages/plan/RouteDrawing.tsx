import type { LegRoute, PlanView } from "../../api/client";
import { frameOf, middleOf, points } from "./geometry";
import { seatedOn } from "./seated";

interface Props {
  view: PlanView;
  legs: readonly LegRoute[];
  picked: string | undefined;
  onPick: (leg: string) => void;
}

/** The storeys that some legs lead through, from above, with their ways: dashed in a wall, plain over the rooms. */
export function RouteDrawing({ view, legs, picked, onPick }: Props) {
  const storeys = [...view.places.storeys.map((each) => each.id), null];
  return (
    <div className="grid content-start gap-3">
      {storeys.map((storey) => {
        const drawn = seatedOn(view, storey);
        const mine = legs.filter((leg) => leg.pieces.some((piece) => piece.storey === (storey ?? "")));
        if (drawn.length === 0 || mine.length === 0) return null;
        const frame = frameOf(drawn.flatMap((each) => each.corners));
        return (
          <figure key={storey ?? ""} data-routes-storey={storey ?? ""}>
            <figcaption className="font-semibold">
              {view.places.storeys.find((each) => each.id === storey)?.name ?? "No storey said"}
            </figcaption>
            <svg
              viewBox={`${String(frame.x)} ${String(frame.y)} ${String(frame.wide)} ${String(frame.deep)}`}
              className="max-h-[44dvh] w-full"
              role="group"
              aria-label="The ways from above, north up"
              fontSize={frame.unit}
            >
              {drawn.map(({ room, corners }) => (
                <g key={room.id}>
                  <polygon
                    points={points(corners)}
                    className="fill-base-200 stroke-base-content/60"
                    strokeWidth={frame.unit / 5}
                  />
                  <text
                    x={middleOf(corners).x}
                    y={-middleOf(corners).y}
                    textAnchor="middle"
                    className="fill-base-content/70"
                  >
                    {room.name}
                  </text>
                </g>
              ))}
              {mine.map((leg) => (
                <g
                  key={leg.leg}
                  role="button"
                  tabIndex={0}
                  aria-label={`Leg ${leg.leg}`}
                  aria-pressed={picked === leg.leg}
                  data-route={leg.leg}
                  className={`cursor-pointer ${picked === leg.leg ? "stroke-error" : "stroke-accent"}`}
                  onClick={() => onPick(leg.leg)}
                  onKeyDown={(event) => (event.key === "Enter" || event.key === " ") && onPick(leg.leg)}
                >
                  {leg.pieces
                    .filter((piece) => piece.storey === (storey ?? "") || piece.within === "outside")
                    .map((piece, at) => (
                      <polyline
                        key={at}
                        points={points(piece.line)}
                        fill="none"
                        strokeWidth={frame.unit / (picked === leg.leg ? 2.5 : 4)}
                        strokeDasharray={piece.within === "wall" ? String(frame.unit / 2) : undefined}
                        strokeLinecap="round"
                      />
                    ))}
                </g>
              ))}
              {drawn.flatMap(({ answer, at }) =>
                answer.marks.map((mark) => {
                  if (mark.x == null || mark.y == null) return null;
                  const spot = at({ x: mark.x, y: mark.y });
                  return (
                    <circle
                      key={mark.mark}
                      cx={spot.x}
                      cy={-spot.y}
                      r={frame.unit / 2.6}
                      className="fill-base-content"
                    />
                  );
                }),
              )}
            </svg>
          </figure>
        );
      })}
    </div>
  );
}
