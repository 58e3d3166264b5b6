import { useQuery } from "@tanstack/react-query";
import { api, ask, type BoardCommand, type BoardsView } from "../api/client";
import { keys } from "./keys";
import { useWriting } from "./useWriting";

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
  const query = useBoardsQuery(jobId);
  const params = { path: { job_id: jobId } };
  const writing = useWriting<BoardsView, BoardCommand>({
    key: keys.boards(jobId),
    carryOut: ({ version }, id, commands) =>
      ask(api.POST("/api/jobs/{job_id}/boards/commands", { params, body: { id, version, commands } })),
    step: ({ version }, id, way) =>
      ask(api.POST(`/api/jobs/{job_id}/boards/${way}`, { params, body: { id, version } })),
    stale: () => [keys.job(jobId), keys.circuits, keys.sheets, keys.places(jobId)],
  });
  return { query, ...writing };
}

/** What the boards could be, all of it computed. */
export function useBoardProposals({ job_id, version }: BoardsView, order: "heavy-first" | "by-storey" | "by-number") {
  return useQuery({
    queryKey: keys.boardProposals(job_id, version, order),
    queryFn: () =>
      ask(api.GET("/api/jobs/{job_id}/boards/proposals", { params: { path: { job_id }, query: { order } } })),
  });
}

/** What is written at each board. */
export function useLabels({ job_id, version }: BoardsView) {
  return useQuery({
    queryKey: keys.labels(job_id, version),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/labels", { params: { path: { job_id } } })),
  });
}
