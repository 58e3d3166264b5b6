import type { ReactNode } from "react";
import type { Choices, Circuit } from "../api/client";
import { plain } from "../numbers";
import { Choice, Figure, Words } from "../parts/fields";

interface Props {
  circuit: Circuit;
  choices: Choices;
  onChange: (make: (design: Circuit) => Circuit) => void;
}

const RCD = [
  ["none", "no RCD"],
  ["own", "30 mA in it"],
  ["shared", "30 mA shared"],
  ["own-100", "100 mA delayed"],
] as const;
type RcdChoice = (typeof RCD)[number][0];
const RCD_TYPES = [
  ["AC", "type AC"],
  ["A", "type A"],
  ["F", "type F"],
  ["B", "type B"],
] as const;

function rcdChoice(circuit: Circuit): RcdChoice {
  const rcd = circuit.device.rcd;
  if (!rcd) return "none";
  if (rcd.rated_ma >= 100) return "own-100";
  return rcd.shared ? "shared" : "own";
}

/** What the circuit is, what protects it and what it is wired in: the line above the drawing. */
export function CircuitHead({ circuit, choices, onChange }: Props) {
  const { device, cable, surroundings } = circuit;
  const standard = choices.devices.find((each) => each.id === device.standard);
  const type = choices.cables.find((each) => each.id === cable.type);
  const setDevice = (changes: Partial<Circuit["device"]>) =>
    onChange((design) => ({ ...design, device: { ...design.device, ...changes } }));
  const setCable = (changes: Partial<Circuit["cable"]>) => onChange((design) => ({ ...design, cable: { ...design.cable, ...changes } }));
  const setPlace = (changes: Partial<Circuit["surroundings"]>) =>
    onChange((design) => ({ ...design, surroundings: { ...design.surroundings, ...changes } }));

  function chooseKind(kind: Circuit["kind"]) {
    const usual = choices.kinds.find((each) => each.id === kind);
    onChange((design) => ({
      ...design,
      kind,
      // The usual device and size of the kind, as long as nothing is drawn yet.
      ...(usual && design.points.length === 0
        ? { device: { ...design.device, rating_a: usual.rating_a }, cable: { ...design.cable, csa_mm2: usual.csa_mm2 } }
        : {}),
    }));
  }

  function chooseStandard(id: Circuit["device"]["standard"]) {
    const chosen = choices.devices.find((each) => each.id === id);
    if (!chosen) return;
    const nearest = chosen.ratings_a.reduce((best, each) =>
      Math.abs(each - device.rating_a) < Math.abs(best - device.rating_a) ? each : best,
    );
    setDevice({
      standard: id,
      curve: chosen.curves.length > 0 ? (device.curve ?? "B") : null,
      rating_a: nearest,
      breaking_capacity_ka: chosen.breaking_capacities_ka[0] ?? null,
      rcd:
        id === "bs-en-61009"
          ? (device.rcd ?? { rated_ma: 30, type: "A", delayed: false, shared: false })
          : device.rcd?.shared
            ? device.rcd
            : null,
    });
  }

  function chooseCable(id: Circuit["cable"]["type"]) {
    const chosen = choices.cables.find((each) => each.id === id);
    onChange((design) => ({
      ...design,
      cable: {
        ...design.cable,
        type: id,
        insulation: chosen?.insulations.includes(design.cable.insulation) ? design.cable.insulation : "pvc70",
        cpc_mm2: null,
      },
      method: chosen?.methods.some((method) => method.id === design.method) ? design.method : (chosen?.methods[0]?.id ?? design.method),
    }));
  }

  function chooseRcd(choice: RcdChoice) {
    const kind = device.rcd?.type ?? "A";
    setDevice({
      rcd:
        choice === "none"
          ? null
          : { rated_ma: choice === "own-100" ? 100 : 30, type: kind, delayed: choice === "own-100", shared: choice !== "own" },
    });
  }

  return (
    <div className="flex flex-col gap-1.5 px-4 py-2">
      <Row>
        <Figure
          name="Circuit number"
          unit=""
          className="input-sm w-12"
          value={circuit.number}
          required
          onCommit={(number) => onChange((design) => ({ ...design, number: number ?? 1 }))}
        />
        <Words
          name="Circuit name"
          className="input-sm w-60 text-base font-bold"
          value={circuit.name}
          onCommit={(name) => onChange((design) => ({ ...design, name }))}
        />
        <Choice
          name="Kind of circuit"
          className="select-sm w-44"
          value={circuit.kind}
          options={choices.kinds.map((kind) => [kind.id as Circuit["kind"], kind.name] as const)}
          onCommit={chooseKind}
        />
        <Figure
          name="Floor area"
          unit="m² served"
          placeholder="?"
          className="input-sm w-32"
          value={surroundings.floor_area_m2}
          onCommit={(floor_area_m2) => setPlace({ floor_area_m2 })}
        />
      </Row>
      <Row label="Cable">
        <span className="join">
          <Choice
            name="Cable"
            className="select-sm join-item w-48"
            value={cable.type}
            options={choices.cables.map((each) => [each.id as Circuit["cable"]["type"], each.name] as const)}
            onCommit={chooseCable}
          />
          {(type?.insulations.length ?? 0) > 1 && (
            <Choice
              name="Insulation"
              className="select-sm join-item w-28"
              value={cable.insulation}
              options={[
                ["pvc70", "PVC 70 °C"],
                ["xlpe90", "XLPE 90 °C"],
              ]}
              onCommit={(insulation) => setCable({ insulation })}
            />
          )}
          <Choice
            name="Cable size"
            className="select-sm join-item w-28 font-bold"
            value={String(cable.csa_mm2)}
            options={listed(type?.csas_mm2, cable.csa_mm2, "mm²")}
            onCommit={(csa) => setCable({ csa_mm2: Number(csa), cpc_mm2: null })}
          />
        </span>
        <Choice
          name="Reference method"
          className="select-sm w-60"
          value={circuit.method}
          options={(type?.methods ?? []).map((method) => [method.id, `${method.id}: ${method.name}`] as const)}
          onCommit={(method) => onChange((design) => ({ ...design, method }))}
        />
      </Row>
      <Row label="Device">
        <span className="join">
          <Choice
            name="Device"
            className="select-sm join-item w-36"
            value={device.standard}
            options={choices.devices
              .filter((each) => each.id !== "bs1362")
              .map((each) => [each.id as Circuit["device"]["standard"], each.short] as const)}
            onCommit={chooseStandard}
          />
          {device.curve && (
            <Choice
              name="Curve"
              className="select-sm join-item w-16"
              value={device.curve}
              options={[
                ["B", "B"],
                ["C", "C"],
                ["D", "D"],
              ]}
              onCommit={(curve) => setDevice({ curve })}
            />
          )}
          <Choice
            name="Rating"
            className="select-sm join-item w-22 font-bold"
            value={String(device.rating_a)}
            options={listed(standard?.ratings_a, device.rating_a, "A")}
            onCommit={(rating) => setDevice({ rating_a: Number(rating) })}
          />
          <Choice
            name="Breaking capacity"
            className="select-sm join-item w-20"
            value={String(device.breaking_capacity_ka ?? "")}
            blank="kA?"
            options={(standard?.breaking_capacities_ka ?? []).map((ka) => [String(ka), `${plain(ka)} kA`] as const)}
            onCommit={(ka) => setDevice({ breaking_capacity_ka: Number(ka) })}
          />
          <Choice name="RCD" className="select-sm join-item w-40" value={rcdChoice(circuit)} options={RCD} onCommit={chooseRcd} />
          {device.rcd && (
            <Choice
              name="RCD type"
              className="select-sm join-item w-24"
              value={device.rcd.type}
              options={RCD_TYPES}
              onCommit={(kind) => device.rcd && setDevice({ rcd: { ...device.rcd, type: kind } })}
            />
          )}
        </span>
      </Row>
      <details>
        <summary className="cursor-pointer text-sm">
          <b>Earth and surroundings:</b> {circuit.own_earth ? "electrode of its own" : "earth of the supply"}
          {cable.cpc_by !== "core" && `, ${cable.cpc_by} as cpc`}
          {surroundings.concealed_shallow && ", in walls under 50 mm"}
          {surroundings.bath_room && ", bath or shower room"}
          {device.afdd && ", arc-fault detection"}
        </summary>
        <div className="flex flex-col gap-1.5 pt-1.5">
          <Row label="Earth">
            {cable.type === "armoured" && (
              <>
                <Choice
                  name="Cores"
                  className="select-sm w-24"
                  value={String(cable.cores) as "2" | "3" | "4"}
                  options={[
                    ["2", "2-core"],
                    ["3", "3-core"],
                    ["4", "4-core"],
                  ]}
                  onCommit={(cores) => setCable({ cores: Number(cores) as 2 | 3 | 4 })}
                />
                <Choice
                  name="cpc by"
                  className="select-sm w-36"
                  value={cable.cpc_by}
                  options={[
                    ["core", "a core as cpc"],
                    ["armour", "armour as cpc"],
                  ]}
                  onCommit={(cpc_by) => setCable({ cpc_by })}
                />
              </>
            )}
            {cable.type === "single-core" && (
              <Choice
                name="cpc by"
                className="select-sm w-44"
                value={cable.cpc_by}
                options={[
                  ["core", "a conductor as cpc"],
                  ["conduit", "metal conduit as cpc"],
                ]}
                onCommit={(cpc_by) => setCable({ cpc_by })}
              />
            )}
            {cable.cpc_by === "conduit" && (
              <Figure
                name="Conduit resistance"
                unit="mΩ/m"
                placeholder="maker’s"
                className="input-sm w-32"
                value={cable.conduit_milliohm_per_m}
                onCommit={(conduit_milliohm_per_m) => setCable({ conduit_milliohm_per_m })}
              />
            )}
            <Choice
              name="Earth of the circuit"
              className="select-sm w-44"
              value={circuit.own_earth ? "own" : "supply"}
              options={[
                ["supply", "earth of the supply"],
                ["own", "electrode of its own"],
              ]}
              onCommit={(earth) => onChange((design) => ({ ...design, own_earth: earth === "own" ? { electrode_ohm: null } : null }))}
            />
            {circuit.own_earth && (
              <Figure
                name="Electrode"
                unit="Ω electrode"
                placeholder="?"
                className="input-sm w-36"
                value={circuit.own_earth.electrode_ohm}
                onCommit={(electrode_ohm) => onChange((design) => ({ ...design, own_earth: { electrode_ohm } }))}
              />
            )}
            <Choice
              name="Colours"
              className="select-sm w-44"
              value={cable.colours}
              options={[
                ["harmonised", "harmonised colours"],
                ["uk-before-2004", "colours before 2004"],
              ]}
              onCommit={(colours) => setCable({ colours })}
            />
            <Tick words="arc-fault detection" checked={device.afdd} onChange={(afdd) => setDevice({ afdd })} />
          </Row>
          <Row label="Runs">
            <Tick
              words="through a bath or shower room"
              checked={surroundings.bath_room}
              onChange={(bath_room) => setPlace({ bath_room })}
            />
            <Tick
              words="in walls, less than 50 mm deep"
              checked={surroundings.concealed_shallow}
              onChange={(concealed_shallow) => setPlace({ concealed_shallow })}
            />
          </Row>
        </div>
      </details>
    </div>
  );
}

function Row({ label, children }: { label?: string; children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      {label && <span className="w-12 text-sm font-semibold">{label}</span>}
      {children}
    </div>
  );
}

function Tick({ words, checked, onChange }: { words: string; checked: boolean; onChange: (checked: boolean) => void }) {
  return (
    <label className="mr-4 flex items-center gap-2 text-sm">
      <input type="checkbox" className="checkbox checkbox-sm" checked={checked} onChange={(event) => onChange(event.target.checked)} />
      {words}
    </label>
  );
}

/** The listed figures, with the one in force even where it is not listed. */
function listed(figures: readonly number[] | undefined, inForce: number, unit: string) {
  return [...new Set([...(figures ?? []), inForce])].sort((a, b) => a - b).map((each) => [String(each), `${plain(each)} ${unit}`] as const);
}
