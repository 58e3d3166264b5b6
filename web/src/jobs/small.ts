import type { Quick } from "../api/client";

/** The small jobs that are begun in one go. */
export const SMALL: readonly (readonly [Quick["what"], string])[] = [
  ["light", "A light replaced"],
  ["socket", "A socket added"],
  ["breaker", "A breaker changed"],
];
