import type { Choices, Command, Load, Point } from "../../api/client";
import { FieldGroup, type FieldOf } from "../../parts/FieldGroup";
import { Choice, Figure } from "../../parts/fields";
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
  const fields: readonly FieldOf<Sets<"load", "point" | "index">>[] = [
    { words: "name", name: `${of} name`, caption: "Feeds", width: "w-56", placeholder: "load" },
    byPower
      ? {
          figure: "power_w",
          name: `${of} power`,
          caption: "Power",
          width: "w-24",
          unit: "W",
          required: true,
        }
      : {
          figure: "current_a",
          name: `${of} current`,
          caption: "Current",
          width: "w-24",
          unit: "A",
          required: true,
        },
    {
      figure: "power_factor",
      name: `${of} power factor`,
      caption: "Power factor",
      width: "w-22",
      unit: "",
      required: true,
      when: byPower,
    },
    {
      figure: "rated_v",
      name: `${of} rated voltage`,
      caption: "Rated at",
      width: "w-24",
      unit: "V",
      placeholder: "usual",
      when: byPower,
    },
    { figure: "leakage_ma", name: `${of} leakage`, caption: "Leakage", width: "w-24", unit: "mA", required: true },
    {
      choice: "dc",
      name: `${of} d.c. part`,
      caption: "d.c. part",
      width: "w-52",
      blank: "not said",
      options: DC_PARTS,
    },
    {
      choice: "diversity",
      name: `${of} diversity`,
      caption: "Diversity as",
      width: "w-38",
      blank: "none",
      options: CLASSES,
    },
  ];
  return (
    <div className="flex flex-wrap items-end gap-x-2 gap-y-1.5">
      <FieldGroup of={load} fields={fields} onSet={onSet} />
      <button className="btn btn-ghost btn-xs px-1" aria-label={`Drop ${of.toLowerCase()}`} onClick={onDrop}>
        ✕
      </button>
    </div>
  );
}
