import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Issued, type JobView } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** What was issued of a job, and issuing it: pressed twice, it is issued once. */
export function useIssued(jobId: string) {
  const queries = useQueryClient();
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.issued(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/issued", { params })),
    staleTime: 0,
  });
  const count = query.data?.length ?? 0;
  async function issue(): Promise<void> {
    const kept = await once(["issued", jobId, count], (id) => ask(api.POST("/api/jobs/{job_id}/issued", { params, body: { id } })));
    queries.setQueryData<Issued[]>(keys.issued(jobId), kept);
  }
  return { query, issue };
}

/** The schedule of a job as it stands. */
export function useSchedule(job: JobView) {
  return useQuery({
    queryKey: keys.schedule(job.id, job.version, job.changed_at),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/schedule", { params: { path: { job_id: job.id } } })),
    staleTime: 0,
  });
}
