import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask, asRefused, type Board, type BoardCommand, type BoardsView, type Refused } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

export type BoardsWork = ReturnType<typeof useBoards>;

/** What the boards know a circuit by. */
export function boardKeyOf(circuitId: string): string {
  return circuitId.replaceAll("-", "");
}

/** The boards of a job, to be looked at. */
export function useBoardsQuery(jobId: string) {
  return useQuery({
    queryKey: keys.boards(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/boards", { params: { path: { job_id: jobId } } })),
    staleTime: 0,
  });
}

/** The boards of a job: changed by commands, each on the version that was seen, and undone. */
export function useBoards(jobId: string) {
  const queries = useQueryClient();
  const query = useBoardsQuery(jobId);
  const [refused, setRefused] = useState<Refused>();
  const [saving, setSaving] = useState(0);
  // The boards as they were before each change of mine, the last one last.
  const [before, setBefore] = useState<Board[][]>([]);
  const [after, setAfter] = useState<Board[][]>([]);
  // Writes go out one after another, each on the version that the one before it made.
  const line = useRef<Promise<unknown>>(Promise.resolve());

  function send(commands: BoardCommand[]): Promise<BoardsView | undefined> {
    const run = async () => {
      const seen = queries.getQueryData<BoardsView>(keys.boards(jobId));
      if (!seen) return undefined;
      setSaving((count) => count + 1);
      try {
        const kept = await once(["boards", jobId, seen.version, commands], (id) =>
          ask(
            api.POST("/api/jobs/{job_id}/boards/commands", {
              params: { path: { job_id: jobId } },
              body: { id, version: seen.version, commands },
            }),
          ),
        );
        queries.setQueryData(keys.boards(jobId), kept);
        setRefused(undefined);
        void queries.invalidateQueries({ queryKey: keys.job(jobId) });
        void queries.invalidateQueries({ queryKey: ["circuit"] });
        void queries.invalidateQueries({ queryKey: ["sheet"] });
        return kept;
      } catch (error) {
        setRefused(asRefused(error));
        await queries.invalidateQueries({ queryKey: keys.boards(jobId) });
        return undefined;
      } finally {
        setSaving((count) => count - 1);
      }
    };
    const next = line.current.then(run, run);
    line.current = next;
    return next;
  }

  async function command(...commands: BoardCommand[]) {
    const was = queries.getQueryData<BoardsView>(keys.boards(jobId))?.boards;
    const kept = await send(commands);
    if (kept && was) {
      setBefore((all) => [...all, was]);
      setAfter([]);
    }
    return kept;
  }

  async function step(from: Board[][], put: typeof setBefore, back: typeof setBefore) {
    const target = from.at(-1);
    const now = queries.getQueryData<BoardsView>(keys.boards(jobId))?.boards;
    if (!target || !now) return;
    if (await send([{ op: "house", boards: target }])) {
      put((all) => all.slice(0, -1));
      back((all) => [...all, now]);
    }
  }

  return {
    query,
    command,
    refused,
    dismiss: () => setRefused(undefined),
    saving: saving > 0,
    canUndo: before.length > 0,
    canRedo: after.length > 0,
    undo: () => step(before, setBefore, setAfter),
    redo: () => step(after, setAfter, setBefore),
  };
}
