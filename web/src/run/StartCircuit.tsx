import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router-dom";
import { api, ask, asRefused, type Circuit, type CircuitView, type JobView, type Refused } from "../api/client";
import { RefusalNote } from "../parts/RefusalNote";
import { useChoices } from "./useChoices";

/** Begin a circuit: of a kind, with what is usual for it, or as one of the firm's own. */
export function StartCircuit({ job }: { job: JobView }) {
  const choices = useChoices(job.head);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const library = useQuery({ queryKey: ["library"], queryFn: () => ask(api.GET("/api/library")) });
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  async function begin(call: Promise<CircuitView>) {
    try {
      const made = await call;
      setOpen(false);
      setRefused(undefined);
      await queries.invalidateQueries({ queryKey: ["job", job.id] });
      void navigate(`/jobs/${job.id}/circuits/${made.id}`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  const ofKind = (kind: Circuit["kind"]) =>
    begin(ask(api.POST("/api/jobs/{job_id}/kinds/{kind}", { params: { path: { job_id: job.id, kind } } })));
  const fromLibrary = (library_id: string) =>
    begin(ask(api.POST("/api/jobs/{job_id}/library/{library_id}", { params: { path: { job_id: job.id, library_id } } })));
  async function offLibrary(library_id: string) {
    await ask(api.DELETE("/api/library/{library_id}", { params: { path: { library_id } } }));
    await queries.invalidateQueries({ queryKey: ["library"] });
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
                onClick={() => void ofKind(kind.id)}
              >
                {kind.name}
              </button>
            </li>
          ))}
        </ul>
      </details>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {(library.data?.length ?? 0) > 0 && (
        <details className="px-4 py-1">
          <summary className="cursor-pointer text-sm font-semibold">From our library</summary>
          <ul>
            {library.data?.map((line) => (
              <li key={line.id} className="flex items-center border-b border-base-300">
                <button className="grow cursor-pointer py-1.5 text-left text-sm hover:underline" onClick={() => void fromLibrary(line.id)}>
                  {line.name}
                </button>
                <button
                  className="btn btn-ghost btn-xs"
                  aria-label={`Take ${line.name} off the library`}
                  onClick={() => void offLibrary(line.id)}
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
