import { useState } from "react";
import type { Accessory, Choices, Circuit, Command, Face, Load } from "../../api/client";
import { SpotFields } from "../../app/SpotFields";
import { useSaid } from "../../data/useSaid";
import { Choice, Figure, Tick, Words, YesNo } from "../../parts/fields";

const KINDS: readonly (readonly [Accessory["kind"], string])[] = [
  ["one-way", "one-way switch"],
  ["two-way", "two-way switch"],
  ["intermediate", "intermediate"],
  ["dimmer", "dimmer"],
  ["dimmer-two-way", "two-way dimmer"],
  ["sensor", "sensor"],
  ["receiver", "radio or bus receiver"],
  ["double-pole", "double-pole switch"],
  ["isolator-3", "three-pole isolator"],
  ["fused-unit", "fused unit"],
];

const DIMMING: readonly (readonly [NonNullable<Accessory["dims_by"]>, string])[] = [
  ["leading", "leading edge"],
  ["trailing", "trailing edge"],
  ["0-10", "0–10 V line"],
  ["push", "push button"],
  ["dali", "digital line"],
];
const DIMMED: readonly (readonly [NonNullable<Load["dimmed_by"]>, string])[] = [
  ["none", "not to be dimmed"],
  ["leading", "a leading edge"],
  ["trailing", "a trailing edge"],
  ["either", "either edge"],
  ["0-10", "a 0–10 V line"],
  ["push", "a push button"],
  ["dali", "a digital line"],
];

type Plate = Circuit["points"][number]["plate"];
const NO_PLATE: Plate = { grid: false };

interface Props {
  jobId: string;
  circuit: Circuit;
  choices?: Choices;
  face: Face;
  onCommand: (...commands: Command[]) => Promise<unknown>;
  onClose: () => void;
}

/** What sits in a box: gangs, plate, depth; and cables found there whose far end nobody knows. */
export function BoxEditor({ jobId, circuit, choices, face, onCommand, onClose }: Props) {
  const [to, setTo] = useState("");
  const found = circuit.points.find((each) => each.id === face.place);
  const { whole, say } = useSaid({ accessories: found?.accessories ?? [], plate: found?.plate ?? NO_PLATE }, (whole) =>
    onCommand({ op: "accessories", point: face.place, ...whole }),
  );
  if (!found) return null;
  const tell = (...commands: Command[]) => void onCommand(...commands);
  const point = { ...found, plate: whole.plate };
  const gangs = whole.accessories;
  const set = (accessories: Accessory[]) => void say({ accessories });
  const change = (gang: number, more: Partial<Accessory>) =>
    set(gangs.map((each) => (each.gang === gang ? { ...each, ...more } : each)));
  const plate = (more: Partial<Plate>) => void say({ plate: { ...point.plate, ...more } });
  const others = circuit.points.filter((each) => each.id !== face.place && each.kind !== "unknown-end");
  const next = [1, 2, 3, 4, 5, 6].find((gang) => gangs.every((each) => each.gang !== gang));
  return (
    <div
      className="max-h-80 shrink-0 overflow-y-auto border-t-2 border-accent bg-base-200 px-4 py-2"
      data-box-editor={face.place}
    >
      <div className="flex flex-wrap items-end gap-2">
        <Words
          name={`Name of ${face.place}`}
          caption="Place"
          value={point.name}
          onCommit={(name) => tell({ op: "point", point: face.place, name })}
          className="w-36"
        />
        <SpotFields
          jobId={jobId}
          of={face.place}
          at={point.at}
          onCommit={(at) => tell({ op: "point", point: face.place, at })}
        />
        <Choice
          name={`State of ${face.place}`}
          caption="It is"
          value={point.state}
          options={[
            ["new", "new"],
            ["as-found", "as found"],
          ]}
          onCommit={(state) => tell({ op: "point", point: face.place, state })}
        />
        <Choice
          name={`Plate at ${face.place}`}
          caption="Plate"
          blank="not looked"
          value={point.plate.metal === true ? "metal" : point.plate.metal === false ? "plastic" : ""}
          options={[
            ["metal", "metal"],
            ["plastic", "plastic"],
          ]}
          onCommit={(metal) => plate({ metal: metal === "metal" })}
        />
        {(point.state === "as-found" || point.class_ii != null) && (
          <YesNo
            name={`Class II at ${face.place}`}
            caption="Class II, or insulated"
            value={point.class_ii}
            onCommit={(class_ii) => tell({ op: "point", point: face.place, class_ii })}
            className="w-36"
          />
        )}
        <Figure
          name={`Depth of the box at ${face.place}`}
          caption="Box"
          unit="mm"
          value={point.plate.box_mm ?? null}
          onCommit={(box_mm) => plate({ box_mm })}
          className="w-24"
        />
        <Tick words="grid" checked={point.plate.grid} onChange={(grid) => plate({ grid })} />
        <button className="btn btn-sm ml-auto" onClick={onClose}>
          Close <kbd>Esc</kbd>
        </button>
      </div>
      <div className="mt-1 flex flex-col gap-1.5">
        {gangs.map((each) => (
          <div key={each.gang} className="flex flex-wrap items-end gap-2">
            <span className="w-14 pb-2 font-semibold">Gang {each.gang}</span>
            <Choice
              name={`Kind of gang ${each.gang}`}
              value={each.kind}
              options={KINDS}
              className="w-52"
              onCommit={(kind) => change(each.gang, { kind })}
            />
            <Words
              name={`What gang ${each.gang} is for`}
              placeholder="what it is for"
              value={each.name}
              onCommit={(name) => change(each.gang, { name })}
              className="w-36"
            />
            <Tick words="pull cord" checked={each.cord} onChange={(cord) => change(each.gang, { cord })} />
            {each.kind.startsWith("dimmer") && (
              <>
                <Figure
                  name={`Greatest load of gang ${each.gang}`}
                  caption="Takes at most"
                  unit="W"
                  value={each.most_w ?? null}
                  onCommit={(most_w) => change(each.gang, { most_w })}
                  className="w-28"
                />
                <Figure
                  name={`Least load of gang ${each.gang}`}
                  caption="Needs at least"
                  unit="W"
                  value={each.least_w ?? null}
                  onCommit={(least_w) => change(each.gang, { least_w })}
                  className="w-28"
                />
                <Choice
                  name={`How gang ${each.gang} dims`}
                  caption="Dims by"
                  blank="not said"
                  value={each.dims_by ?? ""}
                  options={DIMMING}
                  className="w-40"
                  onCommit={(dims_by) => change(each.gang, { dims_by })}
                />
              </>
            )}
            <button
              className="btn btn-ghost btn-sm"
              onClick={() => set(gangs.filter((other) => other.gang !== each.gang))}
            >
              Take out
            </button>
          </div>
        ))}
      </div>
      {point.loads.map((load, index) => (
        <div key={index} className="mt-1 flex flex-wrap items-end gap-2" data-lamp-of={face.place}>
          <span className="w-28 pb-2 font-semibold">{load.name || "Lamp"}</span>
          {load.power_w != null && (
            <Figure
              name={`Power of lamp ${index + 1}`}
              caption="Power"
              unit="W"
              required
              value={load.power_w}
              onCommit={(power_w) => tell({ op: "load", point: face.place, index, power_w })}
              className="w-24"
            />
          )}
          <Figure
            name={`Peak of lamp ${index + 1}`}
            caption="Peak, switched on"
            unit="A"
            placeholder="not said"
            value={load.inrush_a ?? null}
            onCommit={(inrush_a) => tell({ op: "load", point: face.place, index, inrush_a })}
            className="w-28"
          />
          <Choice
            name={`How lamp ${index + 1} may be dimmed`}
            caption="Made to be dimmed by"
            blank="not said"
            value={load.dimmed_by ?? ""}
            options={DIMMED}
            className="w-44"
            onCommit={(dimmed_by) => tell({ op: "load", point: face.place, index, dimmed_by })}
          />
        </div>
      ))}
      <div className="mt-2 flex flex-wrap gap-2">
        {next !== undefined && point.kind !== "light" && (
          <button
            className="btn btn-sm"
            onClick={() =>
              set([...gangs, { gang: next, kind: gangs.length ? "two-way" : "one-way", name: "", cord: false, at: 0 }])
            }
          >
            One more gang
          </button>
        )}
        <span className="pt-1 text-sm font-semibold">A cable found here</span>
        <Choice
          name={`Where a cable found at ${face.place} goes`}
          value={to}
          options={[
            ["", "nobody knows where"] as const,
            ["board", "to the board"] as const,
            ...others.map((each) => [each.id, `to ${each.name || each.id}`] as const),
          ]}
          onCommit={setTo}
          className="select-sm w-44"
        />
        <Choice
          name={`Cable found at ${face.place}`}
          value=""
          blank="add one, by its colours…"
          options={(choices?.found_cables ?? []).map((each) => [each.id, each.words] as const)}
          onCommit={(id) => {
            const cable = choices?.found_cables.find((each) => each.id === id)?.cable;
            if (cable)
              tell({
                op: "add-cable",
                point: face.place,
                to: to || null,
                cable: { ...cable, csa_mm2: circuit.cable.csa_mm2 },
              });
          }}
          className="select-sm w-56"
        />
      </div>
    </div>
  );
}
