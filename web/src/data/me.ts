import { createContext, use } from "react";
import type { Me } from "../api/client";

/** Whoever is signed in; the page that lets somebody in says who. */
export const MeContext = createContext<Me | null>(null);

export function useMe(): Me {
  const me = use(MeContext);
  if (!me) throw new Error("nobody is signed in");
  return me;
}
