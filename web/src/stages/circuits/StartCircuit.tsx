import { useState } from "react";
import { useNavigate } from "react-router-dom";
import { asRefused, type JobView, type NewCircuit, type Refused } from "../../api/client";
import { useChoices } from "../../data/useChoices";
import { useCircuits, useLibrary } from "../../data/useCircuits";
import { RefusalNote } from "../../parts/RefusalNote";

/** Begin a circuit: of a kind, with what is usual for it, or as one of the firm's own. */
export function StartCircuit({ job }: { job: JobView }) {
  const choices = useChoices(job.head);
  const navigate = useNavigate();
  const circuits = useCircuits(job.id);
  const { lines, takeOff } = useLibrary();
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  async function begin(from: NewCircuit) {
    try {
      const made = await circuits.start(from);
      setOpen(false);
      setRefused(undefined);
      void navigate(`/jobs/${job.id}/circuits/${made.id}`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <>
      <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="cursor-pointer px-4 py-2 font-semibold hover:bg-base-200">+ Start a circuit</summary>
        <ul className="pb-2">
          {choices.data?.kinds.map((kind) => (
            <li key={kind.id}>
              <button
                className="w-full cursor-pointer py-1.5 pl-8 text-left text-sm hover:bg-base-200"
                title={kind.special}
                onClick={() => void begin({ kind: kind.id })}
              >
                {kind.name}
              </button>
            </li>
          ))}
        </ul>
      </details>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {(lines.data?.length ?? 0) > 0 && (
        <details className="px-4 py-1">
          <summary className="cursor-pointer text-sm font-semibold">From our library</summary>
          <ul>
            {lines.data?.map((line) => (
              <li key={line.id} className="flex items-center border-b border-base-300">
                <button
                  className="grow cursor-pointer py-1.5 text-left text-sm hover:underline"
                  onClick={() => void begin({ library: line.id })}
                >
                  {line.name}
                </button>
                <button
                  className="btn btn-ghost btn-xs"
                  aria-label={`Take ${line.name} off the library`}
                  onClick={() => void takeOff(line.id)}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
