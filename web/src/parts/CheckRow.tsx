import { useId, useState } from "react";
import type { Check } from "../api/client";
import { stateOf, verdictColour, VerdictMark, verdictWord } from "./verdict";

/** One check, the same everywhere: verdict, answer, margin, worst place; opened, its clause and working. */
export function CheckRow({
  check,
  onPlace,
  untitled,
}: {
  check: Check;
  onPlace?: ((check: Check) => void) | undefined;
  untitled?: boolean;
}) {
  const [open, setOpen] = useState(false);
  const panel = useId();
  const state = stateOf(check);
  const somewhere = check.place && check.place.kind !== "circuit" && check.place.kind !== "supply";
  return (
    <li className="border-b border-base-300" data-check={check.id} data-verdict={check.verdict}>
      <button
        className="flex w-full cursor-pointer items-start gap-3 px-3 py-2 text-left hover:bg-base-200"
        aria-expanded={open}
        aria-controls={panel}
        onClick={() => {
          setOpen(!open);
          onPlace?.(check);
        }}
      >
        <VerdictMark state={state} />
        <span className="min-w-0 grow">
          <span className="flex items-baseline justify-between gap-2">
            <span className="font-semibold">{untitled ? check.answer : check.title}</span>
            {check.shown_margin && (
              <span className={`text-sm whitespace-nowrap ${verdictColour(state)}`}>{check.shown_margin}</span>
            )}
          </span>
          {untitled ? (
            check.steps.map((step) => (
              <span key={step.text} className="quiet block text-sm">
                {step.text}
                {step.sum && `: ${step.sum}`}
              </span>
            ))
          ) : (
            <span className={`block ${check.verdict === "fail" ? "text-lg font-bold text-error" : ""}`}>
              {check.answer}
            </span>
          )}
          {somewhere && (
            <span className="quiet block text-sm">
              {check.place?.kind === "leg" || check.place?.kind === "segment" ? "cable from" : "at"} {check.place?.name}
            </span>
          )}
          {check.code && (
            <span className="mt-0.5 flex items-start gap-2 text-sm" data-code={check.code}>
              <b className="shrink-0 border-2 border-current px-1.5 leading-tight">
                {check.code === "none" ? "note" : check.code}
              </b>
              <span>
                {check.code === "none" ? "Nothing to record" : "as usually recorded"}: {check.code_why}
              </span>
            </span>
          )}
          {check.caution && <span className="block text-sm text-warning">{check.caution}</span>}
        </span>
        <span aria-hidden="true" className="quiet">
          {open ? "−" : "+"}
        </span>
      </button>
      {open && (
        <div id={panel} className="bg-base-200 px-4 py-3">
          <p className="italic">{check.asks}</p>
          {check.missing.length > 0 && (
            <p className="mt-2">
              <b>Missing:</b> {check.missing.join("; ")}
            </p>
          )}
          {check.steps.length > 0 && (
            <ol className="mt-2 flex flex-col gap-1.5">
              {check.steps.map((step, index) => (
                <li key={index} className="flex flex-col">
                  <span className="quiet text-sm">{step.text}</span>
                  {step.sum && <span className="font-semibold break-words">{step.sum}</span>}
                </li>
              ))}
            </ol>
          )}
          {check.shown_value && check.shown_limit && (
            <p className="mt-2" data-held>
              {check.shown_value} {check.unit}, {check.sense} {check.shown_limit} {check.unit}:{" "}
              <b>{verdictWord(check.verdict)}</b>
            </p>
          )}
          <p className="mt-2 text-sm">
            <b>
              {check.clause.rulebook} {check.clause.ref}
            </b>
            <br />
            {check.clause.text}
          </p>
        </div>
      )}
    </li>
  );
}

/** Checks with what needs an eye first; those that do not apply are folded away at the end. */
export function CheckList({ checks, onPlace }: { checks: readonly Check[]; onPlace?: (check: Check) => void }) {
  const order = ["fail", "cannot-tell", "mind", "pass"];
  const judged = checks.filter((check) => check.verdict !== "not-applicable");
  const sorted = [...judged].sort((a, b) => order.indexOf(stateOf(a)) - order.indexOf(stateOf(b)));
  const idle = checks.filter((check) => check.verdict === "not-applicable");
  return (
    <>
      <ul>
        {sorted.map((check) => (
          <CheckRow key={check.id} check={check} onPlace={onPlace} />
        ))}
      </ul>
      {idle.length > 0 && (
        <details className="quiet px-3 py-2 text-sm">
          <summary className="cursor-pointer">{idle.length} more do not apply here</summary>
          <ul className="pt-1">
            {idle.map((check) => (
              <li key={check.id}>
                <b>{check.title}:</b> {check.answer}
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}
