import { useMemo, useState, type KeyboardEvent } from "react";
import { Navigate, useNavigate, useParams } from "react-router-dom";
import { asRefused, type Check, type Choices, type CircuitView, type Command } from "../../api/client";
import { useJob } from "../../data/useJob";
import { CircuitStrip } from "../../parts/CircuitStrip";
import { ConflictNote } from "../../parts/ConflictNote";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { Choice } from "../../parts/fields";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { verdictWord } from "../../parts/verdict";
import { CircuitHead } from "./CircuitHead";
import { Inspector } from "./Inspector";
import { namer } from "./inspecting";
import { layOut } from "../../drawing/layout";
import { litLegs } from "../../drawing/lit";
import { RunDrawing, SHOWINGS, type Picked, type Showing } from "../../drawing/RunDrawing";
import { StartCircuit } from "./StartCircuit";
import { useChoices } from "../../data/useChoices";
import { useCircuit, type CircuitWork } from "../../data/useCircuit";
import { Headline, VerdictPanel } from "./VerdictPanel";

const BOARD: Picked = { kind: "point", id: "board" };

export function CircuitPage() {
  const job = useJob();
  const { circuitId } = useParams();
  const navigate = useNavigate();
  const first = job.circuits[0];
  if (!circuitId && first) return <Navigate to={`/jobs/${job.id}/circuits/${first.id}`} replace />;
  return (
    <div className="grid grow content-start md:grid-cols-[12rem_1fr] md:content-stretch">
      <aside aria-label="Circuits" className="border-r border-base-300 max-md:border-0">
        <div className="hidden md:block">
          <CircuitStrip
            base={`/jobs/${job.id}/circuits`}
            lines={job.circuits.map((line) => ({ ...line, state: line.verdict }))}
            chosen={circuitId}
          />
        </div>
        {circuitId && (
          <div className="px-3 pt-3 md:hidden">
            <Choice
              name="Circuit to open"
              className="select-lg w-full font-semibold"
              value={circuitId}
              options={job.circuits.map(
                (line) => [line.id, `${line.number}  ${line.name}: ${verdictWord(line.verdict)}`] as const,
              )}
              onCommit={(id) => void navigate(`/jobs/${job.id}/circuits/${id}`)}
            />
          </div>
        )}
        <StartCircuit job={job} />
      </aside>
      {circuitId ? (
        <Open key={circuitId} circuitId={circuitId} />
      ) : (
        <p className="p-10 text-center text-xl">No circuits yet. Start the first one: sockets, lights, the cooker…</p>
      )}
    </div>
  );
}

function Open({ circuitId }: { circuitId: string }) {
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
  return <Workplace work={work} view={work.view} choices={choices.data} />;
}

function Workplace({ work, view, choices }: { work: CircuitWork; view: CircuitView; choices: Choices }) {
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
  const length = (leg: string, length_m: number | null): Command => ({ op: "segment", leg, length_m });

  async function edit(op: Command) {
    const kept = await work.command(op);
    if (!kept) return;
    setMoving(undefined);
    const focus = kept.focus;
    const isLeg = kept.design.legs.some((leg) => leg.id === focus);
    if (op.op === "add" || op.op === "spur" || op.op === "insert") {
      // The eye goes to the length of the leg that leads to the new point.
      const leg =
        kept.design.legs.find((each) => each.b === focus) ?? kept.design.legs.find((each) => each.a === focus);
      setShowing("lengths");
      setPicked(leg ? { kind: "leg", id: leg.id } : BOARD);
    } else if (focus === "" || focus === "board") setPicked(BOARD);
    else if (isLeg && op.op === "remove")
      setPicked({ kind: "point", id: kept.design.legs.find((leg) => leg.id === focus)?.b ?? "board" });
    else setPicked({ kind: isLeg ? "leg" : "point", id: focus });
    if (op.op === "remove" || op.op === "cut" || op.op === "leave-dead" || op.op === "move") focusDrawing();
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

  useUndoKeys(work);

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
          electrodeRead={view.electrode_read_ohm ?? null}
          onCommand={(command) => void work.command(command)}
        />
        <div className="flex flex-wrap items-center gap-x-2.5 gap-y-1 border-t border-base-300 px-4 py-1">
          <span className="text-lg font-semibold" data-shape={result.shape.kind}>
            {result.shape.title}
          </span>
          <Pick small name="What the drawing shows" value={showing} options={SHOWINGS} onCommit={setShowing} />
          <span className="grow" />
          <UndoBar work={work} canUndo={view.can_undo} canRedo={view.can_redo} savedAt={view.changed_at} />
        </div>
        <ConflictNote work={work} />
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
            kindName={namer(choices)}
            onHover={setHovered}
            onPick={setPicked}
            onMoveInto={(point, leg) => void edit({ op: "move", point, into_leg: leg })}
            onKey={onKey}
            onLength={(leg, metres) => void work.command(length(leg, metres))}
            onLengthTyping={(leg, metres) => work.previewing(length(leg, metres))}
          />
        </div>
        <Inspector
          circuit={circuit}
          choices={choices}
          jobId={job.id}
          circuitId={view.id}
          picked={picked}
          moving={moving}
          onCommand={(...commands) => void work.command(...commands)}
          onEdit={(op) => void edit(op)}
          onMove={setMoving}
          onCloseRing={closeRing}
          onLayRun={work.layRun}
        />
      </div>
      <VerdictPanel
        work={work}
        view={view}
        onPlace={onPlace}
        advice={`${choices.title}. ${choices.advice}`}
        jobId={job.id}
      />
    </main>
  );
}
