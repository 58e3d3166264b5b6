import { useQuery } from "@tanstack/react-query";
import { api, ask, type CodeSearch, type TripSearch } from "../api/client";
import { keys } from "./keys";

/** Who is under suspicion after the readings of a circuit, and what to measure next. */
export function useDiagnosis(circuitId: string, ambientC: number) {
  return useQuery({
    queryKey: [...keys.diagnosis(circuitId), ambientC],
    queryFn: () =>
      ask(
        api.GET("/api/circuits/{circuit_id}/diagnosis", {
          params: { path: { circuit_id: circuitId }, query: { ambient_c: ambientC } },
        }),
      ),
    placeholderData: (before) => before,
  });
}

/** What the readings say of the lengths of a circuit. */
export function useLengths(circuitId: string, ambientC: number) {
  return useQuery({
    queryKey: keys.lengths(circuitId, ambientC),
    queryFn: () =>
      ask(
        api.GET("/api/circuits/{circuit_id}/lengths", {
          params: { path: { circuit_id: circuitId }, query: { ambient_c: ambientC } },
        }),
      ),
  });
}

/** What makes an RCD trip, as far as the answers say. */
export function useTrips(jobId: string, search: TripSearch) {
  return useQuery({
    queryKey: keys.trips(jobId, search),
    queryFn: () => ask(api.POST("/api/jobs/{job_id}/rcd-trips", { params: { path: { job_id: jobId } }, body: search })),
    placeholderData: (before) => before,
  });
}

/** In which rounds to join cables or switch breakers off, and which belongs to which. */
export function useCodes(search: CodeSearch) {
  // Never those of before meanwhile: a round for other names would be walked for nothing, and tell them apart wrongly.
  return useQuery({
    queryKey: keys.codes(search),
    queryFn: () => ask(api.POST("/api/codes", { body: search })),
    enabled: search.names.length > 0,
  });
}
