import type { QueryClient } from "@tanstack/react-query";
import { keys } from "./keys";

/** Ask anew for what the readings of a circuit say: its sheet, its suspects, its job. */
export function readingsChanged(queries: QueryClient, circuitId: string, jobId: string): void {
  for (const queryKey of [keys.sheet(circuitId), keys.diagnosis(circuitId), keys.job(jobId)]) void queries.invalidateQueries({ queryKey });
}
