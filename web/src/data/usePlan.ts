import { useQuery } from "@tanstack/react-query";
import { api, ask, type PlacesCommand, type PlanView } from "../api/client";
import { keys } from "./keys";
import { useWriting } from "./useWriting";

export type PlanWork = ReturnType<typeof usePlan>;

/** The plan of a job: rooms, what is in them and the marks to make; changed by commands and undone. */
export function usePlan(jobId: string) {
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.plan(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/plan", { params })),
    staleTime: 0,
  });
  const writing = useWriting<PlanView, PlacesCommand>({
    key: keys.plan(jobId),
    carryOut: ({ version }, id, commands) =>
      ask(api.POST("/api/jobs/{job_id}/plan/commands", { params, body: { id, version, commands } })),
    step: ({ version }, id, way) => ask(api.POST(`/api/jobs/{job_id}/plan/${way}`, { params, body: { id, version } })),
    // A room that was typed is a room of the house, wherever rooms are named.
    stale: () => [keys.job(jobId), keys.places(jobId), keys.boards(jobId)],
  });
  return { query, ...writing };
}
