import type { Code, FindingKind, FindingSaid } from "../../api/client";

export const CODES: readonly (readonly [Code, string])[] = [
  ["C1", "C1 danger"],
  ["C2", "C2 urgent"],
  ["FI", "FI look further"],
  ["C3", "C3 better"],
  ["none", "no code"],
];

export const CODE_COLOUR: Record<Code, string> = {
  "": "border-dashed border-base-content",
  C1: "bg-error text-error-content border-error",
  C2: "border-error text-error",
  FI: "border-warning text-warning",
  C3: "border-base-content",
  none: "border-base-content/60 quiet",
};

export interface Suggested {
  code: Code;
  why: string;
  /** Questions nobody has answered that could make it another. */
  open: string[];
}

/** The usual code by what was answered: as the core has it, so that a finding can be coded without a signal. */
export function suggested(kind: FindingKind | undefined, answers: FindingSaid["answers"]): Suggested {
  const open: string[] = [];
  for (const ask of kind?.asks ?? []) {
    const said = answers.find((each) => each.id === ask.id);
    if (!said) {
      if (!open.includes(ask.id)) open.push(ask.id);
    } else if (said.answer === ask.answer) return { code: ask.code, why: ask.why, open };
  }
  return { code: kind?.usual.code ?? "", why: kind?.usual.why ?? "", open };
}

/** What is asked of a sort of thing, each question once. */
export function questionsOf(kind: FindingKind | undefined): readonly { id: string; asks: string }[] {
  return [...new Map((kind?.asks ?? []).map((each) => [each.id, each])).values()];
}
