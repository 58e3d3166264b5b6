import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type CustomerSays, type OfferLine, type OfferMade, type OfferSeen } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

/** The offers of a job, and offering its quote as it is to somebody. */
export function useOffers(jobId: string) {
  const queries = useQueryClient();
  const params = { path: { job_id: jobId } };
  const query = useQuery({
    queryKey: keys.offers(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/offers", { params })),
    staleTime: 0,
  });
  return {
    query,
    make: async (email: string): Promise<OfferMade> => {
      const made = await once(["offer", newId()], (id) =>
        ask(api.POST("/api/jobs/{job_id}/offers", { params, body: { id, email } })),
      );
      queries.setQueryData<OfferLine[]>(keys.offers(jobId), [...made.offers]);
      return made;
    },
  };
}

/** An offer by its link, for whoever has it, and saying yes or no to it. */
export function useOffer(token: string) {
  const queries = useQueryClient();
  const params = { path: { token } };
  const query = useQuery({
    queryKey: keys.offer(token),
    queryFn: () => ask(api.GET("/api/offers/{token}", { params })),
    staleTime: Infinity,
  });
  return {
    query,
    say: async (said: CustomerSays): Promise<void> => {
      const seen = await ask(api.POST("/api/offers/{token}/answer", { params, body: said }));
      queries.setQueryData<OfferSeen>(keys.offer(token), seen);
    },
  };
}
