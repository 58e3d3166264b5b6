import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type QuoteTerms, type QuoteView } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

/** Other ways of designing a circuit beside how it is drawn, once somebody asks. */
export function useCompared(circuitId: string) {
  return useQuery({
    queryKey: keys.compared(circuitId),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}/compared", { params: { path: { circuit_id: circuitId } } })),
    enabled: circuitId !== "",
    staleTime: 0,
  });
}

/** What a job takes and its quote; putting down its terms anew. */
export function useQuote(jobId: string) {
  const queries = useQueryClient();
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.quote(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/quote", { params })),
    staleTime: 0,
  });
  return {
    query,
    put: async (terms: QuoteTerms): Promise<void> => {
      const kept = await once(["quote", newId()], (id) =>
        ask(api.POST("/api/jobs/{job_id}/quote", { params, body: { id, terms } })),
      );
      queries.setQueryData<QuoteView>(keys.quote(jobId), kept);
    },
  };
}
