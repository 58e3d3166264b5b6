import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type FactorOffer } from "../api/client";
import { keys } from "./keys";

/** Where one is signed in, and ending it there. */
export function useSessions() {
  const queries = useQueryClient();
  const query = useQuery({ queryKey: keys.sessions, queryFn: () => ask(api.GET("/api/sessions")) });
  async function ended(work: Promise<unknown>): Promise<void> {
    await work.catch(() => undefined);
    await queries.invalidateQueries({ queryKey: keys.sessions });
  }
  return {
    query,
    end: (session_id: string) =>
      ended(ask(api.DELETE("/api/sessions/{session_id}", { params: { path: { session_id } } }))),
    endOthers: () => ended(ask(api.DELETE("/api/sessions"))),
  };
}

export async function setPassword(current: string, code: string, next: string): Promise<void> {
  await ask(api.PUT("/api/account/password", { body: { current, code, new: next } }));
}

/** The second factor of one's own account: offered, turned on by a code, turned off. */
export function useSecondFactor() {
  const queries = useQueryClient();
  const turned = () => queries.invalidateQueries({ queryKey: keys.me });
  return {
    offer: () => ask(api.POST("/api/account/second-factor")),
    turnOn: async (offer: FactorOffer, code: string): Promise<void> => {
      await ask(api.PUT("/api/account/second-factor", { body: { secret: offer.secret, code } }));
      await turned();
    },
    turnOff: async (): Promise<void> => {
      await ask(api.DELETE("/api/account/second-factor"));
      await turned();
    },
  };
}
