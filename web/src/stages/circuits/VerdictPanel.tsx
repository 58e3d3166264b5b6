import * as Tabs from "@radix-ui/react-tabs";
import { useState } from "react";
import { Link, useNavigate } from "react-router-dom";
import { asRefused, type Check, type CircuitResult, type CircuitView, type Refused } from "../../api/client";
import { useCircuits, useLibrary } from "../../data/useCircuits";
import { CheckList } from "../../parts/CheckRow";
import { RefusalNote } from "../../parts/RefusalNote";
import { verdictColour, VerdictMark, type State } from "../../parts/verdict";
import { ProposalPanel } from "./ProposalPanel";
import type { CircuitWork } from "../../data/useCircuit";
import { MakePdf } from "../../parts/MakePdf";
import { WhatIf } from "./WhatIf";

const HEADLINES: Record<State, string> = {
  pass: "Complies",
  mind: "Complies, mind",
  fail: "Does not comply",
  "cannot-tell": "Cannot tell yet",
  "not-applicable": "Nothing to judge",
};

const TABS = [
  ["checks", "Checks"],
  ["propose", "Choose"],
  ["whatif", "What if"],
] as const;
type Tab = (typeof TABS)[number][0];

/** The answer, the biggest thing on the page: at the side at a desk, on top on a phone. */
export function Headline({ work, result }: { work: CircuitWork; result: CircuitResult }) {
  const found = (work.design ?? work.view?.design)?.state === "as-found";
  // What decides: the failure, what is missing, or else where least is left.
  const telling =
    result.verdict === "cannot-tell" ? result.checks.find((check) => check.verdict === "cannot-tell") : undefined;
  const tightest = telling ?? result.checks.find((check) => check.id === result.tightest);
  return (
    <div className={`border-b-2 border-base-300 px-4 py-3 ${work.previewed ? "bg-base-200" : ""}`}>
      <div className={`flex items-center gap-3 ${verdictColour(result.verdict)}`}>
        <VerdictMark state={result.verdict} size={40} />
        <span className="text-2xl leading-tight font-bold" data-overall={result.verdict}>
          {result.verdict === "fail" && found ? "Departs from today’s rules" : HEADLINES[result.verdict]}
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
  const circuits = useCircuits(jobId);
  const library = useLibrary();
  const [refused, setRefused] = useState<Refused>();
  const navigate = useNavigate();
  const result = work.result ?? view.result;
  const [tab, setTab] = useState<Tab>("checks");
  function choose(next: Tab) {
    setTab(next);
    if (next === "whatif" && !work.trial) work.startTrial();
  }
  const [inLibrary, setInLibrary] = useState(false);
  async function attempt(what: () => Promise<void>) {
    try {
      await what();
      setRefused(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  const copy = () =>
    attempt(async () => {
      const made = await circuits.start({ copy_of: view.id });
      void navigate(`/jobs/${jobId}/circuits/${made.id}`);
    });
  const toLibrary = () =>
    attempt(async () => {
      await library.keep(view.id);
      setInLibrary(true);
    });
  const remove = () =>
    attempt(async () => {
      if (!confirm(`Take ${view.design.name} out of the job? It is kept in the records.`)) return;
      await circuits.remove(view.id);
      void navigate(`/jobs/${jobId}/circuits`);
    });
  return (
    <aside
      aria-label="What is said of it"
      className="flex min-h-0 flex-col border-l border-base-300 lg:overflow-y-auto"
      aria-live="polite"
    >
      <div className="max-lg:hidden">
        <Headline work={work} result={result} />
      </div>
      <Tabs.Root value={tab} onValueChange={(next) => choose(next as Tab)}>
        <Tabs.List aria-label="What there is to say of the circuit" className="flex border-b border-base-300">
          {TABS.map(([each, words]) => (
            <Tabs.Trigger
              key={each}
              value={each}
              data-tab={each}
              className={`grow cursor-pointer px-2 py-2 font-semibold ${tab === each ? "border-b-4 border-accent" : "quiet border-b-4 border-transparent"}`}
            >
              {words}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="checks">
          <CheckList checks={result.checks} onPlace={onPlace} />
        </Tabs.Content>
        <Tabs.Content value="propose">
          <ProposalPanel
            view={view}
            onTry={(design) => {
              setTab("whatif");
              void work.tryOut([{ op: "take", design }]);
            }}
          />
        </Tabs.Content>
        <Tabs.Content value="whatif">
          <WhatIf work={work} view={view} onDone={() => setTab("checks")} />
        </Tabs.Content>
      </Tabs.Root>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
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
        <MakePdf
          className="btn-sm"
          href={`/api/circuits/${view.id}/papers/calculation.pdf`}
          words="Calculation sheet"
          name="calculation"
        />
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
