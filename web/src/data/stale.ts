import type { QueryClient } from "@tanstack/react-query";
import { keys } from "./keys";

/** Ask anew for what the readings of a circuit say: its sheet, its suspects, the circuit judged by them, its job. */
export function readingsChanged(queries: QueryClient, circuitId: string, jobId: string): void {
  for (const queryKey of [keys.sheet(circuitId), keys.diagnosis(circuitId), keys.circuit(circuitId), keys.job(jobId)])
    void queries.invalidateQueries({ queryKey });
}

/** Ask anew for what the readings of a house say: its job, and every circuit that hears of its supply and its RCDs. */
export function houseChanged(queries: QueryClient, jobId: string): void {
  for (const queryKey of [keys.job(jobId), keys.circuits, keys.sheets, keys.work(jobId)])
    void queries.invalidateQueries({ queryKey });
}
