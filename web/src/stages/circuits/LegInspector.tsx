import type { Choices, Circuit, Leg, Segment } from "../../api/client";
import { clip } from "../../numbers";
import { Choice, Figure, Words } from "../../parts/fields";
import { Bar, Key } from "./bar";
import { CableFields, CpcFields, type Cable } from "./CableFields";
import type { InspectorProps, Sets } from "./inspecting";
import { StateChoice } from "./StateChoice";
import { titleOf } from "../../drawing/titles";

/** A leg of the run: its length, what it lies in segment by segment, and a cable of its own where it has one. */
export function LegInspector({
  circuit,
  leg,
  choices,
  onCommand,
  onEdit,
  onExtend,
}: InspectorProps & { leg: Leg; onExtend: () => void }) {
  const set = (changes: Sets<"leg", "leg">) => onCommand({ op: "leg", leg: leg.id, ...changes });
  const atBoard = leg.a === "board" || leg.b === "board";
  return (
    <Bar>
      <p className="grow leading-tight font-semibold">
        {titleOf(circuit, leg.a)} to {titleOf(circuit, leg.b)}
      </p>
      <Key letter="I" words="Break in a point" primary onClick={() => onEdit({ op: "insert", leg: leg.id })} />
      <button className="btn btn-sm" onClick={onExtend}>
        Through new points
      </button>
      <button className="btn btn-sm" onClick={() => onEdit({ op: "cut", leg: leg.id })}>
        Take out the cable
      </button>
      <button className="btn btn-sm" onClick={() => onEdit({ op: "leave-dead", leg: leg.id })}>
        Leave it dead
      </button>
      {leg.segments.map((segment, index) => (
        <SegmentRow
          key={index}
          segment={segment}
          number={leg.segments.length > 1 ? index + 1 : undefined}
          circuit={circuit}
          cable={leg.cable ?? circuit.cable}
          choices={choices}
          onSet={(changes) => onCommand({ op: "segment", leg: leg.id, index, ...changes })}
          onDrop={() => onCommand({ op: "drop-segment", leg: leg.id, index })}
        />
      ))}
      <button className="btn btn-sm" onClick={() => onCommand({ op: "add-segment", leg: leg.id })}>
        Add a segment
      </button>
      <LegCable leg={leg} choices={choices} onCommand={onCommand} />
      {leg.segments.length === 1 && (
        <Figure
          name="Measured r1 of the cable"
          unit="Ω r1"
          placeholder="measured"
          className="input-sm w-32"
          value={leg.measured_r1_ohm}
          onCommit={(measured_r1_ohm) => set({ measured_r1_ohm })}
        />
      )}
      <Words
        name="Mark of the cable"
        caption="Its mark, if several run here"
        className="input-sm w-40"
        placeholder="white sheath, left"
        value={leg.mark}
        onCommit={(mark) => set({ mark })}
      />
      <StateChoice of="leg" state={leg.state} onCommit={(state) => set({ state })} />
      {atBoard && (
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

/** The cable of this leg alone: as the circuit's, until it is given one of its own. */
function LegCable({ leg, choices, onCommand }: Pick<InspectorProps, "choices" | "onCommand"> & { leg: Leg }) {
  const own = leg.cable;
  if (!own)
    return (
      <button className="btn btn-sm" onClick={() => onCommand({ op: "own-cable", leg: leg.id, own: true })}>
        A cable of its own
      </button>
    );
  const set = (changes: Sets<"cable", "leg" | "ahead">) => onCommand({ op: "cable", leg: leg.id, ...changes });
  return (
    <div className="flex w-full flex-wrap items-center gap-2">
      <CableFields of="This" cable={own} choices={choices} onSet={set} />
      <CpcFields of="This" cable={own} onSet={set} />
      <button className="btn btn-sm" onClick={() => onCommand({ op: "own-cable", leg: leg.id, own: false })}>
        As the circuit
      </button>
    </div>
  );
}

type FigureOf = "length_to_m" | "lightly_loaded" | "ambient_c" | "soil_km_w" | "depth_m" | "insulation_mm";

interface SegmentProps {
  segment: Segment;
  number: number | undefined;
  circuit: Circuit;
  cable: Cable;
  choices: Choices;
  onSet: (changes: Sets<"segment", "leg" | "index">) => void;
  onDrop: () => void;
}

/** One length in one set of surroundings; what does not apply to it is not asked. */
function SegmentRow({ segment, number, circuit, cable, choices, onSet, onDrop }: SegmentProps) {
  const of = `Segment ${number ?? 1}`;
  const methods = choices.cables.find((each) => each.id === cable.type)?.methods ?? [];
  const method = segment.method ?? circuit.method;
  /** A figure of the segment that may be left blank; with `blank` it goes back to that instead. */
  const figure = (
    key: FigureOf,
    what: string,
    unit: string,
    width: string,
    hint?: string,
    blank: number | null = null,
  ) => (
    <Figure
      name={`${of} ${what}`}
      unit={unit}
      className={`input-sm ${width}`}
      {...(hint === undefined ? { required: true } : { placeholder: hint })}
      value={segment[key]}
      onCommit={(value) => onSet({ [key]: value ?? blank })}
    />
  );
  return (
    <div className="flex w-full flex-wrap items-center gap-2 text-sm">
      {number !== undefined && <span className="w-20 font-semibold">{of}</span>}
      <Figure
        name={`${of} length`}
        unit="m"
        placeholder="?"
        className="input-sm w-20"
        value={segment.length_m}
        onCommit={(length_m) => onSet({ length_m })}
      />
      {figure("length_to_m", "at most", "to m", "w-20", "–")}
      <Choice
        name={`${of} method`}
        className="select-sm w-54"
        value={method}
        options={methods.map((each) => [each.id, clip(`${each.id}: ${each.name}`, 33)] as const)}
        onCommit={(chosen) => onSet({ method: chosen })}
      />
      <Figure
        name={`${of} circuits together`}
        unit="circuits"
        className="input-sm w-24"
        value={segment.grouped_circuits}
        required
        onCommit={(count) => onSet({ grouped_circuits: count ?? 1 })}
      />
      {segment.grouped_circuits > 1 && (
        <>
          {figure("lightly_loaded", "lightly loaded", "at ≤ 30 %", "w-26", undefined, 0)}
          {!choices.methods_in_ground.includes(method) && (
            <Choice
              name={`${of} arrangement`}
              className="select-sm w-44"
              value={segment.arrangement}
              options={[
                ["bunched-or-enclosed", "bunched or enclosed"],
                ["single-layer-on-wall-or-floor", "one layer on a wall"],
                ["single-layer-under-ceiling", "one layer under a ceiling"],
              ]}
              onCommit={(arrangement) => onSet({ arrangement })}
            />
          )}
        </>
      )}
      {figure("ambient_c", "temperature", "°C", "w-24", "usual")}
      {choices.methods_in_ground.includes(method) ? (
        <>
          {segment.grouped_circuits > 1 && (
            <Choice
              name={`${of} spacing`}
              className="select-sm w-40"
              value={segment.spacing}
              options={[
                ["touching", "touching"],
                ["one-diameter", "a diameter apart"],
                ["0.125 m", "0.125 m apart"],
                ["0.25 m", "0.25 m apart"],
              ]}
              onCommit={(spacing) => onSet({ spacing })}
            />
          )}
          {figure("soil_km_w", "soil", "K·m/W", "w-28", "2.5")}
          {figure("depth_m", "depth", "m deep", "w-28", "0.7")}
        </>
      ) : (
        figure("insulation_mm", "in insulation", "mm insulated", "w-30", undefined, 0)
      )}
      {number !== undefined && (
        <button className="btn btn-ghost btn-xs" onClick={onDrop}>
          Drop
        </button>
      )}
    </div>
  );
}
