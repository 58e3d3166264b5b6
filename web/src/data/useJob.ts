import { useQuery } from "@tanstack/react-query";
import { useOutletContext } from "react-router-dom";
import { api, ask, type JobCommand, type JobView } from "../api/client";
import { keys } from "./keys";
import { useWriting } from "./useWriting";

/** The job that is open, from the page that opened it. */
export function useJob(): JobView {
  return useOutletContext<JobView>();
}

export function useJobQuery(jobId: string | undefined) {
  return useQuery({
    queryKey: keys.job(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId ?? "" } } })),
    enabled: jobId !== undefined,
  });
}

export type JobWork = ReturnType<typeof useJobWork>;

/** Changing a job's head and supply: by commands, each on the version that was seen. */
export function useJobWork(job: JobView) {
  const params = { path: { job_id: job.id } };
  return useWriting<JobView, JobCommand>({
    key: keys.job(job.id),
    carryOut: ({ version }, id, commands) =>
      ask(api.POST("/api/jobs/{job_id}/commands", { params, body: { id, version, commands } })),
    step: ({ version }, id, way) => ask(api.POST(`/api/jobs/{job_id}/${way}`, { params, body: { id, version } })),
    stale: () => [keys.boards(job.id), keys.circuits, keys.sheets],
  });
}
