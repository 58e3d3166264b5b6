import type { Quick } from "../api/client";

export interface Small {
  id: string;
  title: string;
  what: Quick["what"];
  /** What stands there to begin with, and can be changed. */
  begins?: Partial<Quick>;
}

/** The small jobs that are begun in one go. A ring has 30 or 32 A on 2.5 mm²: that stands there, to be looked at. */
export const SMALL: readonly Small[] = [
  { id: "light", title: "A light replaced", what: "light" },
  { id: "socket", title: "A socket added to a radial", what: "socket", begins: { on_ring: false } },
  {
    id: "ring",
    title: "A socket added to a ring",
    what: "socket",
    begins: { on_ring: true, rating_a: 32, csa_mm2: 2.5 },
  },
  { id: "breaker", title: "A breaker changed", what: "breaker" },
];
