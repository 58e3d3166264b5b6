import type { Point } from "../../api/client";
import { Choice, Words } from "../../parts/fields";
import { Bar, Key } from "./bar";
import type { InspectorProps, Sets } from "./inspecting";
import { LoadsEditor } from "./LoadsEditor";
import { StateChoice } from "./StateChoice";

const FUSES = [
  ["3", "3 A"],
  ["5", "5 A"],
  ["13", "13 A"],
] as const;
const ZONES = [
  ["none", "no bath here"],
  ["0", "zone 0"],
  ["1", "zone 1"],
  ["2", "zone 2"],
  ["outside", "outside the zones"],
] as const;

/** A point of the run: what it is called, what it is, what it feeds. */
export function PointInspector({ choices, point, onCommand, onEdit, onMove, onCloseRing }: InspectorProps & { point: Point }) {
  const set = (changes: Sets<"point", "point">) => onCommand({ op: "point", point: point.id, ...changes });
  const kind = choices.point_kinds.find((each) => each.id === point.kind);
  return (
    <Bar>
      <Words
        name="Point name"
        className="input-sm w-40 font-semibold"
        value={point.name}
        placeholder={point.id}
        onCommit={(name) => set({ name })}
      />
      <Words name="Room" className="input-sm w-32" placeholder="room" value={point.room} onCommit={(room) => set({ room })} />
      <Choice
        name="Kind of point"
        className="select-sm w-38"
        value={point.kind}
        options={choices.point_kinds.map((each) => [each.id, each.name] as const)}
        onCommit={(chosen) => set({ kind: chosen })}
      />
      {kind?.fused && (
        <Choice
          name="Fuse"
          className="select-sm w-20"
          value={String(point.fuse_a ?? 13) as "3" | "5" | "13"}
          options={FUSES}
          onCommit={(fuse) => set({ fuse_a: Number(fuse) as 3 | 5 | 13 })}
        />
      )}
      <StateChoice of="point" state={point.state} onCommit={(state) => set({ state })} />
      <Choice
        name="Bath zone"
        className="select-sm w-34"
        value={point.zone ?? "none"}
        options={ZONES}
        onCommit={(zone) => set({ zone: zone === "none" ? null : zone })}
      />
      {kind?.draws && <LoadsEditor point={point} choices={choices} onCommand={onCommand} />}
      <div className="flex flex-wrap gap-2">
        <Key letter="A" words="Add next" primary onClick={() => onEdit({ op: "add", after: point.id, length_m: null })} />
        <Key letter="S" words="Spur off" onClick={() => onEdit({ op: "spur", off: point.id, length_m: null })} />
        <Key letter="M" words="Move" onClick={() => onMove(point.id)} />
        <Key letter="Del" words="Take out" onClick={() => onEdit({ op: "remove", point: point.id })} />
        <Key letter="R" words="Close the ring" onClick={onCloseRing} />
      </div>
    </Bar>
  );
}
