import type { Check, Verdict } from "../api/client";

export type State = Verdict | "mind";

/** A check that is met and still carries a caution is shown as one to mind. */
export function stateOf(check: Check): State {
  return check.verdict === "pass" && check.caution ? "mind" : check.verdict;
}

const WORDS: Record<State, string> = {
  pass: "passes",
  mind: "passes, mind",
  fail: "FAILS",
  "cannot-tell": "cannot tell",
  "not-applicable": "does not apply",
};

const COLOURS: Record<State, string> = {
  pass: "text-success",
  mind: "text-warning",
  fail: "text-error",
  "cannot-tell": "text-warning",
  "not-applicable": "quiet",
};

export function verdictWord(state: State): string {
  return WORDS[state];
}

export function verdictColour(state: State): string {
  return COLOURS[state];
}

/** A verdict by shape: a ticked disc, a crossed square, a question in a dashed ring, a triangle to mind. */
export function VerdictMark({ state, size = 22 }: { state: State; size?: number }) {
  return (
    <svg
      viewBox="0 0 24 24"
      width={size}
      height={size}
      role="img"
      aria-label={WORDS[state]}
      className={`shrink-0 ${COLOURS[state]}`}
      fill="none"
      stroke="currentColor"
      strokeWidth="2.6"
      strokeLinecap="round"
      strokeLinejoin="round"
    >
      {state === "pass" && (
        <>
          <circle cx="12" cy="12" r="10" />
          <path d="m7.5 12.5 3 3 6-7" />
        </>
      )}
      {state === "fail" && (
        <>
          <rect x="2" y="2" width="20" height="20" rx="2" fill="currentColor" />
          <path d="m8 8 8 8m0-8-8 8" stroke="var(--color-error-content)" strokeWidth="3" />
        </>
      )}
      {state === "mind" && (
        <>
          <path d="M12 2.5 22.5 21h-21z" />
          <path d="M12 9.5v5m0 3v.1" />
        </>
      )}
      {state === "cannot-tell" && (
        <>
          <circle cx="12" cy="12" r="10" strokeDasharray="4 3.4" />
          <path d="M9 9.3a3 3 0 1 1 4.4 2.6c-1 .6-1.4 1-1.4 2.1m0 3.2v.1" />
        </>
      )}
      {state === "not-applicable" && <path d="M7 12h10" />}
    </svg>
  );
}
