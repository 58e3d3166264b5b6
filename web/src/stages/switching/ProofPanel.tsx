import type { Hazard, Proof } from "../../api/client";
import { CheckList } from "../../parts/CheckRow";

/** Every hazard with the state that shows it, then every check. */
export function ProofPanel({
  proof,
  shown,
  onHazard,
}: {
  proof: Proof;
  shown: Hazard | undefined;
  onHazard: (hazard: Hazard) => void;
}) {
  const hazards = [...proof.hazards].sort((a, b) => Number(b.grave) - Number(a.grave));
  return (
    <div>
      {hazards.length > 0 && (
        <ul className="border-b border-base-300" data-hazards={hazards.length}>
          {hazards.map((hazard, index) => (
            <li key={`${hazard.id}${index}`}>
              <button
                className={`w-full border-l-6 px-3 py-2 text-left hover:bg-base-200 ${hazard.grave ? "border-error" : "border-warning"} ${hazard === shown ? "bg-base-200" : ""}`}
                data-hazard={hazard.id}
                onClick={() => onHazard(hazard)}
              >
                <span className="block font-semibold">{hazard.words}</span>
                {hazard.symptom && <span className="quiet block text-sm">Seen as: {hazard.symptom}</span>}
                {hazard.stands.length > 0 && <span className="block text-sm underline">Show the state</span>}
              </button>
            </li>
          ))}
        </ul>
      )}
      <CheckList checks={proof.checks} />
      <p className="quiet px-3 py-3 text-sm">
        Proved by trying {proof.states === 1 ? "the one state" : `all ${proof.states} states`} there are. What the
        drawing does not show, no proof knows: test before it goes live.
      </p>
    </div>
  );
}
