import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type PriceList } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

/** The firm's prices. */
export function usePrices() {
  return useQuery({ queryKey: keys.prices, queryFn: () => ask(api.GET("/api/prices")) });
}

/** Taking prices in from a file, instead of those that counted. */
export function usePutPrices() {
  const queries = useQueryClient();
  return async (text: string): Promise<void> => {
    const kept = await once(["prices", newId()], (id) => ask(api.POST("/api/prices", { body: { id, text } })));
    queries.setQueryData<PriceList>(keys.prices, kept);
  };
}
