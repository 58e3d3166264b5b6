import type { Choices, Circuit, CircuitView, Edit } from "../api/client";
import type { Picked } from "./RunDrawing";

/** What the bar under the drawing works with, whatever is picked. */
export interface InspectorProps {
  circuit: Circuit;
  choices: Choices;
  picked: Picked;
  moving: string | undefined;
  onChange: (make: (design: Circuit) => Circuit) => void;
  onEdit: (edit: Edit) => void;
  onMove: (point: string | undefined) => void;
  onCloseRing: () => void;
  onLayRun: (text: string, throughLeg?: string) => Promise<CircuitView | undefined>;
}
