import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type FoundMade, type InstallationView, type ReadingTaken, type VisitMade } from "../api/client";
import { useMe } from "./me";
import { keys } from "./keys";
import { newId, once } from "./once";
import { readingsChanged } from "./stale";
import { placeOf, putIn, useWaiting, type ReadingRecord, type Waiting } from "./outbox";

/** What is said of a reading by the page; the rest is as nobody said otherwise. */
export type Entry = Partial<Omit<ReadingTaken, "quantity">> & Pick<ReadingTaken, "quantity">;

function whole(entry: Entry): ReadingTaken {
  return { point: null, value: null, beyond: false, correct: null, note: "", source: "typed", ...entry };
}

/** What waits on this device of one circuit or job, by its place. */
function useWaitingOf(about: string): Map<string, Waiting<ReadingRecord>> {
  return new Map(
    useWaiting()
      .filter((each): each is Waiting<ReadingRecord> => each.kind === "reading" && each.about === about)
      .map((each) => [placeOf(each.reading), each]),
  );
}

function stampNow(): string {
  return `${new Date().toISOString().slice(0, 19)}Z`;
}

/** A circuit's test sheet, and entering readings on it: each is kept on this device first, then on the server. */
export function useSheet(circuitId: string, ambientC: number, visit: string | undefined) {
  const me = useMe();
  const query = useQuery({
    queryKey: keys.sheet(circuitId, ambientC),
    queryFn: () =>
      ask(
        api.GET("/api/circuits/{circuit_id}/tests", {
          params: { path: { circuit_id: circuitId }, query: { ambient_c: ambientC } },
        }),
      ),
    placeholderData: (before) => (before?.circuit_id === circuitId ? before : undefined),
  });
  const waiting = useWaitingOf(circuitId);
  function enter(entry: Entry): Waiting<ReadingRecord> {
    const reading = { ...whole(entry), visit: visit ?? null, taken_at: stampNow() };
    return putIn({ kind: "reading", of: "circuit", about: circuitId, by: me.id, reading });
  }
  return { query, enter, waiting };
}

/** The test sheet of the installation whole, its visits, and entering readings on it. */
export function useHouseSheet(jobId: string) {
  const me = useMe();
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: keys.house(jobId),
    queryFn: () => ask(api.GET("/api/jobs/{job_id}/tests", { params: { path: { job_id: jobId } } })),
  });
  const waiting = useWaitingOf(jobId);
  const visit = query.data?.visits.at(-1);
  function enter(entry: Entry): Waiting<ReadingRecord> {
    return putIn({
      kind: "reading",
      of: "job",
      about: jobId,
      by: me.id,
      reading: { ...whole(entry), visit: visit?.id ?? null, taken_at: stampNow() },
    });
  }
  async function beginVisit(made: VisitMade): Promise<void> {
    const kept = await once(["visit", jobId, made, newId()], (id) =>
      ask(api.POST("/api/jobs/{job_id}/visits", { params: { path: { job_id: jobId } }, body: { id, visit: made } })),
    );
    queries.setQueryData<InstallationView>(keys.house(jobId), kept);
  }
  return { query, enter, waiting, visit, beginVisit };
}

/** Keeping a record of what was found on a job: on this device first, then on the server. */
export function useKeepFound(jobId: string) {
  const me = useMe();
  const waiting = useWaiting();
  return {
    keep: (found: FoundMade) => putIn({ kind: "found", about: jobId, by: me.id, found }).id,
    /** What became of a record that was kept here: it waits, was refused, or is on the server. */
    stateOf: (id: string): Waiting | undefined => waiting.find((each) => each.id === id),
  };
}

/** Readings from a file: what is understood of it, and keeping them all at once. */
export function useImport(circuitId: string, jobId: string) {
  const queries = useQueryClient();
  const path = { circuit_id: circuitId };
  return {
    look: (text: string) =>
      ask(api.POST("/api/circuits/{circuit_id}/readings/file", { params: { path }, body: { text } })),
    keep: async (readings: ReadingTaken[]): Promise<void> => {
      await once(["import", circuitId, readings], (id) =>
        ask(
          api.POST("/api/circuits/{circuit_id}/readings/several", {
            params: { path, query: {} },
            body: { id, readings },
          }),
        ),
      );
      readingsChanged(queries, circuitId, jobId);
    },
  };
}
