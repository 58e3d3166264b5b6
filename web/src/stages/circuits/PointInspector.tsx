import { Photos } from "../../app/Photos";
import { SpotFields } from "../../app/SpotFields";
import type { Point } from "../../api/client";
import { Choice, Figure, Words, YesNo } from "../../parts/fields";
import { Bar, Key } from "./bar";
import { DriverFields } from "./DriverFields";
import type { InspectorProps, Sets } from "./inspecting";
import { LoadsEditor } from "./LoadsEditor";
import { StateChoice } from "./StateChoice";

const FUSES = [
  ["3", "3 A"],
  ["5", "5 A"],
  ["13", "13 A"],
] as const;
const ZONES = [
  ["none", "no bath or shower"],
  ["0", "zone 0"],
  ["1", "zone 1"],
  ["2", "zone 2"],
  ["outside", "outside the zones"],
] as const;

/** A point of the run: what it is called, what it is, what it feeds. */
export function PointInspector({
  choices,
  jobId,
  circuitId,
  point,
  onCommand,
  onEdit,
  onMove,
  onCloseRing,
}: InspectorProps & { point: Point }) {
  const set = (changes: Sets<"point", "point">) => onCommand({ op: "point", point: point.id, ...changes });
  const kind = choices.point_kinds.find((each) => each.id === point.kind);
  return (
    <Bar>
      <Words
        name="Point name"
        caption="Name"
        className="input-sm w-36 font-semibold"
        value={point.name}
        placeholder={point.id}
        onCommit={(name) => set({ name })}
      />
      <SpotFields jobId={jobId} at={point.at} onCommit={(at) => set({ at })} />
      <Choice
        name="Kind of point"
        caption="What it is"
        className="select-sm w-36"
        value={point.kind}
        options={choices.point_kinds.map((each) => [each.id, each.name] as const)}
        onCommit={(chosen) => set({ kind: chosen })}
      />
      {point.loads.length === 0 && (
        <Choice
          name="Ready point"
          caption="Or ready-made"
          className="select-sm w-44"
          value=""
          blank="choose"
          options={choices.ready_points.map((each) => [each.id, each.name] as const)}
          onCommit={(ready) => onCommand({ op: "ready", point: point.id, ready })}
        />
      )}
      {kind?.fused && (
        <Choice
          name="Fuse"
          caption="Fuse"
          className="select-sm w-20"
          value={String(point.fuse_a ?? 13) as "3" | "5" | "13"}
          options={FUSES}
          onCommit={(fuse) => set({ fuse_a: Number(fuse) as 3 | 5 | 13 })}
        />
      )}
      <StateChoice of="point" state={point.state} onCommit={(state) => set({ state })} />
      <Choice
        name="Bath zone"
        caption="In a bath or shower room"
        className="select-sm w-40"
        value={point.zone ?? "none"}
        options={ZONES}
        onCommit={(zone) => set({ zone: zone === "none" ? null : zone })}
      />
      {point.zone === "outside" && (
        <Figure
          name="Distance from zone 1"
          caption="From zone 1"
          unit="m"
          placeholder="not said"
          className="input-sm w-28"
          value={point.from_zone_1_m}
          onCommit={(from_zone_1_m) => set({ from_zone_1_m })}
        />
      )}
      {point.zone && (
        <Figure
          name="SELV"
          caption="SELV instead of mains"
          unit="V"
          placeholder="mains"
          className="input-sm w-36"
          value={point.selv_v}
          onCommit={(selv_v) => set({ selv_v })}
        />
      )}
      {point.zone && point.zone !== "outside" && (
        <Words
          name="IP rating"
          caption="IP rating"
          className="input-sm w-24"
          placeholder="IPX4?"
          maxLength={5}
          value={point.ip}
          onCommit={(ip) => set({ ip: ip.toUpperCase() })}
        />
      )}
      {(point.state === "as-found" || point.class_ii != null) && (
        <YesNo
          name="Class II"
          caption="Class II, or insulated"
          className="select-sm w-36"
          value={point.class_ii}
          onCommit={(class_ii) => set({ class_ii })}
        />
      )}
      {point.kind === "charger" && (
        <YesNo
          name="RCD in the charger"
          caption="An RCD of its own in it"
          className="select-sm w-40"
          value={point.own_rcd}
          onCommit={(own_rcd) => set({ own_rcd })}
        />
      )}
      {point.kind === "source" && (
        <YesNo
          name="Isolator beside it"
          caption="Isolator beside it"
          className="select-sm w-36"
          value={point.isolator}
          onCommit={(isolator) => set({ isolator })}
        />
      )}
      {(point.kind === "joint" || point.kind === "blank") && (
        <>
          <YesNo
            name="Joint within reach"
            caption="Within reach"
            className="select-sm w-32"
            value={point.reached}
            onCommit={(reached) => set({ reached })}
          />
          <YesNo
            name="Maintenance-free joint"
            caption="Maintenance-free, marked MF"
            className="select-sm w-32"
            value={point.maintenance_free}
            onCommit={(maintenance_free) => set({ maintenance_free })}
          />
        </>
      )}
      {point.driver && <DriverFields driver={point.driver} onCommit={(driver) => set({ driver })} />}
      {kind?.draws && <LoadsEditor point={point} choices={choices} onCommand={onCommand} />}
      <div className="flex flex-wrap gap-2">
        <Key
          letter="A"
          words="Add next"
          primary
          onClick={() => onEdit({ op: "add", after: point.id, length_m: null })}
        />
        <Key letter="S" words="Spur off" onClick={() => onEdit({ op: "spur", off: point.id, length_m: null })} />
        <Key letter="M" words="Move" onClick={() => onMove(point.id)} />
        <Key letter="Del" words="Take out" onClick={() => onEdit({ op: "remove", point: point.id })} />
        <Key letter="R" words="Close the ring" onClick={onCloseRing} />
        <Photos
          jobId={jobId}
          shown={{ shows: "point", of: point.id, circuit_id: circuitId }}
          of={point.name || "this point"}
          small
        />
      </div>
    </Bar>
  );
}
