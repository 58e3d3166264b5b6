import type { Leg } from "../../api/client";
import { Choice } from "../../parts/fields";

/** Whether a point or a leg was there already or is new work. */
export function StateChoice({
  of,
  state,
  onCommit,
}: {
  of: string;
  state: Leg["state"];
  onCommit: (state: Leg["state"]) => void;
}) {
  return (
    <Choice
      name={`State of the ${of}`}
      caption="State"
      className="select-sm w-26"
      value={state}
      options={[
        ["new", "new"],
        ["as-found", "as found"],
      ]}
      onCommit={onCommit}
    />
  );
}
