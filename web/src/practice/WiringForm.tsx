import { useState } from "react";
import type { ExerciseAct, WireBox, Wired } from "../api/client";
import { actOf, BARE, endKey, placed, targetsOf, type Wiring } from "./wiring";

const MARKS = [
  ["", "no sleeve"],
  ["line", "line"],
  ["neutral", "neutral"],
  ["earth", "earth"],
] as const;

interface Props {
  boxes: readonly WireBox[];
  busy: boolean;
  onAct: (act: ExerciseAct) => void;
}

/** Boxes to be wired, end by end; what was wired stays while it is proved and mended. */
export function WiringForm({ boxes, busy, onAct }: Props) {
  const [wiring, setWiring] = useState<Wiring>(BARE);
  const done = placed(boxes, wiring);
  const all = boxes.reduce((sum, box) => sum + box.ends.length, 0);
  return (
    <form
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        onAct(actOf(boxes, wiring));
      }}
    >
      {boxes.map((box) => (
        <fieldset key={box.place} className="border-2 border-base-300 p-3" data-box={box.place}>
          <legend className="px-1 font-bold">
            {box.place}: {box.title}
          </legend>
          <ul className="grid gap-1">
            {box.ends.map((end) => {
              const key = endKey(box.place, end.leg, end.core);
              return (
                <li key={key} className="grid grid-cols-[1fr_auto_auto] items-center gap-2 max-sm:grid-cols-2">
                  <span className="max-sm:col-span-2">
                    <b>{end.colour}</b>{" "}
                    <span className="quiet text-sm">
                      of {end.leg}, {end.to ? `to ${end.to}` : "nobody knows where to"}
                    </span>
                  </span>
                  <select
                    className="select min-h-11 w-40 max-sm:w-full"
                    name={key}
                    aria-label={`${end.colour} of ${end.leg} at ${box.title}`}
                    value={wiring.into[key] ?? ""}
                    onChange={(event) => setWiring({ ...wiring, into: { ...wiring.into, [key]: event.target.value } })}
                  >
                    <option value="">left off</option>
                    {targetsOf(box).map(([id, words]) => (
                      <option key={id} value={id}>
                        {words}
                      </option>
                    ))}
                  </select>
                  <select
                    className="select min-h-11 w-32 max-sm:w-full"
                    name={`sleeve ${key}`}
                    aria-label={`Sleeve on ${end.colour} of ${end.leg} at ${box.title}`}
                    value={wiring.marked[key] ?? ""}
                    onChange={(event) => {
                      const mark = (event.target.value || null) as Wired["marked"];
                      setWiring({ ...wiring, marked: { ...wiring.marked, [key]: mark } });
                    }}
                  >
                    {MARKS.map(([id, words]) => (
                      <option key={id} value={id}>
                        {words}
                      </option>
                    ))}
                  </select>
                </li>
              );
            })}
          </ul>
          <Links box={box} wiring={wiring} onWiring={setWiring} />
        </fieldset>
      ))}
      <button className="btn btn-primary min-h-11 justify-self-start" disabled={busy || done === 0}>
        Prove it ({done} of {all} ends)
      </button>
    </form>
  );
}

interface LinksProps {
  box: WireBox;
  wiring: Wiring;
  onWiring: (wiring: Wiring) => void;
}

/** Short wires from terminal to terminal: a line looped from gang to gang. */
function Links({ box, wiring, onWiring }: LinksProps) {
  const [a, setA] = useState("");
  const [b, setB] = useState("");
  const own = wiring.links.filter((each) => each.place === box.place);
  if (box.terminals.length < 4 && own.length === 0) return null;
  const pick = (label: string, value: string, set: (value: string) => void) => (
    <select
      className="select min-h-11 w-28"
      aria-label={`${label} at ${box.title}`}
      name={`${label} ${box.place}`}
      value={value}
      onChange={(event) => set(event.target.value)}
    >
      <option value="">–</option>
      {box.terminals.map((name) => (
        <option key={name} value={name}>
          {name}
        </option>
      ))}
    </select>
  );
  return (
    <div className="flex flex-wrap items-center gap-2 pt-2">
      <span className="text-sm font-semibold">A wire from</span>
      {pick("Wire from", a, setA)}
      <span className="text-sm font-semibold">to</span>
      {pick("Wire to", b, setB)}
      <button
        type="button"
        className="btn min-h-11"
        disabled={a === "" || b === "" || a === b}
        onClick={() => {
          onWiring({ ...wiring, links: [...wiring.links, { place: box.place, a, b }] });
          setA("");
          setB("");
        }}
      >
        Put it in
      </button>
      {own.map((each) => (
        <button
          key={`${each.a} ${each.b}`}
          type="button"
          className="btn btn-ghost min-h-11"
          aria-label={`Take out the wire from ${each.a} to ${each.b}`}
          onClick={() => onWiring({ ...wiring, links: wiring.links.filter((one) => one !== each) })}
        >
          {each.a} – {each.b} ✕
        </button>
      ))}
    </div>
  );
}
