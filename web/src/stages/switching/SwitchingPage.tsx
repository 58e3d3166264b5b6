import { useEffect, useMemo, useRef, useState } from "react";
import { Link, Navigate, useNavigate, useParams } from "react-router-dom";
import type { CircuitView, Face, Hazard, SwitchingLine, SwitchingView } from "../../api/client";
import { useCircuit, type CircuitWork } from "../../data/useCircuit";
import { useJob } from "../../data/useJob";
import { useLit, useSwitching } from "../../data/useSwitching";
import { CircuitStrip } from "../../parts/CircuitStrip";
import { ConflictNote } from "../../parts/ConflictNote";
import { Choice } from "../../parts/fields";
import { Opened } from "../../parts/Opened";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { VerdictMark, verdictWord } from "../../parts/verdict";
import {
  atRest,
  coreKey,
  layOutBench,
  partsOf,
  shownIn,
  standsOf,
  stateNumber,
  stepState,
  switchKey,
  switchesOf,
  type BoxSpot,
  type PadSpot,
  type Stands,
} from "./bench";
import { BenchDrawing, type PickedCore } from "./BenchDrawing";
import { useChoices } from "../../data/useChoices";
import { BoxEditor } from "./BoxEditor";
import { CoreBar } from "./CoreBar";
import { MendPanel } from "./MendPanel";
import { ProofPanel } from "./ProofPanel";
import { RecordsPanel } from "./RecordsPanel";
import { SchemePanel } from "./SchemePanel";

/** What switches what: planned, proved in every state, put right, made off. */
export function SwitchingPage() {
  const job = useJob();
  const { circuitId } = useParams();
  const lit = useLit(job.id, job.changed_at);
  return <Opened query={lit}>{(lines) => <Listed lines={lines} circuitId={circuitId} />}</Opened>;
}

function Listed({ lines, circuitId }: { lines: readonly SwitchingLine[]; circuitId: string | undefined }) {
  const job = useJob();
  const navigate = useNavigate();
  const first = lines.find((line) => line.verdict === "fail") ?? lines[0];
  if (!circuitId && first) return <Navigate to={`/jobs/${job.id}/switching/${first.id}`} replace />;
  return (
    <div className="grid grow content-start md:grid-cols-[12rem_1fr] md:content-stretch">
      <aside aria-label="Lit circuits" className="border-r border-base-300 max-md:border-0">
        <div className="hidden md:block">
          <CircuitStrip
            name="Circuits with something to switch"
            base={`/jobs/${job.id}/switching`}
            lines={lines.map((line) => ({ ...line, state: line.verdict }))}
            chosen={circuitId}
          />
        </div>
        {circuitId && (
          <div className="px-3 pt-3 md:hidden">
            <Choice
              name="Circuit to open"
              className="select-lg w-full font-semibold"
              value={circuitId}
              options={lines.map(
                (line) => [line.id, `${line.number}  ${line.name}: ${verdictWord(line.verdict)}`] as const,
              )}
              onCommit={(id) => void navigate(`/jobs/${job.id}/switching/${id}`)}
            />
          </div>
        )}
        <p className="quiet px-3 py-3 text-sm max-md:hidden">
          Circuits with lights or switches. New ones are begun under Circuits.
        </p>
      </aside>
      {circuitId ? (
        <Open key={circuitId} circuitId={circuitId} />
      ) : (
        <p className="p-10 text-center text-xl">
          No lights yet. Begin a lighting circuit under Circuits, then say here what switches what.
        </p>
      )}
    </div>
  );
}

function Open({ circuitId }: { circuitId: string }) {
  const work = useCircuit(circuitId);
  return <Opened query={work.query}>{(view) => <Loaded work={work} view={view} />}</Opened>;
}

function Loaded({ work, view }: { work: CircuitWork; view: CircuitView }) {
  const switching = useSwitching(view.id, view.version);
  return (
    <Opened query={switching} waiting="Trying every switch…">
      {(bench) => <Workplace work={work} view={view} bench={bench} />}
    </Opened>
  );
}

const HEADLINES = {
  pass: "Works as meant",
  fail: "Does not pass",
  "cannot-tell": "Not all is said yet",
  "not-applicable": "Nothing to light yet",
} as const;

type Panel = "proof" | "scheme" | "mend" | "records";
const PANELS: readonly (readonly [Panel, string])[] = [
  ["proof", "Proof"],
  ["scheme", "Cables"],
  ["mend", "Put right"],
  ["records", "Records"],
];

function Workplace({ work, view, bench }: { work: CircuitWork; view: CircuitView; bench: SwitchingView }) {
  const job = useJob();
  const choices = useChoices(job.head);
  const { proof, faces } = bench;
  const circuit = view.design;
  const [moved, setMoved] = useState<Stands>({});
  const [picked, setPicked] = useState<PickedCore>();
  const [box, setBox] = useState<string>();
  const [aloneOn, setAloneOn] = useState(false);
  const [shownHazard, setShownHazard] = useState<Hazard>();
  const [panel, setPanel] = useState<Panel>(circuit.scheme || proof.verdict === "fail" ? "proof" : "scheme");

  const stands = useMemo(() => ({ ...atRest(proof), ...moved }), [proof, moved]);
  const shown = useMemo(() => shownIn(proof, stands), [proof, stands]);
  const parts = useMemo(() => partsOf(proof), [proof]);
  const { ref, width } = useWidth();
  const layout = useMemo(() => layOutBench(faces, (width - 28) * 1.1), [faces, width]);
  const number = stateNumber(proof, stands);
  const part = picked && parts.get(coreKey(picked.circuit, picked.place, picked.leg, picked.core));
  const mine = picked?.circuit === circuit.number ? picked : undefined;

  const { command } = work;

  function turn(key: string) {
    const each = switchesOf(proof).find((one) => switchKey(one) === key);
    if (each) setMoved({ ...stands, [key]: ((stands[key] ?? 0) + 1) % each.positions });
  }

  function onPad(spot: BoxSpot, pad: PadSpot) {
    if (!mine || spot.face.circuit !== circuit.number || spot.face.place !== mine.place) return;
    const to = pad.name !== "" ? { terminal: pad.name } : besideOf(pad, mine);
    if (!to) return;
    void command({ op: "connect", point: mine.place, leg: mine.leg, core: mine.core, ...to });
    setPicked(undefined);
  }

  function pickCore(core: PickedCore | undefined) {
    // With a core in hand, another core of the same box is what it is joined to.
    if (
      core &&
      mine &&
      core.circuit === mine.circuit &&
      core.place === mine.place &&
      !aloneOn &&
      !sameCore(core, mine)
    ) {
      void command({
        op: "connect",
        point: mine.place,
        leg: mine.leg,
        core: mine.core,
        beside_leg: core.leg,
        beside_core: core.core,
      });
      setPicked(undefined);
      return;
    }
    setPicked(core);
  }

  function showHazard(hazard: Hazard) {
    setShownHazard(hazard);
    if (hazard.stands.length > 0) setMoved(standsOf(hazard, stands));
  }

  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      const target = event.target;
      if (
        target instanceof HTMLInputElement ||
        target instanceof HTMLSelectElement ||
        target instanceof HTMLTextAreaElement
      )
        return;
      const key = event.key.toLowerCase();
      if (event.ctrlKey || event.metaKey) return;
      if (/^[1-9]$/.test(key)) {
        const each = switchesOf(proof)[Number(key) - 1];
        if (!each) return;
        turn(switchKey(each));
      } else if (key === "arrowright" || key === "arrowleft")
        setMoved(stepState(proof, stands, key === "arrowright" ? 1 : -1));
      else if (key === "escape") {
        setPicked(undefined);
        setBox(undefined);
        setShownHazard(undefined);
      } else if (key === "n" && picked) setAloneOn((on) => !on);
      else return;
      event.preventDefault();
    }
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });

  const face = faces.find((each) => each.circuit === circuit.number && each.place === box);
  return (
    <main className="grid min-w-0 lg:h-[calc(100dvh-3.2rem)] lg:grid-cols-[1fr_22rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300 px-4 py-1.5">
          <VerdictMark state={proof.verdict} size={28} />
          <h1 className="text-xl font-bold" data-proof={proof.verdict}>
            {HEADLINES[proof.verdict]}
            {proof.verdict === "pass" &&
              (proof.states === 1 ? ", in its one state" : `, in all ${String(proof.states)} states`)}
          </h1>
          <span className="grow" />
          <Link className="btn btn-sm" to={`/jobs/${job.id}/make-off/${view.id}`}>
            Make-off sheet
          </Link>
          <UndoBar work={work} canUndo={view.can_undo} canRedo={view.can_redo} savedAt={view.changed_at} />
        </div>
        <ConflictNote work={work} />
        {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 px-4 py-1.5">
          <div className="join">
            <button
              className="btn join-item btn-sm"
              aria-label="State before"
              onClick={() => setMoved(stepState(proof, stands, -1))}
            >
              ◀
            </button>
            <span
              className="join-item flex items-center border border-base-300 px-3 font-semibold"
              data-state={number.at + 1}
            >
              State {number.at + 1} of {number.of}
            </span>
            <button
              className="btn join-item btn-sm"
              aria-label="Next state"
              onClick={() => setMoved(stepState(proof, stands, 1))}
            >
              ▶
            </button>
          </div>
          {shownHazard && <span className="font-semibold text-error">{shownHazard.words}</span>}
          <span className="quiet text-sm max-md:hidden">
            Press a switch or its digit. Take a core by a click, then click where it goes. <kbd>N</kbd> shows its net
            alone.
          </span>
          {bench.others.length > 0 && (
            <span className="font-semibold text-warning">Wired into circuit {bench.others.join(", ")}</span>
          )}
        </div>
        <div ref={ref} className="min-h-0 grow overflow-auto px-3 pb-2">
          {faces.length === 0 ? (
            <p className="p-8 text-center text-lg">No boxes yet. Add the places under Plan.</p>
          ) : (
            <BenchDrawing
              layout={layout}
              proof={proof}
              parts={parts}
              shown={shown}
              stands={stands}
              picked={picked}
              alone={aloneOn ? part : undefined}
              marked={shownHazard?.place?.kind === "point" ? shownHazard.place.id : undefined}
              looked={box}
              onSwitch={turn}
              onPick={pickCore}
              onPad={onPad}
              onBox={(each: Face) =>
                each.circuit === circuit.number && setBox(each.place === box ? undefined : each.place)
              }
            />
          )}
        </div>
        {picked && (
          <CoreBar
            bench={bench}
            picked={picked}
            own={mine !== undefined}
            alone={aloneOn}
            onAlone={() => setAloneOn(!aloneOn)}
            onCommand={(...commands) => void command(...commands)}
            onDone={() => {
              setPicked(undefined);
              setAloneOn(false);
            }}
          />
        )}
        {!picked && face && (
          <BoxEditor
            key={face.place}
            jobId={job.id}
            circuit={circuit}
            choices={choices.data}
            face={face}
            onCommand={command}
            onClose={() => setBox(undefined)}
          />
        )}
        <p className="border-l-4 border-warning bg-base-200 px-3 py-1.5 text-sm">
          Isolate, lock off and prove dead before a box is opened. For competent persons; local rules come first, and
          nothing here replaces a test.
        </p>
      </div>
      <aside
        aria-label="Proof, plan and records"
        className="flex min-h-0 flex-col border-l border-base-300 max-lg:border-t"
      >
        <div className="px-3 py-1.5">
          <Pick small name="What to see beside the boxes" value={panel} options={PANELS} onCommit={setPanel} />
        </div>
        <div className="min-h-0 grow overflow-y-auto">
          {panel === "proof" && <ProofPanel proof={proof} onHazard={showHazard} shown={shownHazard} />}
          {panel === "scheme" && <SchemePanel view={view} bench={bench} choices={choices.data} onCommand={command} />}
          {panel === "mend" && <MendPanel view={view} bench={bench} onCommand={command} />}
          {panel === "records" && <RecordsPanel view={view} />}
        </div>
      </aside>
    </main>
  );
}

/** How wide a part of the page is, as it changes. */
function useWidth() {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(720);
  useEffect(() => {
    const element = ref.current;
    if (!element) return undefined;
    const watch = new ResizeObserver(() => setWidth(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, []);
  return { ref, width };
}

function besideOf(pad: PadSpot, mine: PickedCore) {
  const other = pad.cores.find((core) => core.leg !== mine.leg || core.core !== mine.core);
  return other ? { beside_leg: other.leg, beside_core: other.core } : undefined;
}

function sameCore(a: PickedCore, b: PickedCore): boolean {
  return a.leg === b.leg && a.core === b.core && a.place === b.place && a.circuit === b.circuit;
}
