import type { Choices, Circuit } from "../../api/client";
import { plain } from "../../numbers";
import { Choice, listed } from "../../parts/fields";
import type { Sets } from "./inspecting";

export type Device = Circuit["device"];

interface Props {
  device: Device;
  choices: Choices;
  onSet: (changes: Sets<"device", "ahead">) => void;
}

/** The preset that a device's RCD is, all but its type; nothing where it is none of them. */
function presetOf(device: Device, choices: Choices): string {
  const rcd = device.rcd ?? null;
  const same = choices.rcds.find(({ rcd: each }) => {
    const preset = each ?? null;
    if (preset === null || rcd === null || preset === "unknown" || rcd === "unknown") return preset === rcd;
    return preset.rated_ma === rcd.rated_ma && preset.delayed === rcd.delayed && preset.shared === rcd.shared;
  });
  return same?.id ?? "";
}

/** A protective device: standard, curve, rating, breaking capacity, and the RCD that goes with it. */
export function DeviceFields({ device, choices, onSet }: Props) {
  const standards = choices.devices.filter((each) => each.id !== "bs1362");
  const standard = standards.find((each) => each.id === device.standard);
  const rcd = device.rcd && device.rcd !== "unknown" ? device.rcd : undefined;
  return (
    <span className="join flex-wrap">
      <Choice
        name="Device"
        className="select-sm join-item w-36"
        value={device.standard}
        options={standards.map((each) => [each.id as Device["standard"], each.short] as const)}
        onCommit={(chosen) => onSet({ standard: chosen })}
      />
      {device.curve && (
        <Choice
          name="Curve"
          className="select-sm join-item w-16"
          value={device.curve}
          options={(standard?.curves ?? []).map((curve) => [curve, curve] as const)}
          onCommit={(curve) => onSet({ curve: curve as NonNullable<Device["curve"]> })}
        />
      )}
      <Choice
        name="Rating"
        className="select-sm join-item w-22 font-bold"
        value={String(device.rating_a)}
        options={listed(standard?.ratings_a, device.rating_a, "A")}
        onCommit={(rating) => onSet({ rating_a: Number(rating) })}
      />
      {(standard?.breaking_capacities_ka.length ?? 0) > 0 && (
        <Choice
          name="Breaking capacity"
          className="select-sm join-item w-20"
          value={String(device.breaking_capacity_ka ?? "")}
          blank="kA?"
          options={(standard?.breaking_capacities_ka ?? []).map((ka) => [String(ka), `${plain(ka)} kA`] as const)}
          onCommit={(ka) => onSet({ breaking_capacity_ka: Number(ka) })}
        />
      )}
      {rcd?.shared ? (
        <span className="join-item self-center px-2 text-sm font-semibold" data-shared-rcd>
          {rcd.rated_ma ? `${plain(rcd.rated_ma)} mA` : "RCD"} of its group on the board
        </span>
      ) : (
        <Choice
          name="RCD"
          className="select-sm join-item w-40"
          value={presetOf(device, choices)}
          blank={rcd?.rated_ma ? `${plain(rcd.rated_ma)} mA, other` : "RCD, rating?"}
          options={choices.rcds
            .filter(({ rcd: each }) => !each || each === "unknown" || !each.shared)
            .map((each) => [each.id, each.name] as const)}
          onCommit={(rcd) => onSet({ rcd: rcd as Sets<"device">["rcd"] & string })}
        />
      )}
      {rcd && !rcd.shared && (
        <Choice
          name="RCD type"
          className="select-sm join-item w-24"
          value={rcd.type ?? ""}
          blank="type?"
          options={choices.rcd_types.map((type) => [type, `type ${type}`] as const)}
          onCommit={(rcd_type) => onSet({ rcd_type })}
        />
      )}
    </span>
  );
}
