import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useOutletContext } from "react-router-dom";
import { api, ask, asRefused, type JobCommand, type JobView, type Refused } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** The job that is open, from the page that opened it. */
export function useJob(): JobView {
  return useOutletContext<JobView>();
}

export function useJobQuery(jobId: string | undefined) {
  return useQuery({
    queryKey: keys.job(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId ?? "" } } })),
    enabled: jobId !== undefined,
  });
}

export type JobWork = ReturnType<typeof useJobWork>;

/** Changing a job's head and supply: by commands, each on the version that was seen. */
export function useJobWork(job: JobView) {
  const queries = useQueryClient();
  const [refused, setRefused] = useState<Refused>();
  const [saving, setSaving] = useState(0);
  // My command, while someone else's change stands in its way.
  const [held, setHeld] = useState<JobCommand>();

  async function command(mine: JobCommand) {
    setSaving((count) => count + 1);
    try {
      const version = queries.getQueryData<JobView>(keys.job(job.id))?.version ?? job.version;
      const kept = await once(["job", job.id, version, mine], (id) =>
        ask(api.POST("/api/jobs/{job_id}/commands", { params: { path: { job_id: job.id } }, body: { id, version, commands: [mine] } })),
      );
      queries.setQueryData(keys.job(job.id), kept);
      void queries.invalidateQueries({ queryKey: ["circuit"] });
      void queries.invalidateQueries({ queryKey: ["sheet"] });
      setRefused(undefined);
      setHeld(undefined);
    } catch (error) {
      const why = asRefused(error);
      setRefused(why);
      setHeld(why.status === 409 ? mine : undefined);
      await queries.invalidateQueries({ queryKey: keys.job(job.id) });
    } finally {
      setSaving((count) => count - 1);
    }
  }

  return { command, refused, dismiss: () => setRefused(undefined), saving: saving > 0, held };
}
