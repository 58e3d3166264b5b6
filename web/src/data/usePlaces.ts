import { useQuery } from "@tanstack/react-query";
import { api, ask, type PlacesCommand, type PlacesView } from "../api/client";
import { keys } from "./keys";
import { useWriting } from "./useWriting";

export type PlacesWork = ReturnType<typeof usePlaces>;

/** A name as it is compared: without case, and with single spaces. */
function folded(name: string): string {
  return name.toLowerCase().split(/\s+/).filter(Boolean).join(" ");
}

/** The storeys and rooms of a job: changed by commands, each on the version that was seen, and undone. */
export function usePlaces(jobId: string) {
  const query = useQuery({
    queryKey: keys.places(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/places", { params: { path: { job_id: jobId } } })),
    staleTime: 0,
  });
  const params = { path: { job_id: jobId } };
  const writing = useWriting<PlacesView, PlacesCommand>({
    key: keys.places(jobId),
    carryOut: ({ version }, id, commands) =>
      ask(api.POST("/api/jobs/{job_id}/places/commands", { params, body: { id, version, commands } })),
    step: ({ version }, id, way) =>
      ask(api.POST(`/api/jobs/{job_id}/places/${way}`, { params, body: { id, version } })),
    // Whatever says where something is says it by these names.
    stale: () => [keys.job(jobId), keys.boards(jobId), keys.labels(jobId), keys.circuits, keys.sheets],
  });

  /** The id of a room that is called so; one that is not there yet is made. Nothing where that is refused. */
  async function roomCalled(name: string): Promise<string | undefined> {
    const among = (view: PlacesView | undefined) => view?.rooms.find((room) => folded(room.name) === folded(name))?.id;
    return among(query.data) ?? among(await writing.command({ op: "add-room", name }));
  }

  return { query, roomCalled, ...writing };
}
