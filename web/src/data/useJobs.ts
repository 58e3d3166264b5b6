import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type JobHead, type JobView, type Quick } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

/** The firm's jobs that fit a search, last changed first. */
export function useJobs(search: string) {
  return useQuery({
    queryKey: keys.jobs(search),
    queryFn: () => ask(api.GET("/api/jobs", { params: { query: { search } } })),
    placeholderData: keepPreviousData,
  });
}

/** Starting a job, and taking one in from a file. */
export function useNewJob() {
  const queries = useQueryClient();
  async function kept(call: Promise<JobView>): Promise<JobView> {
    const job = await call;
    await queries.invalidateQueries({ queryKey: keys.jobs() });
    return job;
  }
  return {
    start: (head: JobHead) => kept(once(["job", head], (id) => ask(api.POST("/api/jobs", { body: { id, head } })))),
    /** A small job, begun in one go. An empty name is none. */
    quick: (quick: Partial<Quick> & Pick<Quick, "what">) => {
      const { name, ...said } = quick;
      const asked = name?.trim() ? { ...said, name: name.trim() } : said;
      return kept(
        once(["quick", asked], (id) => ask(api.POST("/api/jobs/quick", { body: { id, quick: asked as Quick } }))),
      );
    },
    takeIn: async (file: File) => {
      const text = await file.text();
      return kept(
        once(["file", text], (id) =>
          ask(
            api.POST("/api/jobs/file", {
              params: { query: { id } },
              body: text,
              bodySerializer: (body: string) => body,
              headers: { "Content-Type": "application/json" },
            }),
          ),
        ),
      );
    },
  };
}
