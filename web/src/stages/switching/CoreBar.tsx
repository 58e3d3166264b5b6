import type { Command, SwitchingView } from "../../api/client";
import type { PickedCore } from "./BenchDrawing";

interface Props {
  bench: SwitchingView;
  picked: PickedCore;
  own: boolean;
  alone: boolean;
  onAlone: () => void;
  onCommand: (...commands: Command[]) => void;
  onDone: () => void;
}

/** The core in hand: what it is, and what can be done with it besides putting it somewhere. */
export function CoreBar({ bench, picked, own, alone, onAlone, onCommand, onDone }: Props) {
  const face = bench.faces.find((each) => each.circuit === picked.circuit && each.place === picked.place);
  const every = [...(face?.terminals.flatMap((each) => each.cores) ?? []), ...(face?.off ?? [])];
  const core = every.find((each) => each.leg === picked.leg && each.core === picked.core);
  if (!face || !core) return null;
  const where = { point: picked.place, leg: picked.leg, core: picked.core };
  const mark = (words: string, value: "line" | "neutral" | "earth" | null) => (
    <button
      className={`btn btn-sm ${core.mark === value ? "btn-primary" : ""}`}
      onClick={() => onCommand({ op: "mark", ...where, mark: value })}
    >
      {words}
    </button>
  );
  return (
    <div
      className="flex flex-wrap items-center gap-2 border-t-2 border-accent bg-base-200 px-4 py-2"
      data-in-hand={`${picked.leg}/${picked.core}`}
    >
      <span className="grow text-lg font-bold">
        {core.colour}
        {core.sleeve && `, ${core.sleeve} sleeve`} <span className="quiet font-normal">of the cable to {core.to}</span>
      </span>
      {own && (
        <>
          <button
            className="btn btn-sm"
            onClick={() => {
              onCommand({ op: "connect", ...where });
              onDone();
            }}
          >
            Leave it off
          </button>
          <span className="text-sm font-semibold">Sleeve</span>
          <span className="join">
            {mark("none", null)}
            {mark("line", "line")}
            {mark("neutral", "neutral")}
            {mark("earth", "earth")}
          </span>
        </>
      )}
      {own && (
        <button
          className="btn btn-sm"
          onClick={() => {
            onCommand({ op: "cut", leg: picked.leg });
            onDone();
          }}
        >
          Take the cable out
        </button>
      )}
      <button className={`btn btn-sm ${alone ? "btn-primary" : ""}`} onClick={onAlone}>
        Its net alone <kbd>N</kbd>
      </button>
      <button className="btn btn-sm" onClick={onDone}>
        Let go <kbd>Esc</kbd>
      </button>
    </div>
  );
}
