import type { Choices, Circuit, CircuitView, Command, Point } from "../../api/client";
import type { ToDo } from "../../data/useWriting";
import type { Picked } from "../../drawing/RunDrawing";

/** What the bar under the drawing works with, whatever is picked. */
export interface InspectorProps {
  circuit: Circuit;
  choices: Choices;
  /** Where photos of its points belong. */
  jobId: string;
  circuitId: string;
  picked: Picked;
  moving: string | undefined;
  onCommand: (...commands: ToDo<CircuitView, Command>[]) => void;
  /** The same for what changes the run itself: the eye goes on to what it made. */
  onEdit: (command: Command) => void;
  onMove: (point: string | undefined) => void;
  onCloseRing: () => void;
  onLayRun: (text: string, throughLeg?: string) => Promise<CircuitView | undefined>;
}

/** The command of one name. */
export type Of<Op extends Command["op"]> = Extract<Command, { op: Op }>;
/** What a command sets, without what it is about. */
export type Sets<Op extends Command["op"], About extends string = never> = Omit<Of<Op>, "op" | About>;

/** Return what a kind of point is called. */
export function namer(choices: Choices): (kind: Point["kind"]) => string {
  return (kind) => choices.point_kinds.find((each) => each.id === kind)?.name ?? kind;
}
