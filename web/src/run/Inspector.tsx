import { useState } from "react";
import type { Choices, Circuit, CircuitView, Edit, Leg, Point, Segment } from "../api/client";
import { plain } from "../numbers";
import { Choice, Figure, Words } from "../parts/fields";
import { AheadEditor } from "./AheadEditor";
import { TypedRun } from "./TypedRun";
import type { Picked } from "./RunDrawing";
import { POINT_KINDS } from "./symbols";

interface Props {
  circuit: Circuit;
  choices: Choices;
  picked: Picked;
  moving: string | undefined;
  onChange: (make: (design: Circuit) => Circuit) => void;
  onEdit: (edit: Edit) => void;
  onMove: (point: string | undefined) => void;
  onCloseRing: () => void;
  onLayRun: (text: string) => Promise<CircuitView | undefined>;
}

const FUSES = [
  ["3", "3 A"],
  ["5", "5 A"],
  ["13", "13 A"],
] as const;

/** What is picked on the drawing, to be named, described, and worked on. */
export function Inspector(props: Props) {
  const { circuit, picked, moving } = props;
  const [typing, setTyping] = useState(false);
  if (typing)
    return (
      <Bar>
        <TypedRun onLay={props.onLayRun} onClose={() => setTyping(false)} />
      </Bar>
    );
  if (moving) {
    return (
      <Bar>
        <p className="text-lg font-semibold">Moving {titleOf(circuit, moving)}: pick the leg it goes into.</p>
        <button className="btn" onClick={() => props.onMove(undefined)}>
          Leave it <kbd>Esc</kbd>
        </button>
      </Bar>
    );
  }
  if (picked.kind === "leg") {
    const leg = circuit.legs.find((each) => each.id === picked.id);
    return leg ? <LegInspector key={leg.id} {...props} leg={leg} /> : null;
  }
  const point = circuit.points.find((each) => each.id === picked.id);
  if (point) return <PointInspector key={point.id} {...props} point={point} />;
  return (
    <Bar>
      <p className="grow text-lg">
        {circuit.points.length === 0
          ? "Start at the board: lay the first point, give the leg its length, press Enter, go on."
          : "The board. The run leaves here."}
      </p>
      <Key
        letter="A"
        words={circuit.points.length === 0 ? "Lay the first point" : "Add a point"}
        onClick={() => props.onEdit({ op: "add", after: "board", point: nextPoint(circuit), length_m: null })}
        primary
      />
      <Key
        letter="S"
        words="Spur from the board"
        onClick={() => props.onEdit({ op: "spur", off: "board", point: nextPoint(circuit), length_m: null })}
      />
      {circuit.points.length > 0 && <Key letter="R" words="Close the ring" onClick={props.onCloseRing} />}
      <button className="btn btn-sm" onClick={() => setTyping(true)}>
        Type the run
      </button>
      <p className="quiet w-full text-sm">{props.choices.kinds.find((kind) => kind.id === circuit.kind)?.special}</p>
      <details className="w-full" open={circuit.ahead.length > 0}>
        <summary className="cursor-pointer text-sm font-semibold">
          Ahead of the circuit, and reasons{circuit.ahead.length > 0 ? `: ${circuit.ahead.length}` : ""}
        </summary>
        <Words
          name="Reason"
          className="input-sm my-1 w-full"
          placeholder="Why device or cable differ from the usual, if they do"
          maxLength={2000}
          value={circuit.reason}
          onCommit={(reason) => props.onChange((design) => ({ ...design, reason }))}
        />
        <AheadEditor circuit={circuit} choices={props.choices} onChange={props.onChange} />
      </details>
    </Bar>
  );
}

function Bar({ children }: { children: React.ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2 border-t border-base-300 bg-base-200 px-4 py-2 [&_.btn:not(.btn-primary)]:bg-base-100">
      {children}
    </div>
  );
}

function Key({ letter, words, onClick, primary }: { letter: string; words: string; onClick: () => void; primary?: boolean }) {
  return (
    <button className={`btn btn-sm ${primary ? "btn-primary" : ""}`} onClick={onClick}>
      {words} <kbd className="text-xs opacity-75">{letter}</kbd>
    </button>
  );
}

export function titleOf(circuit: Circuit, id: string): string {
  if (id === "board") return "the board";
  const point = circuit.points.find((each) => each.id === id);
  return point ? point.name || point.id : id;
}

/** A new point is most often of the kind and in the room of the last one. */
export function nextPoint(circuit: Circuit): { kind: Point["kind"]; name: string; room: string } {
  const last = circuit.points.at(-1);
  const usual = circuit.kind === "lighting" ? "light" : circuit.kind === "sockets" ? "socket-twin" : "fixed";
  return { kind: last?.kind ?? usual, name: "", room: last?.room ?? "" };
}

const ZONES = [
  ["none", "no bath here"],
  ["0", "zone 0"],
  ["1", "zone 1"],
  ["2", "zone 2"],
  ["outside", "outside the zones"],
] as const;

function draws(point: Point): boolean {
  return !["switch", "cord-switch", "joint"].includes(point.kind);
}

function PointInspector({ circuit, choices, point, onChange, onEdit, onMove, onCloseRing }: Props & { point: Point }) {
  const set = (changes: Partial<Point>) =>
    onChange((design) => ({ ...design, points: design.points.map((each) => (each.id === point.id ? { ...each, ...changes } : each)) }));
  const load = point.loads[0];
  return (
    <Bar>
      <Words
        name="Point name"
        className="input-sm w-44 font-semibold"
        value={point.name}
        placeholder={point.id}
        onCommit={(name) => set({ name })}
      />
      <Words name="Room" className="input-sm w-36" placeholder="room" value={point.room} onCommit={(room) => set({ room })} />
      <Choice
        name="Kind of point"
        className="select-sm w-40"
        value={point.kind}
        options={POINT_KINDS}
        onCommit={(kind) => set({ kind, fuse_a: kind === "fused-spur" ? 13 : null })}
      />
      {point.kind === "fused-spur" && (
        <Choice
          name="Fuse"
          className="select-sm w-20"
          value={String(point.fuse_a ?? 13) as "3" | "5" | "13"}
          options={FUSES}
          onCommit={(fuse) => set({ fuse_a: Number(fuse) as 3 | 5 | 13 })}
        />
      )}
      {draws(point) && (
        <>
          {load?.power_w != null ? (
            <Figure
              name="Load power"
              unit="W"
              className="input-sm w-28"
              value={load.power_w}
              onCommit={(power_w) => set({ loads: power_w === null ? [] : [{ ...load, power_w }] })}
            />
          ) : (
            <Figure
              name="Load current"
              unit="A"
              className="input-sm w-28"
              placeholder="usual load"
              value={load?.current_a}
              onCommit={(current_a) =>
                set({
                  loads: current_a === null ? [] : [{ name: load?.name ?? "", current_a, power_factor: 1, leakage_ma: 0, dc: "none" }],
                })
              }
            />
          )}
        </>
      )}
      {draws(point) && (
        <Choice
          name="Appliance"
          className="select-sm w-40"
          value=""
          blank={point.loads.length > 1 ? `${point.loads.length} loads` : load?.name || "feeds…"}
          options={[["", "nothing stated"] as const, ...choices.appliances.map((each) => [each.id, each.name] as const)]}
          onCommit={(id) => {
            const chosen = choices.appliances.find((each) => each.id === id);
            set({ loads: chosen ? [...point.loads, chosen.load] : [] });
          }}
        />
      )}
      <Choice
        name="Bath zone"
        className="select-sm w-36"
        value={point.zone ?? "none"}
        options={ZONES}
        onCommit={(zone) => set({ zone: zone === "none" ? null : zone })}
      />
      <div className="flex flex-wrap gap-2">
        <Key
          letter="A"
          words="Add next"
          primary
          onClick={() => onEdit({ op: "add", after: point.id, point: nextPoint(circuit), length_m: null })}
        />
        <Key letter="S" words="Spur off" onClick={() => onEdit({ op: "spur", off: point.id, point: nextPoint(circuit), length_m: null })} />
        <Key letter="M" words="Move" onClick={() => onMove(point.id)} />
        <Key letter="Del" words="Take out" onClick={() => onEdit({ op: "remove", point: point.id })} />
        <Key letter="R" words="Close the ring" onClick={onCloseRing} />
      </div>
    </Bar>
  );
}

function LegInspector({ circuit, leg, choices, onChange, onEdit }: Props & { leg: Leg }) {
  const set = (changes: Partial<Leg>) =>
    onChange((design) => ({ ...design, legs: design.legs.map((each) => (each.id === leg.id ? { ...each, ...changes } : each)) }));
  const setSegment = (index: number, changes: Partial<Segment>) =>
    set({ segments: leg.segments.map((each, place) => (place === index ? { ...each, ...changes } : each)) });
  const cable = leg.cable ?? circuit.cable;
  const type = choices.cables.find((each) => each.id === cable.type);
  const methods = (type?.methods ?? []).map((method) => [method.id, `${method.id}: ${method.name}`] as const);
  const sizes = (type?.csas_mm2 ?? []).map((csa) => [String(csa), `${plain(csa)} mm²`] as const);
  return (
    <Bar>
      <p className="grow leading-tight font-semibold">
        {titleOf(circuit, leg.a)} to {titleOf(circuit, leg.b)}
      </p>
      <Key letter="I" words="Break in a point" primary onClick={() => onEdit({ op: "insert", leg: leg.id, point: nextPoint(circuit) })} />
      <button className="btn btn-sm" onClick={() => onEdit({ op: "cut", leg: leg.id })}>
        Take out the leg
      </button>
      {leg.segments.map((segment, index) => (
        <div key={index} className="flex w-full flex-wrap items-center gap-2 text-sm">
          {leg.segments.length > 1 && <span className="w-20 font-semibold">Segment {index + 1}</span>}
          <Figure
            name={`Segment ${index + 1} length`}
            unit="m"
            placeholder="?"
            className="input-sm w-20"
            value={segment.length_m}
            onCommit={(length_m) => setSegment(index, { length_m, length_to_m: null })}
          />
          <Figure
            name={`Segment ${index + 1} at most`}
            unit="to m"
            placeholder="–"
            className="input-sm w-22"
            value={segment.length_to_m}
            onCommit={(length_to_m) => setSegment(index, { length_to_m })}
          />
          <Choice
            name={`Segment ${index + 1} method`}
            className="select-sm w-48"
            value={segment.method ?? circuit.method}
            options={methods}
            onCommit={(method) => setSegment(index, { method: method === circuit.method ? null : method })}
          />
          <Figure
            name={`Segment ${index + 1} circuits together`}
            unit="circuits"
            className="input-sm w-24"
            value={segment.grouped_circuits}
            required
            onCommit={(count) => setSegment(index, { grouped_circuits: count ?? 1 })}
          />
          <Figure
            name={`Segment ${index + 1} temperature`}
            unit="°C"
            placeholder="usual"
            className="input-sm w-24"
            value={segment.ambient_c}
            onCommit={(ambient_c) => setSegment(index, { ambient_c })}
          />
          <Figure
            name={`Segment ${index + 1} in insulation`}
            unit="mm insulated"
            className="input-sm w-32"
            value={segment.insulation_mm}
            required
            onCommit={(length) => setSegment(index, { insulation_mm: length ?? 0 })}
          />
          {choices.methods_in_ground.includes(segment.method ?? circuit.method) && (
            <>
              <Figure
                name={`Segment ${index + 1} soil`}
                unit="K·m/W"
                placeholder="2.5"
                className="input-sm w-28"
                value={segment.soil_km_w}
                onCommit={(soil_km_w) => setSegment(index, { soil_km_w })}
              />
              <Figure
                name={`Segment ${index + 1} depth`}
                unit="m deep"
                placeholder="usual"
                className="input-sm w-28"
                value={segment.depth_m}
                onCommit={(depth_m) => setSegment(index, { depth_m })}
              />
            </>
          )}
          {segment.grouped_circuits > 1 && (
            <Choice
              name={`Segment ${index + 1} arrangement`}
              className="select-sm w-44"
              value={segment.arrangement}
              options={[
                ["bunched-or-enclosed", "bunched or enclosed"],
                ["single-layer-on-wall-or-floor", "one layer on a wall"],
                ["single-layer-under-ceiling", "one layer under a ceiling"],
              ]}
              onCommit={(arrangement) => setSegment(index, { arrangement })}
            />
          )}
          {leg.segments.length > 1 && (
            <button className="btn btn-ghost btn-xs" onClick={() => set({ segments: leg.segments.filter((_, place) => place !== index) })}>
              Drop
            </button>
          )}
        </div>
      ))}
      <Choice
        name="Size of this leg"
        className="select-sm w-28"
        value={String(cable.csa_mm2)}
        options={sizes}
        onCommit={(csa) =>
          set({ cable: Number(csa) === circuit.cable.csa_mm2 ? null : { ...circuit.cable, csa_mm2: Number(csa), cpc_mm2: null } })
        }
      />
      {leg.segments.length === 1 && (
        <Figure
          name="Measured r1 of the leg"
          unit="Ω r1"
          placeholder="measured"
          className="input-sm w-32"
          value={leg.measured_r1_ohm}
          onCommit={(measured_r1_ohm) => set({ measured_r1_ohm })}
        />
      )}
      <Choice
        name="State of the leg"
        className="select-sm w-28"
        value={leg.state}
        options={[
          ["new", "new"],
          ["as-found", "as found"],
        ]}
        onCommit={(state) => set({ state })}
      />
      <button
        className="btn btn-sm"
        onClick={() =>
          set({
            segments: [
              ...leg.segments,
              { length_m: null, method: null, ambient_c: null, grouped_circuits: 1, arrangement: "bunched-or-enclosed", insulation_mm: 0 },
            ],
          })
        }
      >
        Add a segment
      </button>
      {(leg.a === "board" || leg.b === "board") && (
        <Figure
          name="Other way at the board"
          unit="other way"
          placeholder="own"
          className="input-sm w-32"
          value={leg.other_way}
          onCommit={(other_way) => set({ other_way })}
        />
      )}
    </Bar>
  );
}
