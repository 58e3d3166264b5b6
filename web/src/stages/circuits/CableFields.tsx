import type { Choices, Circuit } from "../../api/client";
import { Choice, Figure, listed } from "../../parts/fields";
import type { Sets } from "./inspecting";

export type Cable = Circuit["cable"];

const CONDUITS = [
  ["20-light", "20 mm, light"],
  ["20-heavy", "20 mm, heavy"],
  ["25-light", "25 mm, light"],
  ["25-heavy", "25 mm, heavy"],
] as const;

interface Props {
  cable: Cable;
  choices: Choices;
  /** What the fields are called for those who cannot see them: "", "This", "Ahead 1". */
  of?: string;
  onSet: (changes: Sets<"cable", "leg" | "ahead">) => void;
}

/** The sizes of a type of cable, those of old copper after them by their strands. */
function sizesOf(type: Choices["cables"][number] | undefined, inForce: number) {
  const old = (type?.old_sizes ?? []).map((size) => [String(size.csa_mm2), size.words] as const);
  const now = old.some(([id]) => id === String(inForce)) ? type?.csas_mm2[0] : inForce;
  return [...listed(type?.csas_mm2, now ?? inForce, "mm²"), ...old];
}

function called(of: string | undefined, what: string): string {
  return of ? `${of} ${what.toLowerCase()}` : what;
}

/** A cable by type, insulation and size. */
export function CableFields({ cable, choices, of, onSet }: Props) {
  const type = choices.cables.find((each) => each.id === cable.type);
  return (
    <span className="join flex-wrap">
      <Choice
        name={called(of, "Cable")}
        className="select-sm join-item w-44"
        value={cable.type}
        options={choices.cables.map((each) => [each.id as Cable["type"], each.name] as const)}
        onCommit={(chosen) => onSet({ type: chosen })}
      />
      {(type?.insulations.length ?? 0) > 1 && (
        <Choice
          name={called(of, "Insulation")}
          className="select-sm join-item w-28"
          value={cable.insulation}
          options={[
            ["pvc70", "PVC 70 °C"],
            ["xlpe90", "XLPE 90 °C"],
          ]}
          onCommit={(insulation) => onSet({ insulation })}
        />
      )}
      <Choice
        name={called(of, "Cable size")}
        className="select-sm join-item w-28 font-bold"
        value={String(cable.csa_mm2)}
        options={sizesOf(type, cable.csa_mm2)}
        onCommit={(csa) => onSet({ csa_mm2: Number(csa) })}
      />
    </span>
  );
}

/** What serves as cpc in a cable, and its colours. */
export function CpcFields({ cable, of, onSet }: Omit<Props, "choices">) {
  const core = cable.type === "single-core" ? "a conductor as cpc" : "a core as cpc";
  const way: (readonly [NonNullable<Cable["cpc_by"]>, string])[] = [["core", core]];
  if (cable.type === "armoured") way.push(["armour", "armour as cpc"]);
  if (cable.type === "single-core") way.push(["conduit", "metal conduit as cpc"]);
  way.push(["none", "no cpc, found so"]);
  const mayPart = cable.type === "single-core" || cable.type === "flat-single-and-earth";
  const many = cable.type === "armoured" || cable.type === "multicore";
  return (
    <>
      {many && (
        <Choice
          name={called(of, "Cores")}
          className="select-sm w-24"
          value={String(cable.cores) as "2" | "3" | "4" | "5"}
          options={[
            ["2", "2-core"],
            ["3", "3-core"],
            ["4", "4-core"],
            ["5", "5-core"],
          ]}
          onCommit={(cores) => onSet({ cores: Number(cores) as 2 | 3 | 4 | 5 })}
        />
      )}
      {mayPart && (
        <Choice
          name={called(of, "Goes alone")}
          className="select-sm w-44"
          value={cable.alone ?? (cable.type === "single-core" ? "both" : "L")}
          options={[
            ...(cable.type === "single-core" ? [["both", "line and neutral together"] as const] : []),
            ["L", "line by itself"],
            ["N", "neutral by itself"],
          ]}
          onCommit={(alone) => onSet({ alone: alone === "both" ? null : alone })}
        />
      )}
      <Choice
        name={called(of, "cpc by")}
        className="select-sm w-40"
        value={cable.cpc_by ?? ""}
        blank={cable.type === "armoured" ? "cpc: not said" : core}
        options={way}
        onCommit={(cpc_by) => onSet({ cpc_by })}
      />
      {cable.cpc_by === "conduit" && (
        <Choice
          name={called(of, "Conduit")}
          className="select-sm w-36"
          value={cable.conduit ?? ""}
          blank="size not said"
          options={CONDUITS}
          onCommit={(conduit) => onSet({ conduit })}
        />
      )}
      {cable.cpc_by === "conduit" && (
        <Figure
          name={called(of, "Conduit resistance")}
          unit="mΩ/m"
          placeholder={cable.conduit ? "by the book" : "maker’s, read"}
          className="input-sm w-32"
          value={cable.conduit_milliohm_per_m}
          onCommit={(conduit_milliohm_per_m) => onSet({ conduit_milliohm_per_m })}
        />
      )}
      {(cable.cpc_by ?? "core") === "core" && (
        <Figure
          name={called(of, "cpc size")}
          unit="mm² cpc"
          placeholder="usual"
          className="input-sm w-32"
          value={cable.cpc_mm2}
          onCommit={(cpc_mm2) => onSet({ cpc_mm2 })}
        />
      )}
      <Choice
        name={called(of, "Colours")}
        className="select-sm w-40"
        value={cable.colours}
        options={[
          ["harmonised", "harmonised colours"],
          ["uk-before-2004", "colours before 2004"],
        ]}
        onCommit={(colours) => onSet({ colours })}
      />
    </>
  );
}
