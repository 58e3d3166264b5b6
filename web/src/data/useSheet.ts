import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, asRefused, type Item, type Refused, type SheetView } from "../api/client";
import { keys } from "./keys";
import { once } from "./once";

export interface Entry {
  value: number | null;
  beyond: boolean;
  correct: boolean | null;
}

/** A circuit's test sheet, and entering readings on it. */
export function useSheet(circuitId: string, ambientC: number) {
  const queries = useQueryClient();
  const [refused, setRefused] = useState<Refused>();
  const [savedAt, setSavedAt] = useState<string>();
  const where = { path: { circuit_id: circuitId }, query: { ambient_c: ambientC } };
  const query = useQuery({
    queryKey: keys.sheet(circuitId, ambientC),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}/tests", { params: where })),
  });

  async function enter(item: Item, entry: Entry): Promise<boolean> {
    try {
      const reading = { quantity: item.quantity, point: item.point ?? null, ...entry };
      const kept = await once(["reading", circuitId, reading], (id) =>
        ask(api.POST("/api/circuits/{circuit_id}/readings", { params: where, body: { id, reading } })),
      );
      queries.setQueryData<SheetView>(keys.sheet(circuitId, ambientC), kept);
      setRefused(undefined);
      setSavedAt(new Date().toISOString());
      void queries.invalidateQueries({ queryKey: keys.job(kept.job_id) });
      return true;
    } catch (error) {
      setRefused(asRefused(error));
      return false;
    }
  }

  return { query, enter, refused, dismiss: () => setRefused(undefined), savedAt };
}
