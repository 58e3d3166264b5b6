import { Photos } from "../../app/Photos";
import { SpotFields } from "../../app/SpotFields";
import type { Point } from "../../api/client";
import { FieldGroup, type FieldOf } from "../../parts/FieldGroup";
import { Choice, Words } from "../../parts/fields";
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

/** What is asked of a point by what it is and where it stands. */
function asked(point: Point): readonly FieldOf<Sets<"point", "point">>[] {
  const closed = point.kind === "joint" || point.kind === "blank";
  return [
    {
      choice: "zone",
      name: "Bath zone",
      caption: "In a bath or shower room",
      width: "w-40",
      options: ZONES,
      none: "none",
    },
    {
      figure: "from_zone_1_m",
      name: "Distance from zone 1",
      caption: "From zone 1",
      width: "w-28",
      unit: "m",
      placeholder: "not said",
      when: point.zone === "outside",
    },
    {
      figure: "selv_v",
      name: "SELV",
      caption: "SELV instead of mains",
      width: "w-36",
      unit: "V",
      placeholder: "mains",
      when: point.zone != null,
    },
    {
      words: "ip",
      name: "IP rating",
      caption: "IP rating",
      width: "w-24",
      placeholder: "IPX4?",
      maxLength: 5,
      capitals: true,
      when: point.zone != null && point.zone !== "outside",
    },
    {
      answer: "class_ii",
      name: "Class II",
      caption: "Class II, or insulated",
      width: "w-36",
      when: point.state === "as-found" || point.class_ii != null,
    },
    {
      answer: "own_rcd",
      name: "RCD in the charger",
      caption: "An RCD of its own in it",
      width: "w-40",
      when: point.kind === "charger",
    },
    {
      answer: "isolator",
      name: "Isolator beside it",
      caption: "Isolator beside it",
      width: "w-36",
      when: point.kind === "source",
    },
    { answer: "reached", name: "Joint within reach", caption: "Within reach", width: "w-32", when: closed },
    {
      answer: "maintenance_free",
      name: "Maintenance-free joint",
      caption: "Maintenance-free, marked MF",
      width: "w-32",
      when: closed,
    },
  ];
}

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
  const setDriver = (changes: Partial<NonNullable<Point["driver"]>>) =>
    onCommand(({ design }) =>
      design.points.flatMap(({ id, driver }) =>
        id === point.id && driver ? [{ op: "point", point: id, driver: { ...driver, ...changes } }] : [],
      ),
    );
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
      <FieldGroup of={point} fields={asked(point)} onSet={set} />
      {point.driver && <DriverFields driver={point.driver} onSet={setDriver} />}
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
