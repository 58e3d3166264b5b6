import { useSyncExternalStore } from "react";

const query = matchMedia("(max-width: 767px)");

function subscribe(tell: () => void): () => void {
  query.addEventListener("change", tell);
  return () => query.removeEventListener("change", tell);
}

/** Whether the page is as narrow as a phone: then one reading is asked for at a time. */
export function useNarrow(): boolean {
  return useSyncExternalStore(subscribe, () => query.matches);
}
