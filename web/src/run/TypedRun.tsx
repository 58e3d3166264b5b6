import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api, ask, type CircuitView } from "../api/client";
import { plain } from "../numbers";
import { kindWords } from "./symbols";

/** A run typed, pasted or read from CSV, understood while it is typed. */
export function TypedRun({ onLay, onClose }: { onLay: (text: string) => Promise<CircuitView | undefined>; onClose: () => void }) {
  const [text, setText] = useState("");
  const file = useRef<HTMLInputElement>(null);
  const read = useQuery({
    queryKey: ["run", text],
    queryFn: () => ask(api.POST("/api/runs", { body: { text } })),
    enabled: text.trim() !== "",
    placeholderData: (before) => before,
  });
  const typed = text.trim() === "" ? undefined : read.data;
  return (
    <div className="flex w-full flex-col gap-2" data-typed-run>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">Type the run, or paste it from a sheet</span>
        <textarea
          name="typed run"
          autoFocus
          rows={3}
          className="textarea w-full text-base"
          placeholder="9m Kitchen: by the door twin, 4.5m fridge single, spur 3.5m reading seat, ? window, back 11m"
          value={text}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Escape") onClose();
            event.stopPropagation();
          }}
        />
      </label>
      {typed && (
        <p className="text-sm">
          {typed.entries.map((entry, index) => (
            <span key={index} className="mr-2 inline-block border border-base-300 bg-base-100 px-1.5">
              {entry.spur && "spur "}
              <b>{typeof entry.length_m === "number" ? `${plain(entry.length_m)} m` : "? m"}</b>{" "}
              {entry.back ? "back to the board" : [entry.room, entry.name].filter(Boolean).join(": ")}
              {entry.kind && ` (${kindWords(entry.kind).toLowerCase()})`}
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
          Lay {typed?.entries.length ?? 0} legs
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
