import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type NotifyingView } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

// While something waits for the office, it is asked for again so often.
const WAITING_MS = 15_000;

/** What was handed in to the office of a job, and handing it in: pressed twice, it is handed in once. */
export function useNotifying(jobId: string) {
  const queries = useQueryClient();
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.notifying(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/notifications", { params })),
    staleTime: 0,
    refetchInterval: ({ state }) => state.data?.lines.some((line) => line.state === "waits") && WAITING_MS,
  });
  const count = query.data?.lines.length ?? 0;
  async function handIn(): Promise<void> {
    const kept = await once(["notify", jobId, count], (id) =>
      ask(api.POST("/api/jobs/{job_id}/notifications", { params, body: { id } })),
    );
    queries.setQueryData<NotifyingView>(keys.notifying(jobId), kept);
  }
  return { query, handIn };
}
