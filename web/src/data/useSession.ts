import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, keepToken, type Me } from "../api/client";
import { keys } from "./keys";

/** Who is signed in here, if anybody. */
export function useSession() {
  return useQuery({
    queryKey: keys.me,
    queryFn: async () => {
      const found = await ask(api.GET("/api/session"));
      keepToken(found.csrf_token);
      return found;
    },
    staleTime: Infinity,
  });
}

/** What is said before anybody has signed in. */
export function useAbout() {
  return useQuery({ queryKey: keys.about, queryFn: () => ask(api.GET("/api/about")) });
}

/** Letting somebody in: the first time with nothing left of anyone else, and again in front of the page. */
export function useLettingIn() {
  const queries = useQueryClient();
  return {
    known: (me: Me) => queries.setQueryData(keys.me, me),
    anew: (me: Me) => {
      // Nothing that was fetched for anyone else is shown to this person.
      queries.removeQueries({ predicate: (query) => !query.queryKey.includes("me") });
      queries.setQueryData(keys.me, me);
    },
  };
}

export async function signIn(given: { email: string; password: string; code: string }): Promise<Me> {
  const me = await ask(api.POST("/api/session", { body: given }));
  keepToken(me.csrf_token);
  return me;
}

/** Give the password again, before something that matters. */
export async function prove(given: { password: string; code: string }): Promise<void> {
  await ask(api.POST("/api/session/proof", { body: given }));
}

export async function signOut(): Promise<void> {
  await ask(api.DELETE("/api/session"));
  // What was kept at hand for when there is no signal is not for the next person.
  if ("serviceWorker" in navigator) navigator.serviceWorker.controller?.postMessage("forget");
  location.assign("/");
}
