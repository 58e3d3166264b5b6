import type { Choices, Circuit } from "../api/client";
import { plain } from "../numbers";
import { Choice, listed } from "../parts/fields";

export type Device = Circuit["device"];

interface Props {
  device: Device;
  choices: Choices;
  /** What the fields are called for those who cannot see them: "" or "Ahead 1". */
  of?: string;
  onChange: (changes: Partial<Device>) => void;
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

function rcdChoice(device: Device): RcdChoice {
  const rcd = device.rcd;
  if (!rcd) return "none";
  if (rcd.rated_ma >= 100) return "own-100";
  return rcd.shared ? "shared" : "own";
}

/** A protective device: standard, curve, rating, breaking capacity, and the RCD that goes with it. */
export function DeviceFields({ device, choices, of, onChange }: Props) {
  const called = (what: string) => (of ? `${of} ${what.toLowerCase()}` : what);
  const standards = choices.devices.filter((each) => each.id !== "bs1362");
  const standard = standards.find((each) => each.id === device.standard);

  function chooseStandard(id: Device["standard"]) {
    const chosen = standards.find((each) => each.id === id);
    if (!chosen) return;
    const nearest = chosen.ratings_a.reduce((best, each) =>
      Math.abs(each - device.rating_a) < Math.abs(best - device.rating_a) ? each : best,
    );
    const own = { rated_ma: 30, type: "A", delayed: false, shared: false } as const;
    onChange({
      standard: id,
      curve: chosen.curves.length > 0 ? (device.curve ?? "B") : null,
      rating_a: nearest,
      breaking_capacity_ka: chosen.breaking_capacities_ka[0] ?? null,
      rcd: id === "bs-en-61009" ? (device.rcd ?? own) : device.rcd?.shared ? device.rcd : null,
    });
  }

  function chooseRcd(choice: RcdChoice) {
    const type = device.rcd?.type ?? "A";
    const delayed = choice === "own-100";
    onChange({
      rcd: choice === "none" ? null : { rated_ma: delayed ? 100 : 30, type, delayed, shared: choice !== "own" },
    });
  }

  return (
    <span className="join flex-wrap">
      <Choice
        name={called("Device")}
        className="select-sm join-item w-36"
        value={device.standard}
        options={standards.map((each) => [each.id as Device["standard"], each.short] as const)}
        onCommit={chooseStandard}
      />
      {device.curve && (
        <Choice
          name={called("Curve")}
          className="select-sm join-item w-16"
          value={device.curve}
          options={[
            ["B", "B"],
            ["C", "C"],
            ["D", "D"],
          ]}
          onCommit={(curve) => onChange({ curve })}
        />
      )}
      <Choice
        name={called("Rating")}
        className="select-sm join-item w-22 font-bold"
        value={String(device.rating_a)}
        options={listed(standard?.ratings_a, device.rating_a, "A")}
        onCommit={(rating) => onChange({ rating_a: Number(rating) })}
      />
      {(standard?.breaking_capacities_ka.length ?? 0) > 0 && (
        <Choice
          name={called("Breaking capacity")}
          className="select-sm join-item w-20"
          value={String(device.breaking_capacity_ka ?? "")}
          blank="kA?"
          options={(standard?.breaking_capacities_ka ?? []).map((ka) => [String(ka), `${plain(ka)} kA`] as const)}
          onCommit={(ka) => onChange({ breaking_capacity_ka: Number(ka) })}
        />
      )}
      <Choice name={called("RCD")} className="select-sm join-item w-40" value={rcdChoice(device)} options={RCD} onCommit={chooseRcd} />
      {device.rcd && (
        <Choice
          name={called("RCD type")}
          className="select-sm join-item w-24"
          value={device.rcd.type}
          options={RCD_TYPES}
          onCommit={(type) => device.rcd && onChange({ rcd: { ...device.rcd, type } })}
        />
      )}
    </span>
  );
}
