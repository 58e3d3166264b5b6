import { useQuery, useQueryClient } from "@tanstack/react-query";
import {
  api,
  ask,
  type ExerciseAct,
  type ExerciseAsked,
  type PracticeHome,
  type RunView,
  type School,
  type SetDocument,
} from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

/** By which school one learns until something else is said. */
export const USUAL_SCHOOL: School = { rulebook: "bs7671", colours: "harmonised", loop: "at-switch" };

/** What comes next in each kind, what was set, one's own record; beginning an exercise, and setting one to everybody. */
export function usePractice() {
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: keys.practice,
    queryFn: () => ask(api.GET("/api/practice")),
    staleTime: 0,
  });
  return {
    query,
    start: async (
      asked: ExerciseAsked,
      more: { set_id?: string; circuit_id?: string; like?: string } = {},
    ): Promise<RunView> => {
      const run = await once(["practice", newId()], (id) =>
        ask(api.POST("/api/practice/runs", { body: { id, asked: { school: USUAL_SCHOOL, ...asked }, ...more } })),
      );
      queries.setQueryData<RunView>(keys.practiceRun(run.id), run);
      return run;
    },
    set: async (asked: Omit<SetDocument, "school"> & { school?: School }, circuit_id?: string): Promise<void> => {
      const home = await once(["practice-set", newId()], (id) =>
        ask(
          api.POST("/api/practice/sets", {
            body: { id, exercise: { school: USUAL_SCHOOL, ...asked }, ...(circuit_id && { circuit_id }) },
          }),
        ),
      );
      queries.setQueryData<PracticeHome>(keys.practice, home);
    },
  };
}

const NOTHING = { choice: "", choices: [], wired: [], links: [], hint: false };

/** An exercise of one's own, and carrying it on. */
export function usePracticeRun(runId: string) {
  const queries = useQueryClient();
  const params = { path: { run_id: runId } };
  const query = useQuery({
    queryKey: keys.practiceRun(runId),
    queryFn: () => ask(api.GET("/api/practice/runs/{run_id}", { params })),
    staleTime: 0,
  });
  return {
    query,
    act: async (act: ExerciseAct): Promise<void> => {
      try {
        const run = await once(["act", newId()], (id) =>
          ask(api.POST("/api/practice/runs/{run_id}/acts", { params, body: { id, act: { ...NOTHING, ...act } } })),
        );
        queries.setQueryData<RunView>(keys.practiceRun(runId), run);
      } catch (error) {
        void queries.invalidateQueries({ queryKey: keys.practiceRun(runId) });
        throw error;
      }
    },
  };
}

/** How the people of the firm get on, for whoever may see it. */
export function useLearners(may: boolean) {
  return useQuery({
    queryKey: keys.learners,
    queryFn: () => ask(api.GET("/api/practice/learners")),
    enabled: may,
    staleTime: 0,
  });
}
