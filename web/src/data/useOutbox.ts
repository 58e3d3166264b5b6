import { useQueryClient, type QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import {
  api,
  ask,
  asRefused,
  Refused,
  type AttachmentLine,
  type FindingSaid,
  type InspectionView,
  type InstallationView,
  type Me,
  type PlanView,
} from "../api/client";
import { blobOf } from "./blobs";
import { dangersOf } from "./dangers";
import { keys } from "./keys";
import { isLost } from "./once";
import { houseChanged, readingsChanged } from "./stale";
import {
  adopt,
  isOfTheWork,
  nextOf,
  noteTrouble,
  takeOut,
  useWaiting,
  type FoundRecord,
  type PhotoRecord,
  type ReadingRecord,
  type SaidRecord,
  type TickRecord,
  type Waiting,
} from "./outbox";

const AGAIN_MS = 4000;

/** Send a record, and show what the server has before it leaves the device. */
async function send(each: Waiting, queries: QueryClient): Promise<void> {
  if (each.kind === "reading") await sendReading(each, queries);
  else if (each.kind === "found") await sendFound(each, queries);
  else if (each.kind === "said") await sendSaid(each, queries);
  else if (each.kind === "tick") await sendTick(each, queries);
  else await sendPhoto(each, queries);
}

async function sendReading(each: Waiting<ReadingRecord>, queries: QueryClient): Promise<void> {
  const body = { id: each.id, reading: each.reading };
  if (each.of === "job") {
    const house = await ask(
      api.POST("/api/jobs/{job_id}/readings", { params: { path: { job_id: each.about } }, body }),
    );
    queries.setQueryData<InstallationView>(keys.house(each.about), house);
    houseChanged(queries, each.about);
    return;
  }
  const params = { path: { circuit_id: each.about }, query: {} };
  const sheet = await ask(api.POST("/api/circuits/{circuit_id}/readings", { params, body }));
  readingsChanged(queries, each.about, sheet.job_id);
}

async function sendFound(each: Waiting<FoundRecord>, queries: QueryClient): Promise<void> {
  const params = { path: { job_id: each.about } };
  const house = await ask(api.POST("/api/jobs/{job_id}/found", { params, body: { id: each.id, found: each.found } }));
  queries.setQueryData<InstallationView>(keys.house(each.about), house);
}

async function sendSaid(each: Waiting<SaidRecord>, queries: QueryClient): Promise<void> {
  const params = { path: { job_id: each.about } };
  const body = { id: each.id, made: { said: each.said, said_at: each.saidAt } };
  const kept = await ask(api.POST("/api/jobs/{job_id}/inspection", { params, body }));
  queries.setQueryData<InspectionView>(keys.inspection(each.about), kept);
  queries.setQueryData<FindingSaid[]>(keys.dangers(each.about), dangersOf(kept));
  if (isOfTheWork(each.said)) void queries.invalidateQueries({ queryKey: keys.work(each.about) });
}

async function sendTick(each: Waiting<TickRecord>, queries: QueryClient): Promise<void> {
  const params = { path: { job_id: each.about } };
  const plan = await ask(api.POST("/api/jobs/{job_id}/plan/ticks", { params, body: { id: each.id, tick: each.tick } }));
  queries.setQueryData<PlanView>(keys.plan(each.about), plan);
}

async function sendPhoto(each: Waiting<PhotoRecord>, queries: QueryClient): Promise<void> {
  const picture = await blobOf(each.id);
  if (!picture)
    throw new Refused(422, { code: "gone", message: "The photo is no longer on this device.", problems: [] });
  const query = { id: each.id, note: each.note, taken_at: each.takenAt, ...each.shown };
  const kept = await ask(
    api.POST("/api/jobs/{job_id}/attachments", {
      params: { path: { job_id: each.about }, query },
      // The body is the photo itself.
      body: picture as unknown as string,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { "Content-Type": "application/octet-stream" },
    }),
  );
  queries.setQueryData<AttachmentLine[]>(keys.attachments(each.about), kept);
}

/** Send what waits on this device, one after the other, whenever the server can be reached; each reaches it once. */
export function useSendingOutbox(me: Me): void {
  const queries = useQueryClient();
  const by = me.id;
  const mine = useWaiting().filter((each) => each.by === by && each.trouble === undefined).length;
  useEffect(() => adopt(me), [me]);
  useEffect(() => {
    if (mine === 0) return undefined;
    let over = false;
    let timer: number | undefined;

    async function sendAll() {
      for (;;) {
        const next = nextOf(by);
        if (next === undefined || over) return;
        try {
          await send(next, queries);
          takeOut(next.id);
        } catch (error) {
          const refused = asRefused(error);
          if (isLost(refused)) {
            timer = window.setTimeout(() => void sendInTurn(), AGAIN_MS);
            return;
          }
          noteTrouble(next.id, refused.body.message);
        }
      }
    }

    /** One tab at a time: a second would only ask for what the first is sending. */
    async function sendInTurn() {
      window.clearTimeout(timer);
      if ("locks" in navigator) await navigator.locks.request("lumbek.outbox", () => sendAll());
      else await sendAll();
    }

    const back = () => void sendInTurn();
    addEventListener("online", back);
    void sendInTurn();
    return () => {
      over = true;
      window.clearTimeout(timer);
      removeEventListener("online", back);
    };
  }, [mine, by, queries]);
}
