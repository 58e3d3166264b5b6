import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type JobView } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** What falls due over all jobs. */
export function useDue() {
  return useQuery({ queryKey: keys.due, queryFn: () => ask(api.GET("/api/due")) });
}

/** Starting the next inspection from the last: pressed twice, it is started once. */
export function useNextInspection() {
  const queries = useQueryClient();
  return async (jobId: string): Promise<JobView> => {
    const job = await once(["next-inspection", jobId], (id) =>
      ask(api.POST("/api/jobs/{job_id}/next-inspection", { params: { path: { job_id: jobId } }, body: { id } })),
    );
    queries.setQueryData<JobView>(keys.job(job.id), job);
    void queries.invalidateQueries({ queryKey: keys.jobs() });
    return job;
  };
}
