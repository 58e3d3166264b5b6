import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useState, type KeyboardEvent } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router-dom";
import { api, ask, asRefused, type Check, type Circuit, type CircuitResult, type CircuitView, type Edit, type JobView, type Refused } from "../api/client";
import { clockOf } from "../numbers";
import { CheckList } from "../parts/CheckRow";
import { Choice, Pick } from "../parts/fields";
import { RefusalNote } from "../parts/RefusalNote";
import { verdictColour, VerdictMark, verdictWord, type State } from "../parts/verdict";
import { CircuitHead } from "../run/CircuitHead";
import { Inspector } from "../run/Inspector";
import { layOut } from "../run/layout";
import { litLegs } from "../run/lit";
import { ProposalPanel } from "../run/ProposalPanel";
import { WhatIf } from "../run/WhatIf";
import { RunDrawing, SHOWINGS, type Picked, type Showing } from "../run/RunDrawing";
import { useCircuit, type CircuitWork } from "../run/useCircuit";
import { CircuitStrip, useJob } from "./JobPage";

const BOARD: Picked = { kind: "point", id: "board" };

function useChoices({ rulebook, edition }: JobView["head"]) {
  return useQuery({
    queryKey: ["choices", rulebook, edition],
    queryFn: () => ask(api.GET("/api/rulebooks/{rulebook}/choices", { params: { path: { rulebook }, query: { edition } } })),
    staleTime: Infinity,
  });
}

export function CircuitPage() {
  const job = useJob();
  const { circuitId } = useParams();
  const navigate = useNavigate();
  const first = job.circuits[0];
  if (!circuitId && first) return <Navigate to={`/jobs/${job.id}/circuits/${first.id}`} replace />;
  return (
    <div className="grid grow content-start md:grid-cols-[12rem_1fr] md:content-stretch">
      <aside className="border-r border-base-300 max-md:border-0">
        <div className="hidden md:block">
          <CircuitStrip job={job} base="circuits" chosen={circuitId} />
        </div>
        {circuitId && (
          <div className="px-3 pt-3 md:hidden">
            <Choice
              name="Circuit to open"
              className="select-lg w-full font-semibold"
              value={circuitId}
              options={job.circuits.map((line) => [line.id, `${line.number}  ${line.name}: ${verdictWord(line.verdict)}`] as const)}
              onCommit={(id) => void navigate(`/jobs/${job.id}/circuits/${id}`)}
            />
          </div>
        )}
        <StartCircuit />
      </aside>
      {circuitId ? (
        <Bench key={circuitId} circuitId={circuitId} />
      ) : (
        <p className="p-10 text-center text-xl">No circuits yet. Start the first one: sockets, lights, the cooker…</p>
      )}
    </div>
  );
}

function StartCircuit() {
  const job = useJob();
  const choices = useChoices(job.head);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const library = useQuery({ queryKey: ["library"], queryFn: () => ask(api.GET("/api/library")) });
  const [open, setOpen] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  async function begin(call: Promise<CircuitView>) {
    try {
      const made = await call;
      setOpen(false);
      setRefused(undefined);
      await queries.invalidateQueries({ queryKey: ["job", job.id] });
      void navigate(`/jobs/${job.id}/circuits/${made.id}`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  const ofKind = (kind: Circuit["kind"]) =>
    begin(ask(api.POST("/api/jobs/{job_id}/kinds/{kind}", { params: { path: { job_id: job.id, kind } } })));
  const fromLibrary = (library_id: string) =>
    begin(ask(api.POST("/api/jobs/{job_id}/library/{library_id}", { params: { path: { job_id: job.id, library_id } } })));
  async function offLibrary(library_id: string) {
    await ask(api.DELETE("/api/library/{library_id}", { params: { path: { library_id } } }));
    await queries.invalidateQueries({ queryKey: ["library"] });
  }
  return (
    <>
      <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
        <summary className="cursor-pointer px-4 py-2 font-semibold hover:bg-base-200">+ Start a circuit</summary>
        <ul className="pb-2">
          {choices.data?.kinds.map((kind) => (
            <li key={kind.id}>
              <button
                className="w-full cursor-pointer py-1.5 pl-8 text-left text-sm hover:bg-base-200"
                title={kind.special}
                onClick={() => void ofKind(kind.id)}
              >
                {kind.name}
              </button>
            </li>
          ))}
        </ul>
      </details>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {(library.data?.length ?? 0) > 0 && (
        <details className="px-4 py-1">
          <summary className="cursor-pointer text-sm font-semibold">From our library</summary>
          <ul>
            {library.data?.map((line) => (
              <li key={line.id} className="flex items-center border-b border-base-300">
                <button className="grow cursor-pointer py-1.5 text-left text-sm hover:underline" onClick={() => void fromLibrary(line.id)}>
                  {line.name}
                </button>
                <button
                  className="btn btn-ghost btn-xs"
                  aria-label={`Take ${line.name} off the library`}
                  onClick={() => void offLibrary(line.id)}
                >
                  ✕
                </button>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Bench({ circuitId }: { circuitId: string }) {
  const job = useJob();
  const choices = useChoices(job.head);
  const work = useCircuit(circuitId);
  if (work.query.isError)
    return (
      <div className="p-6">
        <RefusalNote refused={asRefused(work.query.error)} />
      </div>
    );
  if (!work.view || !work.result || !choices.data) return <p className="p-6">Opening…</p>;
  return <OpenBench work={work} view={work.view} choices={choices.data} />;
}

function OpenBench({
  work,
  view,
  choices,
}: {
  work: CircuitWork;
  view: CircuitView;
  choices: NonNullable<ReturnType<typeof useChoices>["data"]>;
}) {
  const job = useJob();
  const circuit = work.design ?? view.design;
  const result = work.result ?? view.result;
  const [picked, setPicked] = useState<Picked>(BOARD);
  const [moving, setMoving] = useState<string>();
  const [showing, setShowing] = useState<Showing>("lengths");
  const [hovered, setHovered] = useState<string>();
  const litPoint = hovered ?? (picked.kind === "point" && picked.id !== "board" ? picked.id : undefined);
  const lit = useMemo(
    () => (litPoint ? litLegs(circuit, view.result.shape, litPoint) : new Set<string>()),
    [circuit, view.result.shape, litPoint],
  );
  const layout = useMemo(() => layOut(circuit, view.result.shape), [circuit, view.result.shape]);
  const failing = useMemo(() => {
    const failed = result.checks.filter((check) => check.verdict === "fail");
    const places = failed.filter((check) => check.place?.kind !== "circuit").map((check) => check.place?.id ?? "");
    return new Set(failed.some((check) => check.id.startsWith("feed")) ? [...places, "ahead"] : places);
  }, [result]);

  const focusDrawing = () => document.querySelector<HTMLElement>("[data-drawing]")?.focus();
  const setLength = (leg: string, length_m: number | null) => (design: Circuit) => ({
    ...design,
    legs: design.legs.map((each) =>
      each.id === leg ? { ...each, segments: each.segments.map((segment) => ({ ...segment, length_m })) } : each,
    ),
  });

  async function edit(op: Edit) {
    const kept = await work.edit(op);
    if (!kept) return;
    setMoving(undefined);
    const focus = kept.focus;
    const isLeg = kept.design.legs.some((leg) => leg.id === focus);
    if (op.op === "add" || op.op === "spur" || op.op === "insert") {
      // The eye goes to the length of the leg that leads to the new point.
      const leg = kept.design.legs.find((each) => each.b === focus) ?? kept.design.legs.find((each) => each.a === focus);
      setShowing("lengths");
      setPicked(leg ? { kind: "leg", id: leg.id } : BOARD);
    } else if (focus === "" || focus === "board") setPicked(BOARD);
    else if (isLeg && op.op === "remove") setPicked({ kind: "point", id: kept.design.legs.find((leg) => leg.id === focus)?.b ?? "board" });
    else setPicked({ kind: isLeg ? "leg" : "point", id: focus });
    if (op.op === "remove" || op.op === "cut" || op.op === "move") focusDrawing();
  }

  function closeRing() {
    const main = view.result.shape.walk[0];
    const end = picked.kind === "point" && picked.id !== "board" ? picked.id : main?.steps.at(-1)?.point;
    if (end && end !== "board") void edit({ op: "join", a: end, b: "board", length_m: null });
  }

  function walkBy(steps: number) {
    const here = layout.walk.findIndex((each) => each.kind === picked.kind && each.id === picked.id);
    const next = layout.walk[Math.min(Math.max(here + steps, 0), layout.walk.length - 1)];
    if (!next) return;
    setPicked(next);
    if (next.kind === "point") focusDrawing();
  }

  function onKey(event: KeyboardEvent) {
    const typing = event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement;
    if (typing) {
      if (event.key === "Enter") {
        // The figure has saved itself; the walk goes on.
        event.stopPropagation();
        walkBy(1);
      }
      if (event.key === "Escape") focusDrawing();
      return;
    }
    const command = event.ctrlKey || event.metaKey;
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
    if (command) return;
    const on = picked.kind === "point" ? picked.id : undefined;
    const actions: Record<string, () => void> = {
      ArrowRight: () => walkBy(1),
      ArrowDown: () => walkBy(1),
      ArrowLeft: () => walkBy(-1),
      ArrowUp: () => walkBy(-1),
      Enter: () => {
        if (moving && picked.kind === "leg") void edit({ op: "move", point: moving, into_leg: picked.id });
        else walkBy(1);
      },
      Escape: () => setMoving(undefined),
      a: () => on && void edit({ op: "add", after: on, length_m: null }),
      s: () => on && void edit({ op: "spur", off: on, length_m: null }),
      i: () => picked.kind === "leg" && void edit({ op: "insert", leg: picked.id }),
      m: () => on && on !== "board" && setMoving(on),
      r: closeRing,
      Delete: () => on && on !== "board" && void edit({ op: "remove", point: on }),
      Backspace: () => on && on !== "board" && void edit({ op: "remove", point: on }),
    };
    const act = actions[key];
    if (act) {
      event.preventDefault();
      act();
    }
  }

  useEffect(() => {
    function onUndo(event: globalThis.KeyboardEvent) {
      if (!(event.ctrlKey || event.metaKey)) return;
      // While a figure is being changed the browser's own undo serves; else the circuit's.
      if (event.target instanceof HTMLInputElement && event.target.dataset.changed !== "false") return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) void work.undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) void work.redo();
      else return;
      event.preventDefault();
    }
    addEventListener("keydown", onUndo);
    return () => removeEventListener("keydown", onUndo);
  });

  function onPlace(check: Check) {
    const place = check.place;
    if (place?.kind === "point") setPicked({ kind: "point", id: place.id });
    else if (place?.kind === "leg" || place?.kind === "segment") setPicked({ kind: "leg", id: place.id });
  }

  return (
    <main className="grid min-w-0 lg:h-[calc(100dvh-3.2rem)] lg:grid-cols-[1fr_20rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="lg:hidden">
          <Headline work={work} result={result} />
        </div>
        <CircuitHead
          circuit={circuit}
          choices={choices}
          departs={result.checks.find((check) => check.id === "usual")?.caution ?? ""}
          onChange={(make) => void work.change(make)}
        />
        <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1 border-t border-base-300 px-4 py-1">
          <span className="text-lg font-semibold" data-shape={result.shape.kind}>
            {result.shape.title}
          </span>
          <Pick small name="What the drawing shows" value={showing} options={SHOWINGS} onCommit={setShowing} />
          <span className="grow" />
          <button className="btn btn-sm px-2" title="Ctrl+Z" disabled={!work.canUndo} onClick={() => void work.undo()}>
            Undo
          </button>
          <button className="btn btn-sm px-2" disabled={!work.canRedo} onClick={() => void work.redo()}>
            Redo
          </button>
          <span className="quiet text-sm" role="status" data-saved={!work.saving && !work.refused}>
            {work.saving ? "Saving…" : work.refused ? "Not saved" : `Saved ${clockOf(view.changed_at)}`}
          </span>
        </div>
        {work.conflict && (
          <div role="alert" className="border-l-6 border-warning bg-base-200 px-4 py-3">
            <p className="text-lg font-semibold">{work.conflict.message}</p>
            <p>Their circuit is on the drawing now. Nothing of yours is lost: choose what stands.</p>
            <div className="mt-2 flex flex-wrap gap-2">
              <button className="btn btn-primary" onClick={work.mineOverTheirs}>
                Make my change on it
              </button>
              <button className="btn" onClick={work.keepTheirs}>
                Leave theirs
              </button>
              {work.conflict.mine && (
                <button className="btn" onClick={() => work.conflict?.mine && void work.copyOfMine(work.conflict.mine)}>
                  Keep mine as a circuit of its own
                </button>
              )}
            </div>
          </div>
        )}
        {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
        <div className="h-96 min-h-0 grow lg:h-0">
          <RunDrawing
            circuit={circuit}
            result={result}
            layout={layout}
            picked={picked}
            moving={moving}
            showing={showing}
            failing={failing}
            lit={lit}
            onHover={setHovered}
            onPick={setPicked}
            onMoveInto={(point, leg) => void edit({ op: "move", point, into_leg: leg })}
            onKey={onKey}
            onLength={(leg, length) => void work.change(setLength(leg, length))}
            onLengthTyping={(leg, length) => work.previewing(setLength(leg, length))}
          />
        </div>
        <Inspector
          circuit={circuit}
          choices={choices}
          picked={picked}
          moving={moving}
          onChange={(make) => void work.change(make)}
          onEdit={(op) => void edit(op)}
          onMove={setMoving}
          onCloseRing={closeRing}
          onLayRun={work.layRun}
        />
      </div>
      <VerdictPanel work={work} view={view} onPlace={onPlace} advice={`${choices.title}. ${choices.advice}`} jobId={job.id} />
    </main>
  );
}

const HEADLINES: Record<State, string> = {
  pass: "Complies",
  mind: "Complies, mind",
  fail: "Does not comply",
  "cannot-tell": "Cannot tell yet",
  "not-applicable": "Nothing to judge",
};

/** The answer, the biggest thing on the page: at the side at a desk, on top on a phone. */
function Headline({ work, result }: { work: CircuitWork; result: CircuitResult }) {
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

function VerdictPanel({
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
