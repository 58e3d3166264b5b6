import type { Circuit } from "../api/client";

/** How a person would name a point of the circuit, the board included. */
export function titleOf(circuit: Circuit, id: string): string {
  if (id === "board") return "the board";
  const point = circuit.points.find((each) => each.id === id);
  return point ? point.name || point.id : id;
}
