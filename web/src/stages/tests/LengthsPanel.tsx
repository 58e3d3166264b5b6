import { asRefused } from "../../api/client";
import { useCircuit } from "../../data/useCircuit";
import { useLengths } from "../../data/useDiagnosis";
import { RefusalNote } from "../../parts/RefusalNote";

/** Lengths worked back from the readings beside those that are drawn; taken into the design on request. */
export function LengthsPanel({ circuitId, ambientC }: { circuitId: string; ambientC: number }) {
  const lengths = useLengths(circuitId, ambientC);
  const circuit = useCircuit(circuitId);
  if (lengths.isError) return <RefusalNote refused={asRefused(lengths.error)} />;
  const legs = lengths.data?.legs ?? [];
  return (
    <div className="my-2 border-l-4 border-accent bg-base-200 px-3 py-2" data-lengths>
      {legs.length === 0 ? (
        <p>
          {lengths.data ? "The readings do not say enough: r1 of a ring, R1+R2 at the points of a run." : "Working…"}
        </p>
      ) : (
        <>
          <table className="w-full max-w-xl text-left">
            <thead>
              <tr className="border-b-2 border-base-content/70">
                <th>Cable</th>
                <th className="text-right">drawn</th>
                <th className="text-right">by the readings</th>
              </tr>
            </thead>
            <tbody>
              {legs.map((leg) => (
                <tr key={leg.leg} className="border-b border-base-300">
                  <td>{leg.title}</td>
                  <td className="text-right">{leg.drawn_m ?? "?"} m</td>
                  <td className="text-right text-lg font-bold">{leg.found_m} m</td>
                </tr>
              ))}
            </tbody>
          </table>
          {lengths.data?.steps.map((step, index) => (
            <p key={index} className="quiet text-sm">
              {step.text}: {step.sum}
            </p>
          ))}
          <button
            className="btn btn-primary mt-2"
            onClick={() => void circuit.command(...(lengths.data?.commands ?? []))}
          >
            Take these into the design
          </button>
          <p className="quiet text-sm">Its checks are worked out again; undo is on the Circuits page.</p>
        </>
      )}
    </div>
  );
}
