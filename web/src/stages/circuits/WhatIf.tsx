import type { Check, CircuitView } from "../../api/client";
import { stateOf, VerdictMark } from "../../parts/verdict";
import type { CircuitWork } from "../../data/useCircuit";

/** One change or several tried out: every check before and after, to keep or to drop. */
export function WhatIf({ work, view, onDone }: { work: CircuitWork; view: CircuitView; onDone: () => void }) {
  const tried = work.trial?.shown?.result;
  const before = view.result.checks;
  const after = new Map((tried?.checks ?? []).map((check) => [check.id, check]));
  const changed = before.filter(
    (check) => after.get(check.id)?.answer !== check.answer || after.get(check.id)?.verdict !== check.verdict,
  );
  const same = before.filter((check) => !changed.includes(check) && check.verdict !== "not-applicable");
  return (
    <div data-whatif className="flex flex-col">
      <p className="px-3 py-2 text-sm">
        Change device, cable, method or a length: it is tried here first. The run itself is changed only once this is
        kept or dropped.
      </p>
      {changed.length > 0 && (
        <table className="w-full text-left">
          <thead>
            <tr className="border-b border-base-300 text-sm">
              <th className="px-3 py-1">Check</th>
              <th className="px-1">Before</th>
              <th className="px-1">After</th>
            </tr>
          </thead>
          <tbody>
            {changed.map((check) => (
              <tr key={check.id} className="border-b border-base-300 align-top" data-changed={check.id}>
                <td className="px-3 py-1.5 text-sm font-semibold">{check.title}</td>
                <Cell check={check} />
                <Cell check={after.get(check.id)} strong />
              </tr>
            ))}
            {same.map((check) => (
              <tr key={check.id} className="quiet border-b border-base-300 align-top text-sm">
                <td className="px-3 py-1">{check.title}</td>
                <td className="px-1 py-1">{check.answer}</td>
                <td className="px-1 py-1">the same</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {changed.length === 0 && <p className="quiet px-3 pb-2 text-sm">Nothing is changed yet.</p>}
      <div className="order-first flex gap-2 px-3 pt-3">
        <button
          className="btn btn-primary"
          disabled={(work.trial?.commands.length ?? 0) === 0}
          onClick={() => void work.keepTrial().then(onDone)}
        >
          Keep it
        </button>
        <button
          className="btn"
          onClick={() => {
            work.dropTrial();
            onDone();
          }}
        >
          Drop it
        </button>
      </div>
    </div>
  );
}

function Cell({ check, strong }: { check: Check | undefined; strong?: boolean }) {
  if (!check) return <td className="px-1 py-1.5">…</td>;
  return (
    <td className="px-1 py-1.5 text-sm">
      <span className={`flex items-start gap-1 ${strong ? "font-bold" : ""}`}>
        <VerdictMark state={stateOf(check)} size={16} />
        {check.answer}
      </span>
    </td>
  );
}
