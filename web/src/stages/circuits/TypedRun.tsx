import { useRef, useState } from "react";
import type { Circuit, CircuitView, Leg, Point } from "../../api/client";
import { useTypedRun } from "../../data/useCircuits";
import { plain } from "../../numbers";
import { titleOf } from "../../drawing/titles";

interface Props {
  circuit: Circuit;
  /** Words that the text of a run knows. */
  words: readonly string[];
  /** What a kind of point is called. */
  kindName: (kind: Point["kind"]) => string;
  /** The leg that is broken and taken through what is typed. */
  through: Leg | undefined;
  onLay: (text: string) => Promise<CircuitView | undefined>;
  onClose: () => void;
}

/** What the word being typed may go on to: rooms of this circuit first, then the words that name points. */
function completions(text: string, circuit: Circuit, words: readonly string[]): string[] {
  const word = /[^\s,;:]*$/.exec(text)?.[0].toLowerCase() ?? "";
  const rooms = [...new Set(circuit.points.map((point) => point.room).filter(Boolean))].map((room) => `${room}:`);
  const fitting = [...rooms, ...words].filter((each) => each.toLowerCase().startsWith(word) && each !== word);
  return /\d$/.test(word) ? [] : fitting.slice(0, 12);
}

/** A run typed, pasted or read from CSV, understood while it is typed. */
export function TypedRun({ circuit, words, kindName, through, onLay, onClose }: Props) {
  const [text, setText] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const box = useRef<HTMLTextAreaElement>(null);
  const offered = completions(text, circuit, words);
  function complete(word: string) {
    setText(`${text.replace(/[^\s,;:]*$/, "")}${word} `);
    box.current?.focus();
  }
  const read = useTypedRun(text);
  const typed = text.trim() === "" ? undefined : read.data;
  return (
    <div className="flex w-full flex-col gap-2" data-typed-run>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">
          {through
            ? `New cable from ${titleOf(circuit, through.a)} through new points and back to ${titleOf(circuit, through.b)}`
            : "Type the run, or paste it from a sheet"}
        </span>
        <textarea
          name="typed run"
          ref={box}
          autoFocus
          rows={3}
          className="textarea w-full text-base"
          placeholder={
            through
              ? "4m shelf twin, 3m desk single, back 6m"
              : "9m Kitchen: by the door twin, 4.5m fridge single, spur 3.5m reading seat, ? window, back 11m"
          }
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Escape") onClose();
            const first = offered[0];
            // Tab takes the first word offered, while one is being typed; else it leaves the box as ever.
            if (event.key === "Tab" && !event.shiftKey && first && /[^\s,;:]$/.test(text)) {
              event.preventDefault();
              complete(first);
            }
            event.stopPropagation();
          }}
        />
      </label>
      <p className="flex flex-wrap gap-1" aria-label="Words to go on with">
        {offered.map((word) => (
          <button key={word} type="button" data-offered className="btn btn-xs" onClick={() => complete(word)}>
            {word}
          </button>
        ))}
        <span className="quiet text-sm">
          A length and the point there, a comma between; ? for a length not known. Tab takes the first.
        </span>
      </p>
      {typed && (
        <p className="text-sm">
          {typed.entries.map((entry, index) => (
            <span key={index} className="mr-2 inline-block border border-base-300 bg-base-100 px-1.5">
              {entry.spur && "spur "}
              <b>{typeof entry.length_m === "number" ? `${plain(entry.length_m)} m` : "? m"}</b>{" "}
              {entry.back
                ? `back to ${through ? titleOf(circuit, through.b) : "the board"}`
                : [entry.room, entry.name].filter(Boolean).join(": ")}
              {entry.kind && ` (${kindName(entry.kind).toLowerCase()})`}
            </span>
          ))}
        </p>
      )}
      {typed?.problems.map((problem) => (
        <p key={problem.field} role="alert" className="text-sm font-semibold text-error">
          {problem.field} {problem.reason}
        </p>
      ))}
      <div className="flex flex-wrap gap-2">
        <button
          className="btn btn-primary btn-sm"
          disabled={!typed || typed.entries.length === 0 || typed.problems.length > 0}
          onClick={() =>
            void onLay(text).then((kept) => {
              if (kept) onClose();
            })
          }
        >
          Add {typed?.entries.length ?? 0} cables
        </button>
        <button className="btn btn-sm" onClick={() => file.current?.click()}>
          From a CSV file
        </button>
        <button className="btn btn-sm" onClick={onClose}>
          Not now
        </button>
        <input
          ref={file}
          type="file"
          accept=".csv,text/csv,text/plain"
          className="hidden"
          aria-label="CSV file with a run"
          onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
        />
      </div>
    </div>
  );
}
