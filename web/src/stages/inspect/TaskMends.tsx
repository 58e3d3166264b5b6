import { useState } from "react";
import type { CircuitView, Proposals } from "../../api/client";
import { useCircuit } from "../../data/useCircuit";
import { useProposals } from "../../data/useCircuits";
import { onlyOn } from "../../data/useWriting";
import { RefusalNote } from "../../parts/RefusalNote";

type Mend = Proposals["mends"][number];

/** What would mend a circuit that a task touches, each tried and judged; one press changes the drawing by it. */
export function TaskMends({ circuit, onMade }: { circuit: string; onMade: (change: string) => void }) {
  const work = useCircuit(circuit);
  if (!work.view) return null;
  return <Mends view={work.view} work={work} onMade={onMade} />;
}

interface MendsProps {
  view: CircuitView;
  work: ReturnType<typeof useCircuit>;
  onMade: (change: string) => void;
}

function Mends({ view, work, onMade }: MendsProps) {
  const mends = useProposals(view).data?.mends ?? [];
  const [made, setMade] = useState<string>();
  const make = async (mend: Mend) => {
    if (!(await work.command(onlyOn(view.version, { op: "take", design: mend.design })))) return;
    setMade(mend.change);
    onMade(mend.change);
  };
  if (mends.length === 0 && made === undefined && !work.refused) return null;
  return (
    <section data-mends={view.id} className="border-t border-base-300 pt-2">
      <h3 className="font-semibold">What would mend {view.design.name}</h3>
      {work.refused && <RefusalNote refused={work.refused} />}
      {made !== undefined && (
        <p className="flex flex-wrap items-center gap-3" role="status">
          On the drawing: {made}
          <button type="button" className="btn btn-sm" onClick={() => void work.undo().then(() => setMade(undefined))}>
            Undo
          </button>
        </p>
      )}
      <ul>
        {mends.map((mend) => (
          <li key={mend.change} className="flex flex-wrap items-center gap-3 border-b border-base-300 py-1">
            <span className="min-w-0 grow">
              {mend.change}
              <span className="quiet block text-sm">
                {mend.leaves.length > 0 ? `leaves: ${mend.leaves.join(", ")}` : "then it complies"}
              </span>
            </span>
            {mend.elsewhere ? (
              <span className="quiet text-sm">ahead of it: on the board</span>
            ) : (
              <button type="button" className="btn btn-sm" onClick={() => void make(mend)}>
                Change the drawing
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
