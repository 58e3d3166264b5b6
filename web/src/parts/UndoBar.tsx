import { clockOf } from "../numbers";

interface Work {
  saving: boolean;
  refused: unknown;
  undo: () => unknown;
  redo: () => unknown;
}

/** Undo and redo, and whether all is saved: the same wherever something is drawn. */
export function UndoBar({
  work,
  canUndo,
  canRedo,
  savedAt,
}: {
  work: Work;
  canUndo: boolean;
  canRedo: boolean;
  savedAt: string;
}) {
  return (
    <>
      <button className="btn btn-sm px-2" title="Ctrl+Z" disabled={!canUndo} onClick={() => void work.undo()}>
        Undo
      </button>
      <button className="btn btn-sm px-2" disabled={!canRedo} onClick={() => void work.redo()}>
        Redo
      </button>
      <span className="quiet text-sm" role="status" data-saved={!work.saving && !work.refused}>
        {work.saving ? "Saving…" : work.refused ? "Not saved" : `Saved ${clockOf(savedAt)}`}
      </span>
    </>
  );
}
