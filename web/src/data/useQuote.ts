import { useQuery } from "@tanstack/react-query";
import { api, ask, type QuoteTerms, type QuoteView } from "../api/client";
import { keys } from "./keys";
import { useWriting } from "./useWriting";

/** Other ways of designing a circuit beside how it is drawn, once somebody asks. */
export function useCompared(circuitId: string) {
  return useQuery({
    queryKey: keys.compared(circuitId),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}/compared", { params: { path: { circuit_id: circuitId } } })),
    enabled: circuitId !== "",
    staleTime: 0,
  });
}

/** What a job takes and its quote; putting down more of its terms, on those that were seen. */
export function useQuote(jobId: string) {
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.quote(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/quote", { params })),
    staleTime: 0,
  });
  const writing = useWriting<QuoteView, Partial<QuoteTerms>>({
    key: keys.quote(jobId),
    carryOut: ({ version, terms }, id, changes) => {
      const whole = changes.reduce<QuoteTerms>((before, more) => ({ ...before, ...more }), terms);
      return ask(api.POST("/api/jobs/{job_id}/quote", { params, body: { id, version, terms: whole } }));
    },
    stale: () => [],
  });
  return { query, ...writing };
}

export type QuoteWork = ReturnType<typeof useQuote>;
/** What changes of the terms of a quote, given those that stand when its turn comes. */
export type OfTerms = (change: (now: QuoteTerms) => Partial<QuoteTerms>) => void;
