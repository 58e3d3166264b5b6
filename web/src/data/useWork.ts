import { useQuery } from "@tanstack/react-query";
import { api, ask, type StepSaid, type WorkStep } from "../api/client";
import { keys } from "./keys";
import { isOfTheWork, type SaidRecord } from "./outbox";
import { useSaidHere, useSaying } from "./useInspection";

/** The work of a job as it stands, with what waits on this device laid over it; saying more of it. */
export function useWork(jobId: string) {
  const query = useQuery({
    queryKey: keys.work(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/work", { params: { path: { job_id: jobId } } })),
    staleTime: 0,
  });
  const waiting = useSaidHere(jobId).filter((each) => isOfTheWork(each.said));
  return { query, waiting, say: useSaying(jobId) };
}

export type Work = ReturnType<typeof useWork>;

/** How steps stand once what waits is said: the last of each counts; what follows from readings is not ticked. */
export function standingSteps(steps: readonly WorkStep[], waiting: readonly Pick<SaidRecord, "said" | "saidAt">[]) {
  const last = new Map<string, { said: StepSaid; at: string }>();
  for (const { said, saidAt } of waiting) if (said.record === "step") last.set(said.step, { said, at: saidAt });
  return steps.map((step) => {
    const said = step.follows ? undefined : last.get(step.key);
    if (!said) return step;
    const { status, note } = said.said;
    return { ...step, stands: { status, note, by: "here, not sent yet", at: said.at } };
  });
}

/** Hours and minutes, as one says them: `2 h 30`. */
export function spell(minutes: number): string {
  const whole = Math.round(minutes);
  const hours = Math.floor(whole / 60);
  return hours === 0 ? `${String(whole)} min` : `${String(hours)} h ${String(whole % 60).padStart(2, "0")}`;
}
