import { useState } from "react";
import type { Circuit, Diagnosis } from "../../api/client";
import { titleOf } from "../../drawing/titles";
import type { Entry } from "../../data/useSheet";
import { readKeyed } from "./entry";

interface Props {
  circuit: Circuit;
  found: Diagnosis;
  onEnter: (entry: Entry) => void;
}

/** What was seen, felt or read live: it narrows suspects as readings do, and is never asked for. */
export function NoticedBar({ circuit, found, onEnter }: Props) {
  const [what, setWhat] = useState("");
  const [where, setWhere] = useState("");
  const [volts, setVolts] = useState("");
  const chosen = found.noticeable.find((each) => each.id === what);
  const keyed = readKeyed(volts, "V");
  const value = chosen?.unit ? (keyed.kind === "reading" ? keyed.value : undefined) : 1;
  const ready = chosen !== undefined && value !== undefined && (!chosen.at_point || where !== "");

  function add() {
    if (!ready) return;
    onEnter({ quantity: "trace", test: chosen.at_point ? `${chosen.id}/${where}` : chosen.id, value });
    setWhat("");
    setVolts("");
  }

  return (
    <section className="mb-3 bg-base-200 px-3 py-2" aria-label="What was noticed">
      {found.noticed.length > 0 && (
        <ul className="flex flex-wrap gap-2 pb-2">
          {found.noticed.map((each) => (
            <li
              key={each.id}
              className="flex items-center gap-1 border-2 border-base-content/70 bg-base-100 pl-2 font-semibold"
              data-noticed={each.id}
            >
              {each.title}
              {each.point && `, ${titleOf(circuit, each.point)}`}
              {each.id.startsWith("volt/") && `: ${each.read}`}
              <button
                className="btn btn-ghost btn-sm"
                aria-label={`Take back: ${each.title}`}
                onClick={() => onEnter({ quantity: "trace", test: each.id, value: null })}
              >
                ✕
              </button>
            </li>
          ))}
        </ul>
      )}
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="flex flex-col text-sm font-semibold">
          Noticed
          <select name="Noticed" className="select w-56" value={what} onChange={(event) => setWhat(event.target.value)}>
            <option value="">what?</option>
            {found.noticeable.map((each) => (
              <option key={each.id} value={each.id}>
                {each.title}
              </option>
            ))}
          </select>
        </label>
        {chosen?.at_point && (
          <label className="flex flex-col text-sm font-semibold">
            at
            <select
              name="Noticed at"
              className="select w-44"
              value={where}
              onChange={(event) => setWhere(event.target.value)}
            >
              <option value="">where?</option>
              {circuit.points.map((point) => (
                <option key={point.id} value={point.id}>
                  {titleOf(circuit, point.id)}
                </option>
              ))}
            </select>
          </label>
        )}
        {chosen?.unit && (
          <label className="flex flex-col text-sm font-semibold">
            read
            <input
              name="Noticed volts"
              inputMode="decimal"
              className="input w-24"
              value={volts}
              placeholder="V"
              onChange={(event) => setVolts(event.target.value)}
            />
          </label>
        )}
        <button className="btn" disabled={!ready}>
          Add
        </button>
        {chosen?.unit && (
          <p className="w-full text-sm">
            Only what was read already, by a competent person. Nothing here sends you to live parts: isolate, prove
            dead, then measure.
          </p>
        )}
      </form>
    </section>
  );
}
