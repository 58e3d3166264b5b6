import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Scheme, type SwitchingPlan } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** The circuits of a job that have anything to switch. */
export function useLit(jobId: string, changedAt: string) {
  return useQuery({
    queryKey: keys.lit(jobId, changedAt),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/switching", { params: { path: { job_id: jobId } } })),
    placeholderData: keepPreviousData,
  });
}

const openSwitching = (circuitId: string) =>
  ask(api.GET("/api/circuits/{circuit_id}/switching", { params: { path: { circuit_id: circuitId } } }));

/** The ends of cables in a circuit whose other end has not been found; nothing where no circuit is chosen. */
export function useLooseEnds(circuitId: string) {
  return useQuery({
    queryKey: keys.looseEnds(circuitId),
    queryFn: () => openSwitching(circuitId).then((view) => view.loose),
    enabled: circuitId !== "",
  });
}

/** The boxes of a circuit as it stands in a version, and the proof over all states. */
export function useSwitching(circuitId: string, version: number) {
  return useQuery({
    queryKey: keys.switching(circuitId, version),
    queryFn: () => openSwitching(circuitId),
    placeholderData: keepPreviousData,
  });
}

/** What puts a circuit right: a first of it in a moment, and the least while it is looked at. */
export function useMending(circuitId: string, version: number, atOnce: boolean) {
  return useQuery({
    queryKey: keys.mending(circuitId, version, atOnce),
    queryFn: () =>
      ask(
        api.GET("/api/circuits/{circuit_id}/switching/mending", {
          params: { path: { circuit_id: circuitId }, query: { at_once: atOnce } },
        }),
      ),
  });
}

export function useMakeOff(circuitId: string, version: number) {
  return useQuery({
    queryKey: keys.makeOff(circuitId, version),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}/make-off", { params: { path: { circuit_id: circuitId } } })),
    placeholderData: keepPreviousData,
  });
}

export function planScheme(circuitId: string, scheme: Scheme): Promise<SwitchingPlan> {
  return ask(
    api.POST("/api/circuits/{circuit_id}/switching/plan", {
      params: { path: { circuit_id: circuitId } },
      body: scheme,
    }),
  );
}

/** What was connected before it was taken apart. */
export function useRecords(circuitId: string) {
  const queries = useQueryClient();
  const changed = () => queries.invalidateQueries({ queryKey: keys.records(circuitId) });
  return {
    list: useQuery({
      queryKey: keys.records(circuitId),
      queryFn: () =>
        ask(api.GET("/api/circuits/{circuit_id}/records", { params: { path: { circuit_id: circuitId } } })),
    }),
    keep: async (note: string, version: number) => {
      await once(["record", circuitId, version, note], (id) =>
        ask(
          api.POST("/api/circuits/{circuit_id}/records", {
            params: { path: { circuit_id: circuitId } },
            body: { id, note },
          }),
        ),
      );
      await changed();
    },
    putBack: async (recordId: string, version: number) => {
      await once(["put-back", recordId, version], (id) =>
        ask(
          api.POST("/api/records/{record_id}/put-back", {
            params: { path: { record_id: recordId } },
            body: { id, version },
          }),
        ),
      );
      await queries.invalidateQueries({ queryKey: keys.circuit(circuitId) });
    },
  };
}
