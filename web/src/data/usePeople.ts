import { keepPreviousData, useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ask, type Handed, type PeopleView, type Role } from "../api/client";
import { useInTurn } from "./inTurn";
import { keys } from "./keys";

/** Everybody of the firm, and what may be done about them; an answer is all of them anew, or a link to hand on. */
export function usePeople() {
  const queries = useQueryClient();
  const inTurn = useInTurn();
  const query = useQuery({ queryKey: keys.people, queryFn: () => ask(api.GET("/api/people")) });
  async function done<Answer extends PeopleView | Handed>(work: Promise<Answer>): Promise<Answer> {
    const answer = await work;
    if ("people" in answer) queries.setQueryData<PeopleView>(keys.people, answer);
    else await queries.invalidateQueries({ queryKey: keys.people });
    return answer;
  }
  const of = (user_id: string) => ({ path: { user_id } });
  return {
    query,
    invite: (body: { email: string; name: string; roles: Role[] }) =>
      done(ask(api.POST("/api/people/invitations", { body }))),
    takeBack: (invitation_id: string) =>
      done(ask(api.DELETE("/api/people/invitations/{invitation_id}", { params: { path: { invitation_id } } }))),
    /** One role more or less, one after another: the last answer is the one that shows. */
    give: (id: string, role: Role, on: boolean) =>
      inTurn(() => {
        const body = { give: on ? [role] : [], take: on ? [] : [role] };
        return done(ask(api.PATCH("/api/people/{user_id}/roles", { params: of(id), body })));
      }),
    reset: (id: string) => done(ask(api.POST("/api/people/{user_id}/reset", { params: of(id) }))),
    takeFactorOff: (id: string) => done(ask(api.DELETE("/api/people/{user_id}/second-factor", { params: of(id) }))),
    lockOut: (id: string) => done(ask(api.PUT("/api/people/{user_id}/lock", { params: of(id) }))),
    letIn: (id: string) => done(ask(api.DELETE("/api/people/{user_id}/lock", { params: of(id) }))),
  };
}

export type PeopleWork = ReturnType<typeof usePeople>;

/** Which lines of the audit are asked for; nothing where all are. */
export interface AuditAsked {
  action: string;
  by: string;
  job: string;
  day: string;
}

/** What was done in the firm, page by page, the newest first; of one sort where one is named. */
export function useAudit(asked: AuditAsked) {
  const query = Object.fromEntries(Object.entries(asked).filter(([, value]) => value !== ""));
  return useInfiniteQuery({
    queryKey: keys.audit(query),
    queryFn: ({ pageParam }) =>
      ask(api.GET("/api/audit", { params: { query: { ...query, ...(pageParam ? { before: pageParam } : {}) } } })),
    initialPageParam: 0,
    getNextPageParam: (page) => page.before ?? undefined,
    placeholderData: keepPreviousData,
  });
}

/** What a one-time link leads to. */
export function useLink(token: string) {
  return useQuery({
    queryKey: keys.link(token),
    queryFn: () => ask(api.POST("/api/links/look", { body: { token } })),
    retry: false,
    staleTime: Infinity,
  });
}

export async function takeLink(body: {
  token: string;
  password: string;
  name?: string;
  firm?: string;
  email?: string;
}): Promise<void> {
  await ask(api.POST("/api/links/use", { body }));
}
