import type { Circuit } from "../api/client";
import { clip } from "../numbers";
import type { Spot } from "./layout";

/** Cable that was left in the wall: a broken stub where it hung, ended with a cross. */
export function RemainsDrawn({
  remains,
  spotOf,
}: {
  remains: Circuit["remains"];
  spotOf: (point: string) => Spot | undefined;
}) {
  const count = new Map<string, number>();
  return remains.map((each, index) => {
    const spot = spotOf(each.at);
    if (!spot || each.left === "cut-out") return null;
    const before = count.get(each.at) ?? 0;
    count.set(each.at, before + 1);
    const x = spot.x - 58 - before * 30;
    const y = spot.y + 32 + before * 22;
    return (
      <g key={index} data-remains={index} className={each.safe === false ? "failing" : ""}>
        <title>{`Dead: to ${each.to || "an unknown place"}`}</title>
        <path d={`M${spot.x - 12} ${spot.y + 18}L${x} ${y}`} className="dead" />
        <path d={`M${x - 6} ${y - 6}l12 12M${x + 6} ${y - 6}l-12 12`} className="dead-end" />
        <text x={x} y={y + 20} textAnchor="middle" fontSize="13.5" className="small halo">
          {clip(`dead, to ${each.to || "?"}`, 22)}
        </text>
      </g>
    );
  });
}
