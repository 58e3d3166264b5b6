import type { Point } from "../../api/client";
import { Figure } from "../../parts/fields";

type Driver = NonNullable<Point["driver"]>;
const FIELDS = [
  ["output_v", "Output", "V"],
  ["rated_w", "Made for", "W"],
  ["load_w", "Lamps behind it", "W"],
  ["run_m", "To the farthest lamp", "m"],
  ["csa_mm2", "Conductor there", "mm²"],
] as const;

/** What a driver makes, and what hangs behind it. */
export function DriverFields({ driver, onSet }: { driver: Driver; onSet: (changes: Partial<Driver>) => void }) {
  return FIELDS.map(([key, caption, unit]) => (
    <Figure
      key={key}
      name={`Driver: ${caption.toLowerCase()}`}
      caption={caption}
      unit={unit}
      placeholder="not said"
      className="input-sm w-28"
      required={key === "output_v"}
      value={driver[key]}
      onCommit={(value) => onSet({ [key]: key === "output_v" ? (value ?? driver.output_v) : value })}
    />
  ));
}
