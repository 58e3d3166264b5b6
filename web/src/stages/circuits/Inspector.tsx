import { useState } from "react";
import type { Leg } from "../../api/client";
import { useJob } from "../../data/useJob";
import { Bar, Key } from "./bar";
import { LegInspector } from "./LegInspector";
import { PointInspector } from "./PointInspector";
import { namer, type InspectorProps } from "./inspecting";
import { RemainsList } from "./RemainsList";
import { TypedRun } from "./TypedRun";
import { WhatIsAhead } from "./WhatIsAhead";
import { titleOf } from "../../drawing/titles";

/** What is picked on the drawing, to be named, described, and worked on. */
export function Inspector(props: InspectorProps) {
  const { circuit, picked, moving } = props;
  // What is being typed: a run on from the last point, or one that a leg is taken through.
  const [typing, setTyping] = useState<"run" | Leg>();
  if (typing) {
    const through = typing === "run" ? undefined : typing;
    return (
      <Bar>
        <TypedRun
          circuit={circuit}
          words={props.choices.run_words}
          kindName={namer(props.choices)}
          through={through}
          onLay={(text) => props.onLayRun(text, through?.id)}
          onClose={() => setTyping(undefined)}
        />
      </Bar>
    );
  }
  if (moving) {
    return (
      <Bar>
        <p className="text-lg font-semibold">Moving {titleOf(circuit, moving)}: pick the cable it goes into.</p>
        <button className="btn" onClick={() => props.onMove(undefined)}>
          Leave it <kbd>Esc</kbd>
        </button>
      </Bar>
    );
  }
  if (picked.kind === "leg") {
    const leg = circuit.legs.find((each) => each.id === picked.id);
    return leg ? <LegInspector key={leg.id} {...props} leg={leg} onExtend={() => setTyping(leg)} /> : null;
  }
  const point = circuit.points.find((each) => each.id === picked.id);
  if (point) return <PointInspector key={point.id} {...props} point={point} />;
  return <BoardInspector {...props} onType={() => setTyping("run")} />;
}

function BoardInspector({
  circuit,
  choices,
  onCommand,
  onEdit,
  onCloseRing,
  onType,
}: InspectorProps & { onType: () => void }) {
  const job = useJob();
  const kind = choices.kinds.find((each) => each.id === circuit.kind);
  const empty = circuit.points.length === 0;
  return (
    <Bar>
      <p className="grow text-lg">
        {empty
          ? "Start at the board: add the first point, give the cable its length, press Enter, go on."
          : "The board"}
      </p>
      <Key
        letter="A"
        words={empty ? "Lay the first point" : "Add a point"}
        onClick={() => onEdit({ op: "add", after: "board", length_m: null })}
        primary
      />
      <Key letter="S" words="Spur here" onClick={() => onEdit({ op: "spur", off: "board", length_m: null })} />
      {!empty && <Key letter="R" words="Close the ring" onClick={onCloseRing} />}
      <button className="btn btn-sm" onClick={onType}>
        Type the run
      </button>
      <p className="quiet w-full text-sm">
        {kind?.special} Load: {kind?.loads}
      </p>
      <RemainsList circuit={circuit} onCommand={onCommand} />
      <details className="w-full" open={circuit.ahead.length > 0}>
        <summary className="cursor-pointer text-sm font-semibold">
          Ahead of the circuit
          {circuit.ahead.length > 0 ? `: ${circuit.ahead.length}, from the origin on` : ": nothing but the supply"}
        </summary>
        <div className="pt-1.5">
          <WhatIsAhead circuit={circuit} choices={choices} jobId={job.id} />
        </div>
      </details>
    </Bar>
  );
}
