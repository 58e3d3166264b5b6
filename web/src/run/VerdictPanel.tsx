import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate } from "react-router-dom";
import { api, ask, type Check, type CircuitResult, type CircuitView } from "../api/client";
import { CheckList } from "../parts/CheckRow";
import { verdictColour, VerdictMark, type State } from "../parts/verdict";
import { ProposalPanel } from "./ProposalPanel";
import type { CircuitWork } from "./useCircuit";
import { WhatIf } from "./WhatIf";

const HEADLINES: Record<State, string> = {
  pass: "Complies",
  mind: "Complies, mind",
  fail: "Does not comply",
  "cannot-tell": "Cannot tell yet",
  "not-applicable": "Nothing to judge",
};

/** The answer, the biggest thing on the page: at the side at a desk, on top on a phone. */
export function Headline({ work, result }: { work: CircuitWork; result: CircuitResult }) {
  // What decides: the failure, what is missing, or else where least is left.
  const telling = result.verdict === "cannot-tell" ? result.checks.find((check) => check.verdict === "cannot-tell") : undefined;
  const tightest = telling ?? result.checks.find((check) => check.id === result.tightest);
  return (
    <div className={`border-b-2 border-base-300 px-4 py-3 ${work.previewed ? "bg-base-200" : ""}`}>
      <div className={`flex items-center gap-3 ${verdictColour(result.verdict)}`}>
        <VerdictMark state={result.verdict} size={40} />
        <span className="text-2xl leading-tight font-bold" data-overall={result.verdict}>
          {HEADLINES[result.verdict]}
        </span>
      </div>
      {tightest && (
        <p className="mt-2 leading-tight">
          <span className="quiet text-sm">
            {result.verdict === "pass" ? "Tightest: " : "Because of: "}
            {tightest.title}
          </span>
          <br />
          <span className="text-2xl font-bold">{tightest.answer}</span>
        </p>
      )}
      {work.trial && <p className="text-sm font-semibold text-accent">Tried out, not saved</p>}
      {work.previewed && <p className="quiet text-sm">As typed, not saved yet</p>}
    </div>
  );
}

/** What there is to say of the circuit, beside the drawing: every check, what may be done, what is tried. */
export function VerdictPanel({
  work,
  view,
  onPlace,
  advice,
  jobId,
}: {
  work: CircuitWork;
  view: CircuitView;
  onPlace: (check: Check) => void;
  advice: string;
  jobId: string;
}) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const result = work.result ?? view.result;
  const [tab, setTab] = useState<"checks" | "propose" | "whatif">("checks");
  function choose(next: typeof tab) {
    setTab(next);
    if (next === "whatif" && !work.trial) work.startTrial();
  }
  const [inLibrary, setInLibrary] = useState(false);
  async function copy() {
    const made = await ask(api.POST("/api/circuits/{circuit_id}/copy", { params: { path: { circuit_id: view.id } } }));
    await queries.invalidateQueries({ queryKey: ["job", jobId] });
    void navigate(`/jobs/${jobId}/circuits/${made.id}`);
  }
  async function toLibrary() {
    await ask(api.POST("/api/circuits/{circuit_id}/library", { params: { path: { circuit_id: view.id } } }));
    await queries.invalidateQueries({ queryKey: ["library"] });
    setInLibrary(true);
  }
  async function remove() {
    if (!confirm(`Take ${view.design.name} out of the job? It stays in the records.`)) return;
    await ask(api.DELETE("/api/circuits/{circuit_id}", { params: { path: { circuit_id: view.id } } }));
    await queries.invalidateQueries({ queryKey: ["job", jobId] });
    void navigate(`/jobs/${jobId}/circuits`);
  }
  return (
    <aside className="flex min-h-0 flex-col border-l border-base-300 lg:overflow-y-auto" aria-live="polite">
      <div className="max-lg:hidden">
        <Headline work={work} result={result} />
      </div>
      <div role="tablist" className="flex border-b border-base-300">
        {(["checks", "propose", "whatif"] as const).map((each) => (
          <button
            key={each}
            role="tab"
            aria-selected={tab === each}
            data-tab={each}
            className={`grow cursor-pointer px-2 py-2 font-semibold ${tab === each ? "border-b-4 border-accent" : "quiet border-b-4 border-transparent"}`}
            onClick={() => choose(each)}
          >
            {{ checks: "Checks", propose: "Choose", whatif: "What if" }[each]}
          </button>
        ))}
      </div>
      {tab === "checks" && <CheckList checks={result.checks} onPlace={onPlace} />}
      {tab === "propose" && (
        <ProposalPanel
          view={view}
          onTry={(design) => {
            setTab("whatif");
            void work.tryOut(design);
          }}
        />
      )}
      {tab === "whatif" && <WhatIf work={work} view={view} onDone={() => setTab("checks")} />}
      {result.assumptions.length > 0 && (
        <p className="px-3 py-2 text-sm">
          <b>Assumed:</b> {result.assumptions.join("; ")}
        </p>
      )}
      <p className="quiet mt-auto px-4 pt-3 text-sm">
        <Link className="underline" to={`/rulebooks/${result.rulebook}`}>
          {advice}
        </Link>{" "}
        A prediction never replaces a test.
      </p>
      <div className="flex flex-wrap gap-1 p-2">
        <a className="btn btn-sm" href={`/api/circuits/${view.id}/calculation.pdf`} download data-download="calculation">
          Calculation sheet
        </a>
        <button className="btn btn-sm" onClick={() => void copy()}>
          Copy
        </button>
        <button className="btn btn-sm" disabled={inLibrary} onClick={() => void toLibrary()}>
          {inLibrary ? "In the library" : "To our library"}
        </button>
        <button className="btn btn-ghost btn-sm" onClick={() => void remove()}>
          Take it out
        </button>
      </div>
    </aside>
  );
}
