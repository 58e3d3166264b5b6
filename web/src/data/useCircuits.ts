import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type CircuitView, type NewCircuit } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** Adding circuits to a job, and taking them out. */
export function useCircuits(jobId: string) {
  const queries = useQueryClient();
  const changed = () => queries.invalidateQueries({ queryKey: keys.job(jobId) });
  return {
    start: async (from: NewCircuit): Promise<CircuitView> => {
      const made = await once(["circuit", jobId, from], (id) =>
        ask(api.POST("/api/jobs/{job_id}/circuits", { params: { path: { job_id: jobId } }, body: { id, ...from } })),
      );
      await changed();
      return made;
    },
    remove: async (circuitId: string): Promise<void> => {
      await ask(api.DELETE("/api/circuits/{circuit_id}", { params: { path: { circuit_id: circuitId } } }));
      await changed();
    },
  };
}

/** The firm's own usual circuits. */
export function useLibrary() {
  const queries = useQueryClient();
  const changed = () => queries.invalidateQueries({ queryKey: keys.library });
  return {
    lines: useQuery({ queryKey: keys.library, queryFn: () => ask(api.GET("/api/library")) }),
    keep: async (circuitId: string) => {
      await once(["library", circuitId], (id) =>
        ask(
          api.POST("/api/circuits/{circuit_id}/library", { params: { path: { circuit_id: circuitId } }, body: { id } }),
        ),
      );
      await changed();
    },
    takeOff: async (libraryId: string) => {
      await ask(api.DELETE("/api/library/{library_id}", { params: { path: { library_id: libraryId } } }));
      await changed();
    },
  };
}

/** What may be done with a circuit, all of it computed. */
export function useProposals({ id, version }: CircuitView) {
  return useQuery({
    queryKey: keys.proposals(id, version),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}/proposals", { params: { path: { circuit_id: id } } })),
  });
}

/** What is understood of a run while it is typed. */
export function useTypedRun(text: string) {
  return useQuery({
    queryKey: keys.run(text),
    queryFn: () => ask(api.POST("/api/runs", { body: { text } })),
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
  });
}
