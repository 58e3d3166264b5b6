import type { FindingSaid, InspectionView } from "../api/client";

/** The dangers of an inspection that nobody has dealt with. */
export function dangersOf({ whole }: InspectionView): FindingSaid[] {
  return whole.findings.map((each) => each.said).filter((each) => whole.dangers.includes(each.finding));
}

/** Dangers once a finding is said: it is one of them, or no longer. */
export function withDanger(dangers: FindingSaid[], said: FindingSaid): FindingSaid[] {
  const others = dangers.filter((each) => each.finding !== said.finding);
  return isDanger(said) ? [...others, said] : others;
}

/** Whether a danger waits to be dealt with: made safe or refused, and somebody told. */
export function isDanger(said: FindingSaid): boolean {
  const dealt = said.danger;
  const answered = dealt && (dealt.made_safe || dealt.refused) && dealt.told && dealt.told_at;
  return said.code === "C1" && ["open", "made-safe", "refused"].includes(said.status) && !answered;
}
