import type { Choices, Circuit } from "../api/client";
import { plain } from "../numbers";
import { Choice, Figure, Labelled, Words } from "../parts/fields";

interface Props {
  circuit: Circuit;
  choices: Choices;
  onChange: (make: (design: Circuit) => Circuit) => void;
}

const RCD = [
  ["none", "no RCD"],
  ["own", "30 mA in the device"],
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
  const setDevice = (changes: Partial<Circuit["device"]>) => onChange((design) => ({ ...design, device: { ...design.device, ...changes } }));
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
    const nearest = chosen.ratings_a.reduce((best, each) => (Math.abs(each - device.rating_a) < Math.abs(best - device.rating_a) ? each : best));
    setDevice({
      standard: id,
      curve: chosen.curves.length > 0 ? (device.curve ?? "B") : null,
      rating_a: nearest,
      breaking_capacity_ka: chosen.breaking_capacities_ka[0] ?? null,
      rcd: id === "bs-en-61009" ? (device.rcd ?? { rated_ma: 30, type: "A", delayed: false, shared: false }) : device.rcd?.shared ? device.rcd : null,
    });
  }

  function chooseRcd(choice: RcdChoice) {
    const kind = device.rcd?.type ?? "A";
    setDevice({
      rcd: choice === "none" ? null : { rated_ma: choice === "own-100" ? 100 : 30, type: kind, delayed: choice === "own-100", shared: choice !== "own" },
    });
  }

  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 px-4 py-2">
      <Labelled label="No.">
        <Figure name="Circuit number" unit="" className="w-14" value={circuit.number} required onCommit={(number) => onChange((design) => ({ ...design, number: number ?? 1 }))} />
      </Labelled>
      <Labelled label="Circuit">
        <Words name="Circuit name" className="w-56 text-lg font-semibold" value={circuit.name} onCommit={(name) => onChange((design) => ({ ...design, name }))} />
      </Labelled>
      <Labelled label="Serves">
        <Choice
          name="Kind of circuit"
          className="w-44"
          value={circuit.kind}
          options={choices.kinds.map((kind) => [kind.id as Circuit["kind"], kind.name] as const)}
          onCommit={chooseKind}
        />
      </Labelled>
      <Labelled label="Cable">
        <span className="join">
          <Choice
            name="Cable"
            className="join-item w-44"
            value={cable.type}
            options={choices.cables.map((each) => [each.id as Circuit["cable"]["type"], each.name] as const)}
            onCommit={(id) => {
              const chosen = choices.cables.find((each) => each.id === id);
              onChange((design) => ({
                ...design,
                cable: { ...design.cable, type: id, insulation: (chosen?.insulations.includes(design.cable.insulation) ? design.cable.insulation : "pvc70"), cpc_mm2: null },
                method: chosen?.methods.some((method) => method.id === design.method) ? design.method : (chosen?.methods[0]?.id ?? design.method),
              }));
            }}
          />
          {(type?.insulations.length ?? 0) > 1 && (
            <Choice
              name="Insulation"
              className="join-item w-24"
              value={cable.insulation}
              options={[
                ["pvc70", "PVC 70"],
                ["xlpe90", "XLPE 90"],
              ]}
              onCommit={(insulation) => setCable({ insulation })}
            />
          )}
          <Choice
            name="Cable size"
            className="join-item w-28 font-semibold"
            value={String(cable.csa_mm2)}
            options={[...new Set([...(type?.csas_mm2 ?? []), cable.csa_mm2])].sort((a, b) => a - b).map((csa) => [String(csa), `${plain(csa)} mm²`] as const)}
            onCommit={(csa) => setCable({ csa_mm2: Number(csa), cpc_mm2: null })}
          />
        </span>
      </Labelled>
      <Labelled label="Reference method">
        <Choice
          name="Reference method"
          className="w-56"
          value={circuit.method}
          options={(type?.methods ?? []).map((method) => [method.id, `${method.id}: ${method.name}`] as const)}
          onCommit={(method) => onChange((design) => ({ ...design, method }))}
        />
      </Labelled>
      <Labelled label="Device">
        <span className="join">
          <Choice
            name="Device"
            className="join-item w-36"
            value={device.standard}
            options={choices.devices.filter((each) => each.id !== "bs1362").map((each) => [each.id as Circuit["device"]["standard"], each.short] as const)}
            onCommit={chooseStandard}
          />
          {device.curve && (
            <Choice
              name="Curve"
              className="join-item w-16"
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
            className="join-item w-22 font-semibold"
            value={String(device.rating_a)}
            options={[...new Set([...(standard?.ratings_a ?? []), device.rating_a])].sort((a, b) => a - b).map((rating) => [String(rating), `${plain(rating)} A`] as const)}
            onCommit={(rating) => setDevice({ rating_a: Number(rating) })}
          />
          <Choice
            name="Breaking capacity"
            className="join-item w-22"
            value={String(device.breaking_capacity_ka ?? "")}
            blank="kA?"
            options={(standard?.breaking_capacities_ka ?? []).map((ka) => [String(ka), `${plain(ka)} kA`] as const)}
            onCommit={(ka) => setDevice({ breaking_capacity_ka: Number(ka) })}
          />
        </span>
      </Labelled>
      <Labelled label="RCD">
        <span className="join">
          <Choice name="RCD" className="join-item w-44" value={rcdChoice(circuit)} options={RCD} onCommit={chooseRcd} />
          {device.rcd && (
            <Choice
              name="RCD type"
              className="join-item w-26"
              value={device.rcd.type}
              options={RCD_TYPES}
              onCommit={(kind) => device.rcd && setDevice({ rcd: { ...device.rcd, type: kind } })}
            />
          )}
        </span>
      </Labelled>
      <Labelled label="Floor area">
        <Figure name="Floor area" unit="m²" className="w-24" value={surroundings.floor_area_m2} onCommit={(floor_area_m2) => setPlace({ floor_area_m2 })} />
      </Labelled>
      <label className="flex h-10 items-center gap-2">
        <input type="checkbox" className="checkbox checkbox-sm" checked={surroundings.bath_room} onChange={(event) => setPlace({ bath_room: event.target.checked })} />
        bath or shower room
      </label>
      <label className="flex h-10 items-center gap-2">
        <input type="checkbox" className="checkbox checkbox-sm" checked={surroundings.concealed_shallow} onChange={(event) => setPlace({ concealed_shallow: event.target.checked })} />
        in walls under 50 mm
      </label>
    </div>
  );
}
