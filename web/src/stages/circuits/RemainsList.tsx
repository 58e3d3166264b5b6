import type { Circuit } from "../../api/client";
import { titleOf } from "../../drawing/titles";
import { plain } from "../../numbers";
import { YesNo } from "../../parts/fields";
import type { InspectorProps } from "./inspecting";

/** What was taken out of use and is still in the wall, and whether its ends were made safe. */
export function RemainsList({ circuit, onCommand }: { circuit: Circuit } & Pick<InspectorProps, "onCommand">) {
  if (circuit.remains.length === 0) return null;
  return (
    <section className="w-full" aria-label="Out of use">
      <h3 className="text-sm font-semibold">Out of use, and where it lay</h3>
      <ul className="flex flex-col gap-1.5 pt-1">
        {circuit.remains.map((each, index) => (
          <li key={index} className="flex flex-wrap items-center gap-2 text-sm">
            <span className="grow">
              {titleOf(circuit, each.at)} to {each.to || "an unknown place"}
              {each.length_m != null && `, ${plain(each.length_m)} m`}
              {each.csa_mm2 != null && `, ${plain(each.csa_mm2)} mm²`}
              {each.left === "cut-out" && ", pulled out"}
            </span>
            {each.left === "dead" && (
              <YesNo
                name={`Dead cable ${index + 1} made safe`}
                caption="Both ends made safe"
                className="select-sm w-32"
                value={each.safe}
                onCommit={(safe) => onCommand({ op: "remains", index, safe })}
              />
            )}
            {each.left === "dead" && (
              <button className="btn btn-sm" onClick={() => onCommand({ op: "remains", index, left: "cut-out" })}>
                Pulled out
              </button>
            )}
            <button className="btn btn-ghost btn-sm" onClick={() => onCommand({ op: "drop-remains", index })}>
              Forget it
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
