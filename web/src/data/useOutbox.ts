import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, ask, asRefused, type InstallationView, type SheetView } from "../api/client";
import { keys } from "./keys";
import { isLost } from "./once";
import { houseChanged, readingsChanged } from "./stale";
import { noteTrouble, takeOut, useWaiting, waiting, type Waiting } from "./outbox";

const AGAIN_MS = 4000;

type Kept = { sheet: SheetView } | { house: InstallationView };

async function send(each: Waiting): Promise<Kept> {
  const body = { id: each.id, reading: each.reading };
  if (each.of === "job")
    return { house: await ask(api.POST("/api/jobs/{job_id}/readings", { params: { path: { job_id: each.about } }, body })) };
  const params = { path: { circuit_id: each.about }, query: {} };
  return { sheet: await ask(api.POST("/api/circuits/{circuit_id}/readings", { params, body })) };
}

/** Send what waits on this device, one after the other, whenever the server can be reached; each reaches it once. */
export function useSendingOutbox(by: string): void {
  const queries = useQueryClient();
  const mine = useWaiting().filter((each) => each.by === by && each.trouble === undefined).length;
  useEffect(() => {
    if (mine === 0) return undefined;
    let over = false;
    let timer: number | undefined;

    async function sendAll() {
      for (;;) {
        const next = waiting().find((each) => each.by === by && each.trouble === undefined);
        if (next === undefined || over) return;
        try {
          const kept = await send(next);
          // What the server has is shown before it leaves the device.
          if ("sheet" in kept) readingsChanged(queries, next.about, kept.sheet.job_id);
          else {
            queries.setQueryData(keys.house(next.about), kept.house);
            houseChanged(queries, next.about);
          }
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
