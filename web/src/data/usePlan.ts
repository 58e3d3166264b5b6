import { useQuery } from "@tanstack/react-query";
import { api, ask, type PlacesCommand, type PlanView, type Tick } from "../api/client";
import { keys } from "./keys";
import { useMe } from "./me";
import { putIn, useWaiting, type TickRecord, type Waiting } from "./outbox";
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
  const me = useMe();
  const ticking = useWaiting().filter(
    (each): each is Waiting<TickRecord> => each.kind === "tick" && each.about === jobId,
  );
  return {
    query,
    ...writing,
    /** What waits on this device to be ticked, for want of a signal. */
    ticking,
    /** Tick a mark: kept on this device at once, and sent when there is a signal. */
    tick: (tick: Tick) => putIn({ kind: "tick", about: jobId, by: me.id, tick }),
    /** Take the rooms of a file in; all of it or none. */
    takeIn: (text: string) =>
      writing.write(({ version }, id) =>
        ask(api.POST("/api/jobs/{job_id}/plan/csv", { params, body: { id, version, text } })),
      ),
  };
}
