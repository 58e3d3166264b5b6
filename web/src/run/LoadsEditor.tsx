import type { Choices, Load, Point } from "../api/client";
import { Choice, Figure, Words } from "../parts/fields";

const DC_PARTS: readonly (readonly [Load["dc"], string])[] = [
  ["none", "no d.c. part"],
  ["pulsed", "pulsed d.c."],
  ["mixed", "mixed"],
  ["smooth-6ma", "6 mA cut-off"],
  ["smooth", "smooth d.c."],
];
const CLASSES: readonly (readonly [NonNullable<Load["diversity"]>, string])[] = [
  ["sockets", "sockets"],
  ["lighting", "lighting"],
  ["cooker", "cooker"],
  ["instantaneous", "instantaneous"],
  ["thermostatic", "thermostatic"],
  ["fixed-heating", "fixed heating"],
  ["vehicle", "vehicle"],
];

/** A load of which nothing is known but the figure that goes with it. */
const BARE = { name: "", power_factor: 1, leakage_ma: 0, dc: "none" } as const;

/** What a point feeds: from the list of appliances or as a figure, each with what matters of it. */
export function LoadsEditor({ point, choices, onChange }: { point: Point; choices: Choices; onChange: (loads: Load[]) => void }) {
  const loads = point.loads;
  const change = (index: number, changes: Partial<Load>) =>
    onChange(loads.map((each, place) => (place === index ? { ...each, ...changes } : each)));
  return (
    <div className="flex w-full flex-col gap-1.5" data-loads={loads.length}>
      {loads.map((load, index) => (
        <LoadRow
          key={index}
          load={load}
          of={`Load ${index + 1}`}
          onChange={(changes) => change(index, changes)}
          onDrop={() => onChange(loads.filter((_, place) => place !== index))}
        />
      ))}
      <div className="flex flex-wrap gap-2">
        <Choice
          name="Appliance"
          className="select-sm w-56"
          value=""
          blank={loads.length === 0 ? "feeds… (usual load)" : "feeds also…"}
          options={choices.appliances.map((each) => [each.id, each.name] as const)}
          onCommit={(id) => {
            const chosen = choices.appliances.find((each) => each.id === id);
            if (chosen) onChange([...loads, chosen.load]);
          }}
        />
        {loads.length === 0 && (
          <Figure
            name="Load current"
            unit="A, or"
            className="input-sm w-28"
            placeholder="–"
            value={null}
            onCommit={(current_a) => current_a !== null && onChange([{ ...BARE, current_a }])}
          />
        )}
        {loads.length === 0 && (
          <Figure
            name="Load power"
            unit="W"
            className="input-sm w-28"
            placeholder="–"
            value={null}
            onCommit={(power_w) => power_w !== null && onChange([{ ...BARE, power_w }])}
          />
        )}
      </div>
    </div>
  );
}

interface RowProps {
  load: Load;
  of: string;
  onChange: (changes: Partial<Load>) => void;
  onDrop: () => void;
}

function LoadRow({ load, of, onChange, onDrop }: RowProps) {
  const byPower = load.power_w != null;
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <Words name={`${of} name`} className="input-sm w-32" placeholder="load" value={load.name} onCommit={(name) => onChange({ name })} />
      <Figure
        name={`${of} ${byPower ? "power" : "current"}`}
        unit={byPower ? "W" : "A"}
        className="input-sm w-24"
        required
        value={byPower ? load.power_w : load.current_a}
        onCommit={(figure) => onChange(byPower ? { power_w: figure } : { current_a: figure })}
      />
      {byPower && (
        <Figure
          name={`${of} power factor`}
          unit="cos φ"
          className="input-sm w-20"
          required
          value={load.power_factor}
          onCommit={(power_factor) => onChange({ power_factor: power_factor ?? 1 })}
        />
      )}
      <Figure
        name={`${of} leakage`}
        unit="mA leak"
        className="input-sm w-24"
        required
        value={load.leakage_ma}
        onCommit={(leakage_ma) => onChange({ leakage_ma: leakage_ma ?? 0 })}
      />
      <Choice name={`${of} d.c. part`} className="select-sm w-32" value={load.dc} options={DC_PARTS} onCommit={(dc) => onChange({ dc })} />
      <Choice
        name={`${of} diversity`}
        className="select-sm w-34"
        value={load.diversity ?? ""}
        blank="diversity class"
        options={CLASSES}
        onCommit={(diversity) => onChange({ diversity })}
      />
      <button className="btn btn-ghost btn-xs px-1" aria-label={`Drop ${of.toLowerCase()}`} onClick={onDrop}>
        ✕
      </button>
    </div>
  );
}
