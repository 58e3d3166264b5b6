/** What somebody keyed in at a place of the sheet, as it is understood. */
export type Keyed =
  | { kind: "reading"; value: number; beyond: boolean }
  | { kind: "aside"; untaken: "limitation" | "deferred" | "not-applicable" }
  | { kind: "clear" }
  | { kind: "wrong"; why: string };

/** What an open circuit is written as, by its unit. */
const OPEN: Readonly<Record<string, number>> = { Ω: 1999, MΩ: 999, ms: 2000, kA: 99, "%": 100 };
const ASIDE: Readonly<Record<string, "limitation" | "deferred" | "not-applicable">> = {
  lim: "limitation",
  later: "deferred",
  na: "not-applicable",
  "n/a": "not-applicable",
};
const PREFIX: Readonly<Record<string, number>> = { m: 1e-3, k: 1e3, M: 1e6, G: 1e9, "": 1 };

/** Read what was keyed in: `.35`, `350m`, `>999`, `open`, `lim`, `later`, `na`; nothing clears what was there. */
export function readKeyed(text: string, unit: string): Keyed {
  const typed = text.trim().replace(",", ".");
  if (typed === "") return { kind: "clear" };
  const aside = ASIDE[typed.toLowerCase()];
  if (aside) return { kind: "aside", untaken: aside };
  if (/^(open|o\.?l\.?|oo|∞)$/i.test(typed)) return { kind: "reading", value: OPEN[unit] ?? 1999, beyond: true };
  const found = /^([>+]?)\s*(\d+\.?\d*|\.\d+)\s*([mkMG]?)\s*(?:Ω|ohms?|ms|%)?$/.exec(typed);
  if (!found) return { kind: "wrong", why: "a figure, >999, open or lim" };
  const [, sign = "", digits = "", prefix = ""] = found;
  const scaled = Number(digits) * (PREFIX[prefix] ?? 1) * (unit === "MΩ" && prefix !== "" ? 1e-6 : 1);
  // 350m is 0.35, whatever binary fractions make of it.
  return { kind: "reading", value: Number(scaled.toPrecision(10)), beyond: sign !== "" };
}
