import { useState } from "react";
import type { BoardsView, Trip } from "../../api/client";
import { useBoards, type BoardsWork } from "../../data/useBoards";
import { useJob } from "../../data/useJob";
import { ConflictNote } from "../../parts/ConflictNote";
import { Opened } from "../../parts/Opened";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { VerdictMark } from "../../parts/verdict";
import { BoardFaces } from "./BoardFaces";
import { BoardInspector } from "./BoardInspector";
import { SidePanel } from "./SidePanel";
import { SHOWINGS, moveBy, type Picked, type Showing } from "./picking";

/** The boards as one stands before them, and what their circuits share. */
export function BoardPage() {
  const job = useJob();
  const work = useBoards(job.id);
  return <Opened query={work.query}>{(view) => <Workplace work={work} view={view} />}</Opened>;
}

const HEADLINE = {
  pass: "The boards are sound",
  fail: "The boards need work",
  "cannot-tell": "Not all is known of the boards",
  "not-applicable": "Nothing on the boards yet",
} as const;

function Workplace({ work, view }: { work: BoardsWork; view: BoardsView }) {
  const [picked, setPicked] = useState<Picked>({ kind: "board", id: view.boards[0]?.id ?? "" });
  const [showing, setShowing] = useState<Showing>("feeds");
  const [tripped, setTripped] = useState<string>();
  const trip: Trip | undefined = view.result.trips.find((each) => each.id === tripped);

  function keys(event: React.KeyboardEvent) {
    if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
    if (event.ctrlKey || event.metaKey) return;
    if (event.key === "Escape") setTripped(undefined);
    else if (event.key.toLowerCase() === "t") setTripped(tripped === picked.id ? undefined : picked.id);
    else if (event.key === "ArrowLeft" || event.key === "ArrowRight") {
      const step = event.key === "ArrowLeft" ? -1 : 1;
      event.preventDefault();
      if (event.shiftKey) {
        const move = picked.kind === "way" ? moveBy(view.boards, picked.id, step) : undefined;
        if (move) void work.command(move);
      } else {
        const ways = view.boards.flatMap((board) => board.groups.flatMap((group) => group.ways));
        const at = picked.kind === "way" ? ways.findIndex((way) => way.id === picked.id) : step > 0 ? -1 : 0;
        const next = ways[Math.min(Math.max(at + step, 0), ways.length - 1)];
        if (next) {
          setPicked({ kind: "way", id: next.id });
          document.querySelector<HTMLElement>(`[data-way="${next.id}"]`)?.focus();
        }
      }
    }
  }

  useUndoKeys(work);

  return (
    <main className="grid min-w-0 lg:h-[calc(100dvh-3.2rem)] lg:grid-cols-[1fr_21rem]">
      <div className="flex min-h-0 min-w-0 flex-col">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300 px-4 py-1.5">
          <VerdictMark state={view.result.verdict} size={28} />
          <h1 className="text-xl font-bold" data-house={view.result.verdict}>
            {HEADLINE[view.result.verdict]}
          </h1>
          <span className="grow" />
          <Pick small name="What the ways show" value={showing} options={SHOWINGS} onCommit={setShowing} />
          <UndoBar work={work} canUndo={view.can_undo} canRedo={view.can_redo} savedAt={view.changed_at} />
        </div>
        <ConflictNote work={work} />
        {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
        {trip && <Tripped trip={trip} onReset={() => setTripped(undefined)} />}
        {/* The keys work wherever on the boards the focus is. */}
        {/* eslint-disable-next-line jsx-a11y/no-static-element-interactions */}
        <div className="min-h-0 grow overflow-y-auto px-4 py-3" onKeyDown={keys}>
          {view.boards.map((board) => (
            <BoardFaces
              key={board.id}
              board={board}
              view={view}
              showing={showing}
              picked={picked}
              dark={trip ? new Set(trip.circuits) : undefined}
              tripped={tripped}
              onPick={setPicked}
              onCommand={(...commands) => void work.command(...commands)}
            />
          ))}
          <p className="border-l-4 border-warning bg-base-200 px-3 py-2 text-sm">
            Isolate and prove dead before a cover comes off. For competent persons; local rules come first, and nothing
            here replaces a test.
          </p>
        </div>
        <BoardInspector
          key={`${picked.kind}-${picked.id}`}
          view={view}
          picked={picked}
          tripped={tripped}
          onPick={setPicked}
          onTrip={setTripped}
          onCommand={(...commands) => work.command(...commands)}
        />
      </div>
      <SidePanel
        view={view}
        trip={trip}
        onPick={setPicked}
        onTrip={setTripped}
        onCommand={(...commands) => void work.command(...commands)}
      />
    </main>
  );
}

function Tripped({ trip, onReset }: { trip: Trip; onReset: () => void }) {
  const rooms = [...new Set(trip.lost.map((lost) => lost.room).filter(Boolean))];
  return (
    <div
      className="flex flex-wrap items-center gap-3 border-b-2 border-error bg-base-200 px-4 py-1.5"
      data-tripped={trip.id}
      role="status"
    >
      <span className="text-lg font-bold">
        {trip.title} has tripped: {trip.circuits.length === 1 ? "1 circuit" : `${trip.circuits.length} circuits`} dark
      </span>
      <span className="grow">{rooms.length > 0 ? rooms.join(", ") : "no room is named"}</span>
      <button className="btn btn-sm btn-primary" onClick={onReset}>
        Switch it on again <kbd>Esc</kbd>
      </button>
    </div>
  );
}
