import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type CircuitView, type Laid, type LegBreaks, type PipeLayout, type RunOrder } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** The ways of a job's cables on its plan as it is now, and what is done with them. */
export function useRoutes(jobId: string, version: number) {
  const queries = useQueryClient();
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.routes(jobId, version),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/routes", { params })),
    staleTime: 0,
  });
  const changed = (circuit: CircuitView) => {
    queries.setQueryData(keys.circuit(circuit.id), circuit);
    for (const queryKey of [keys.job(jobId), keys.boards(jobId), keys.plan(jobId), keys.routes(jobId)])
      void queries.invalidateQueries({ queryKey });
  };
  return {
    query,
    /** The best orders of a run through marks. */
    orders: (marks: string[]): Promise<RunOrder[]> =>
      ask(api.POST("/api/jobs/{job_id}/routes/orders", { params, body: { marks } })),
    /** Pipes in the slab from the first board to marks. */
    pipes: (marks: string[]): Promise<PipeLayout> =>
      ask(api.POST("/api/jobs/{job_id}/routes/pipes", { params, body: { marks } })),
    /** A new circuit through marks, each leg as its way runs. */
    lay: async (laid: Laid): Promise<CircuitView> => {
      const made = await once(["laid", jobId, laid], (id) =>
        ask(api.POST("/api/jobs/{job_id}/routes/laid", { params, body: { id, ...laid } })),
      );
      changed(made);
      return made;
    },
    /** Which legs of a circuit to break for new places. */
    breaks: (circuitId: string, marks: string[]): Promise<LegBreaks[]> =>
      ask(
        api.POST("/api/circuits/{circuit_id}/breaks", { params: { path: { circuit_id: circuitId } }, body: { marks } }),
      ),
    /** Break legs of a circuit and take them through new places. */
    extend: async (circuitId: string, broken: LegBreaks["broken"]): Promise<CircuitView> => {
      const at = { path: { circuit_id: circuitId } };
      const { version } = await ask(api.GET("/api/circuits/{circuit_id}", { params: at }));
      const extended = await once(["extended", circuitId, version, broken], (id) =>
        ask(api.POST("/api/circuits/{circuit_id}/extended", { params: at, body: { id, version, broken } })),
      );
      changed(extended);
      return extended;
    },
    /** Give a circuit the lengths and surroundings of its ways. */
    take: async (circuitId: string): Promise<CircuitView> => {
      const at = { path: { circuit_id: circuitId } };
      const before = await ask(api.GET("/api/circuits/{circuit_id}", { params: at }));
      const taken = await once(["as-laid", circuitId, before.version], (id) =>
        ask(api.POST("/api/circuits/{circuit_id}/as-laid", { params: at, body: { id, version: before.version } })),
      );
      changed(taken);
      return taken;
    },
  };
}
