import type { Choices, Command, Load, Point } from "../../api/client";
import { Choice, Figure, Words } from "../../parts/fields";
import type { Sets } from "./inspecting";

const DC_PARTS: readonly (readonly [NonNullable<Load["dc"]>, string])[] = [
  ["none", "none"],
  ["pulsed", "pulsed d.c."],
  ["mixed", "mixed, inverter motor"],
  ["smooth-6ma", "smooth, cut off at 6 mA"],
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

interface Props {
  point: Point;
  choices: Choices;
  onCommand: (command: Command) => void;
}

/** What a point feeds: from the list of appliances or as a figure, each with what matters of it. */
export function LoadsEditor({ point, choices, onCommand }: Props) {
  const loads = point.loads;
  const add = (what: Sets<"add-load", "point">) => onCommand({ op: "add-load", point: point.id, ...what });
  return (
    <div className="flex w-full flex-col gap-1.5" data-loads={loads.length}>
      {loads.map((load, index) => (
        <LoadRow
          key={index}
          load={load}
          of={`Load ${index + 1}`}
          onSet={(changes) => onCommand({ op: "load", point: point.id, index, ...changes })}
          onDrop={() => onCommand({ op: "drop-load", point: point.id, index })}
        />
      ))}
      <div className="flex flex-wrap gap-2">
        <Choice
          name="Appliance"
          caption="From the list"
          className="select-sm w-72"
          value=""
          blank={loads.length === 0 ? "feeds…" : "feeds also…"}
          options={choices.appliances.map((each) => [each.id, each.name] as const)}
          onCommit={(appliance) => add({ appliance })}
        />
        {loads.length === 0 && (
          <Figure
            name="Load current"
            caption="Or its current"
            unit="A"
            className="input-sm w-28"
            placeholder="–"
            value={null}
            onCommit={(current_a) => current_a !== null && add({ current_a })}
          />
        )}
        {loads.length === 0 && (
          <Figure
            name="Load power"
            caption="Or its power"
            unit="W"
            className="input-sm w-28"
            placeholder="–"
            value={null}
            onCommit={(power_w) => power_w !== null && add({ power_w })}
          />
        )}
      </div>
    </div>
  );
}

interface RowProps {
  load: Load;
  of: string;
  onSet: (changes: Sets<"load", "point" | "index">) => void;
  onDrop: () => void;
}

function LoadRow({ load, of, onSet, onDrop }: RowProps) {
  const byPower = load.power_w != null;
  return (
    <div className="flex flex-wrap items-end gap-x-2 gap-y-1.5">
      <Words
        name={`${of} name`}
        caption="Feeds"
        className="input-sm w-56"
        placeholder="load"
        value={load.name}
        onCommit={(name) => onSet({ name })}
      />
      <Figure
        name={`${of} ${byPower ? "power" : "current"}`}
        caption={byPower ? "Power" : "Current"}
        unit={byPower ? "W" : "A"}
        className="input-sm w-24"
        required
        value={byPower ? load.power_w : load.current_a}
        onCommit={(figure) => onSet(byPower ? { power_w: figure } : { current_a: figure })}
      />
      {byPower && (
        <>
          <Figure
            name={`${of} power factor`}
            caption="Power factor"
            unit=""
            className="input-sm w-22"
            required
            value={load.power_factor}
            onCommit={(power_factor) => onSet({ power_factor: power_factor ?? 1 })}
          />
          <Figure
            name={`${of} rated voltage`}
            caption="Rated at"
            unit="V"
            placeholder="usual"
            className="input-sm w-24"
            value={load.rated_v}
            onCommit={(rated_v) => onSet({ rated_v })}
          />
        </>
      )}
      <Figure
        name={`${of} leakage`}
        caption="Leakage"
        unit="mA"
        className="input-sm w-24"
        required
        value={load.leakage_ma}
        onCommit={(leakage_ma) => onSet({ leakage_ma: leakage_ma ?? 0 })}
      />
      <Choice
        name={`${of} d.c. part`}
        caption="d.c. part"
        className="select-sm w-52"
        value={load.dc ?? ""}
        blank="not said"
        options={DC_PARTS}
        onCommit={(dc) => onSet({ dc })}
      />
      <Choice
        name={`${of} diversity`}
        caption="Diversity as"
        className="select-sm w-38"
        value={load.diversity ?? ""}
        blank="none"
        options={CLASSES}
        onCommit={(diversity) => onSet({ diversity })}
      />
      <button className="btn btn-ghost btn-xs px-1" aria-label={`Drop ${of.toLowerCase()}`} onClick={onDrop}>
        ✕
      </button>
    </div>
  );
}
