import { useQuery } from "@tanstack/react-query";
import { api, ask, type JobView } from "../api/client";
import { keys } from "./keys";

/** Everything a job's rulebook offers to choose from, in the job's edition. */
export function useChoices({ rulebook, edition }: JobView["head"]) {
  return useQuery({
    queryKey: keys.choices(rulebook, edition),
    queryFn: () =>
      ask(api.GET("/api/rulebooks/{rulebook}/choices", { params: { path: { rulebook }, query: { edition } } })),
    staleTime: Infinity,
  });
}

/** A rulebook laid open, in its newest edition. */
export function useRulebook(rulebook: JobView["head"]["rulebook"]) {
  return useQuery({
    queryKey: keys.rulebook(rulebook),
    queryFn: () => ask(api.GET("/api/rulebooks/{rulebook}", { params: { path: { rulebook } } })),
    staleTime: Infinity,
  });
}
