import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Issued, type JobView } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

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
  async function issue(kind: string, corrects?: string): Promise<void> {
    const kept = await once(["issued", jobId, kind, count, corrects ?? ""], (id) =>
      ask(api.POST("/api/jobs/{job_id}/issued", { params, body: { id, kind, corrects: corrects ?? null } })),
    );
    queries.setQueryData<Issued[]>(keys.issued(jobId), kept);
  }
  return { query, issue };
}

/** Handing an issued paper over by a link: pressed twice, one is made. */
export function useHandOver(issuedId: string) {
  return (email: string) =>
    once(["hand-over", issuedId, email, newId()], (id) =>
      ask(
        api.POST("/api/issued/{issued_id}/hand-over", {
          params: { path: { issued_id: issuedId } },
          body: { id, email },
        }),
      ),
    );
}

/** The kinds of document there are. */
export function usePaperKinds() {
  return useQuery({ queryKey: keys.paperKinds, queryFn: () => ask(api.GET("/api/papers")), staleTime: Infinity });
}

/** A document of a job as it stands. */
export function usePaper(job: JobView, kind: string) {
  return useQuery({
    queryKey: keys.paper(job.id, kind, job.version, job.changed_at),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/papers/{kind}", { params: { path: { job_id: job.id, kind } } })),
    staleTime: 0,
  });
}
