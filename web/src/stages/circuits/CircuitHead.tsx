import { Link } from "react-router-dom";
import type { ReactNode } from "react";
import type { Choices, Circuit, Command } from "../../api/client";
import { plain } from "../../numbers";
import { useJob } from "../../data/useJob";
import { ORIGIN } from "../../parts/origin";
import { FieldGroup, type FieldOf } from "../../parts/FieldGroup";
import { Choice, Figure, Tick, Words } from "../../parts/fields";
import { CableFields, CpcFields } from "./CableFields";
import { DeviceFields } from "./DeviceFields";
import type { Sets } from "./inspecting";

export const STATES = [
  ["new", "new"],
  ["altered", "altered"],
  ["as-found", "as found"],
] as const;

interface Props {
  circuit: Circuit;
  choices: Choices;
  /** How the design departs from the usual for its kind: a reason is asked for. */
  departs: string;
  /** What its own electrode was read at on its test sheet, Ω. */
  electrodeRead: number | null;
  onCommand: (command: Command) => void;
}

/** What the circuit is, what protects it and what it is wired in: the lines above the drawing. */
export function CircuitHead({ circuit, choices, departs, electrodeRead, onCommand }: Props) {
  const job = useJob();
  const type = choices.cables.find((each) => each.id === circuit.cable.type);
  const set = (changes: Sets<"circuit">) => onCommand({ op: "circuit", ...changes });
  const setPlace = (changes: Sets<"surroundings">) => onCommand({ op: "surroundings", ...changes });
  const setCable = (changes: Sets<"cable">) => onCommand({ op: "cable", ...changes });

  return (
    <div className="flex flex-col gap-1.5 px-4 py-2 max-lg:order-last">
      <h1 className="sr-only">
        Circuit {circuit.number}, {circuit.name}
      </h1>
      <Row>
        <Link
          className="px-1 text-xl font-bold underline decoration-1 underline-offset-4"
          to={`/jobs/${job.id}/board`}
          title="Its number is that of its way: change it on the board"
          data-number
        >
          {circuit.number}
        </Link>
        <Words
          name="Circuit name"
          className="input-sm w-52 text-base font-bold"
          value={circuit.name}
          onCommit={(name) => set({ name })}
        />
        <Choice
          name="Kind of circuit"
          className="select-sm w-40"
          value={circuit.kind}
          options={choices.kinds.map((kind) => [kind.id, kind.name] as const)}
          onCommit={(kind) => set({ kind })}
        />
        <Choice
          name="State of the circuit"
          className="select-sm w-28"
          value={circuit.state}
          options={STATES}
          onCommit={(state) => set({ state })}
        />
        {circuit.state !== "new" && (
          <Figure
            name="Year"
            unit=""
            placeholder="year?"
            className="input-sm w-20"
            value={circuit.year}
            onCommit={(year) => set({ year })}
          />
        )}
        {circuit.state === "altered" && (
          <Tick words="new device" checked={circuit.device_new} onChange={(device_new) => set({ device_new })} />
        )}
        <Figure
          name="Floor area"
          unit="m² served"
          placeholder="?"
          className="input-sm w-28"
          value={circuit.surroundings.floor_area_m2}
          onCommit={(floor_area_m2) => setPlace({ floor_area_m2 })}
        />
      </Row>
      <Row label="Cable">
        <CableFields cable={circuit.cable} choices={choices} onSet={setCable} />
        <Choice
          name="Reference method"
          className="select-sm w-64"
          value={circuit.method}
          options={(type?.methods ?? []).map((method) => [method.id, `${method.id}: ${method.name}`] as const)}
          onCommit={(method) => set({ method })}
        />
      </Row>
      <Row label="Device">
        <DeviceFields
          device={circuit.device}
          choices={choices}
          onSet={(changes) => onCommand({ op: "device", ...changes })}
        />
      </Row>
      {(departs || circuit.reason) && (
        <Row label="Reason">
          <Words
            name="Reason"
            className={`input-sm min-w-0 grow ${departs ? "border-warning" : ""}`}
            placeholder={departs || "Why it departs from the usual"}
            maxLength={2000}
            value={circuit.reason}
            onCommit={(reason) => set({ reason })}
          />
        </Row>
      )}
      <Details
        circuit={circuit}
        electrodeRead={electrodeRead}
        onCommand={onCommand}
        setCable={setCable}
        setPlace={setPlace}
      />
    </div>
  );
}

const RUNS: readonly FieldOf<Sets<"surroundings">>[] = [
  { answer: "concealed_shallow", name: "In walls under 50 mm", caption: "In walls, under 50 mm deep", width: "w-44" },
  { answer: "bath_room", name: "Bath or shower room", caption: "Bath or shower room", width: "w-36" },
  { answer: "no_tray", name: "Shower with no tray", caption: "Shower with no tray", width: "w-36" },
  {
    answer: "supplementary_bonding",
    name: "Bath room bonded",
    caption: "Its metal parts bonded",
    width: "w-40",
  },
];
const DEVICE: readonly FieldOf<Sets<"device">>[] = [
  {
    figure: "let_through_a2s",
    name: "Let-through energy",
    caption: "Lets through, by its maker",
    width: "w-44",
    unit: "A²s",
    placeholder: "not said",
  },
  { answer: "bidirectional", name: "Bidirectional", caption: "Fed from either side", width: "w-40" },
  { answer: "all_poles", name: "Breaks all poles", caption: "Breaks the neutral too", width: "w-40" },
];

interface DetailsProps {
  circuit: Circuit;
  electrodeRead: number | null;
  onCommand: (command: Command) => void;
  setCable: (changes: Sets<"cable">) => void;
  setPlace: (changes: Sets<"surroundings">) => void;
}

/** The earth, where the run goes, and how its voltage drop is worked out: seldom changed, said in one line. */
function Details({ circuit, electrodeRead, onCommand, setCable, setPlace }: DetailsProps) {
  const { cable, surroundings, device, own_earth: own } = circuit;
  function setOwn(changes: Partial<NonNullable<typeof own>>): void {
    onCommand({ op: "earth", own_earth: changes });
  }
  const read = electrodeRead != null ? `read at ${plain(electrodeRead)} Ω` : "";
  const said = [
    own ? `electrode of its own${read && `, ${read}`}` : "earth of the supply",
    cable.cpc_by === "none" ? "no cpc" : cable.cpc_by && cable.cpc_by !== "core" && `${cable.cpc_by} as cpc`,
    surroundings.concealed_shallow
      ? "in walls under 50 mm"
      : surroundings.concealed_shallow == null && "in walls: not said",
    surroundings.bath_room && "bath or shower room",
    circuit.terminals_90 && "terminals for 90 °C",
    surroundings.lost_neutral_guard && "cut off at a lost neutral",
    device.afdd && "arc-fault detection",
    circuit.drop_with_ct && "voltage drop with Ct",
  ].filter(Boolean);
  return (
    <details>
      <summary className="cursor-pointer text-sm">
        <b>Earth and surroundings:</b> {said.join(", ")}
      </summary>
      <div className="flex flex-col gap-1.5 pt-1.5">
        <Row label="Earth">
          <CpcFields cable={cable} onSet={setCable} />
          <Choice
            name="Earth of the circuit"
            className="select-sm w-40"
            value={own ? "own" : "supply"}
            options={[
              ["supply", "earth of the supply"],
              ["own", "electrode of its own"],
            ]}
            onCommit={(earth) => onCommand({ op: "earth", own_earth: earth === "own" ? {} : null })}
          />
          {own && (
            <>
              <Figure
                name="Electrode"
                unit="Ω electrode"
                placeholder="?"
                className="input-sm w-36"
                value={own.electrode_ohm}
                onCommit={(electrode_ohm) => setOwn({ electrode_ohm })}
              />
              <Choice
                name="Electrode origin"
                className="select-sm w-32"
                value={own.electrode_origin ?? ""}
                blank="not said"
                options={ORIGIN}
                onCommit={(electrode_origin) => setOwn({ electrode_origin })}
              />
              {read && (
                <span className="text-sm" data-electrode-read>
                  {read} on its <b>test sheet</b>
                </span>
              )}
            </>
          )}
        </Row>
        <Row label="Runs">
          <FieldGroup of={surroundings} fields={RUNS} onSet={setPlace} />
        </Row>
        <Row label="Outside">
          <Tick
            words="what it feeds outdoors cuts off at a lost neutral"
            checked={surroundings.lost_neutral_guard}
            onChange={(lost_neutral_guard) => setPlace({ lost_neutral_guard })}
          />
        </Row>
        <Row label="Device">
          <FieldGroup
            of={device}
            fields={DEVICE}
            onSet={(changes: Sets<"device">) => onCommand({ op: "device", ...changes })}
          />
          <Tick
            words="terminals made for 90 °C"
            checked={circuit.terminals_90}
            onChange={(terminals_90) => onCommand({ op: "circuit", terminals_90 })}
          />
        </Row>
        <Row label="Also">
          <Tick
            words="arc-fault detection"
            checked={device.afdd}
            onChange={(afdd) => onCommand({ op: "device", afdd })}
          />
          <Tick
            words="voltage drop with Ct, as warm as the load makes it"
            checked={circuit.drop_with_ct}
            onChange={(drop_with_ct) => onCommand({ op: "circuit", drop_with_ct })}
          />
        </Row>
      </div>
    </details>
  );
}

function Row({ label, children }: { label?: string; children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      {label && <span className="w-14 text-sm font-semibold">{label}</span>}
      {children}
    </div>
  );
}
