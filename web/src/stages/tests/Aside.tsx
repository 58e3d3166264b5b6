import { useState } from "react";
import type { ReadingTaken } from "../../api/client";
import { Pick } from "../../parts/Pick";

type Untaken = NonNullable<ReadingTaken["untaken"]>;
const KINDS = [
  ["deferred", "Later"],
  ["limitation", "Limitation"],
  ["not-applicable", "Not applicable"],
] as const;

/** Why a reading was not taken, in words. */
export function sayAside(reading: { untaken?: Untaken | null; note?: string }): string {
  const kind = KINDS.find(([id]) => id === reading.untaken)?.[1] ?? "";
  return reading.note ? `${kind}: ${reading.note}` : kind;
}

/** Set a reading aside, with the reason that goes on the schedule. */
export function AsideForm({
  start,
  onSet,
  onClose,
}: {
  start: Untaken;
  onSet: (untaken: Untaken, note: string) => void;
  onClose: () => void;
}) {
  const [kind, setKind] = useState<Untaken>(start);
  const [note, setNote] = useState("");
  const needs = kind !== "not-applicable";
  return (
    <form
      className="flex flex-wrap items-end gap-2 border-l-4 border-warning bg-base-200 px-3 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!needs || note.trim()) onSet(kind, note.trim());
      }}
    >
      <Pick name="Why not now" small value={kind} options={KINDS} onCommit={setKind} />
      <label className="flex min-w-52 grow flex-col gap-0.5">
        <span className="text-sm font-semibold">Reason{needs ? "" : ", if any"}</span>
        {}
        <input
          autoFocus
          name="Reason"
          className="input w-full"
          maxLength={200}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <button className="btn btn-primary" disabled={needs && note.trim() === ""}>
        Set aside
      </button>
      <button type="button" className="btn btn-ghost" onClick={onClose}>
        Cancel
      </button>
    </form>
  );
}
