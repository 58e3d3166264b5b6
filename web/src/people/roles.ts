import type { Role } from "../api/client";

/** What each role is called, and what it may do: everybody reads. */
export const ROLES: readonly { role: Role; name: string; may: string }[] = [
  { role: "designer", name: "Designer", may: "plans and changes circuits" },
  { role: "tester", name: "Tester", may: "enters readings" },
  { role: "supervisor", name: "Qualified supervisor", may: "does both, and issues documents" },
  { role: "admin", name: "Admin", may: "looks after people, reads what was done" },
];

export function roleName(role: Role): string {
  return ROLES.find((each) => each.role === role)?.name ?? "Reader";
}
