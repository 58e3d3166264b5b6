import { useQueryClient } from "@tanstack/react-query";
import { api, ask, type InspectionView } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

type SignedRole = InspectionView["signed"][number]["role"];

/** Signing for a part of a job: at once and never from a queue, for it covers the job as it stands. */
export function useSign(jobId: string) {
  const queries = useQueryClient();
  return async (role: SignedRole): Promise<void> => {
    const made = { said: { record: "signed", role, covers: "" } as const, said_at: null };
    const kept = await once(["sign", jobId, role, newId()], (id) =>
      ask(api.POST("/api/jobs/{job_id}/inspection", { params: { path: { job_id: jobId } }, body: { id, made } })),
    );
    queries.setQueryData<InspectionView>(keys.inspection(jobId), kept);
    void queries.invalidateQueries({ queryKey: ["paper", jobId] });
  };
}
