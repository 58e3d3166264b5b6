import { useState } from "react";
import { useNavigate } from "react-router-dom";
import { asRefused, type Refused } from "../../api/client";
import { useMe } from "../../data/me";
import { usePractice } from "../../data/usePractice";
import { Choice } from "../../parts/fields";
import { RefusalNote } from "../../parts/RefusalNote";

const LEVELS = ["1", "2", "3", "4", "5"].map((each) => [each, `level ${each}`] as const);

/** Practising on the circuit that is open: somebody puts a fault into a copy of it, and nothing here is touched. */
export function PractisePart({ circuitId }: { circuitId: string }) {
  const { start, set } = usePractice();
  const me = useMe();
  const [said, setSaid] = useState("");
  const [level, setLevel] = useState("1");
  const [refused, setRefused] = useState<Refused>();
  const go = useNavigate();
  return (
    <details className="mt-4 border-t border-base-300">
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">Practise on this circuit</summary>
      <p className="quiet">A fault is put into a copy of it, drawn as it is. Nothing is entered here by that.</p>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      <span className="flex flex-wrap items-center gap-2 py-2">
        <Choice name="Level of practice" value={level} options={LEVELS} onCommit={setLevel} className="w-32" />
        <button
          className="btn min-h-11"
          data-practise
          onClick={() => {
            setRefused(undefined);
            start({ kind: "faults", level: Number(level) }, { circuit_id: circuitId })
              .then((run) => go(`/practice/runs/${run.id}`))
              .catch((error: unknown) => setRefused(asRefused(error)));
          }}
        >
          Put a fault in
        </button>
        {me.rights.includes("issue") && (
          <button
            className="btn btn-ghost min-h-11"
            data-set-practice
            onClick={() => {
              setRefused(undefined);
              const number = Math.floor(Math.random() * 1_000_000);
              set({ kind: "faults", level: Number(level), seed: number, note: "On a job of ours" }, circuitId)
                .then(() => setSaid("Set to everybody: it is on their practice page."))
                .catch((error: unknown) => setRefused(asRefused(error)));
            }}
          >
            Set it to everybody
          </button>
        )}
      </span>
      {said && <p role="status">{said}</p>}
    </details>
  );
}
