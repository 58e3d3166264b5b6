import type { Circuit, CircuitResult } from "../api/client";

/** The legs that carry a point's current back to the board: both ways round where it is on a ring. */
export function litLegs(circuit: Circuit, shape: CircuitResult["shape"], point: string): Set<string> {
  const lit = new Set<string>();
  const came = new Map<string, { leg: string; from: string }>();
  const queue = ["board"];
  const seen = new Set(queue);
  for (const here of queue) {
    for (const leg of circuit.legs) {
      const there = leg.a === here ? leg.b : leg.b === here ? leg.a : undefined;
      if (there === undefined || seen.has(there)) continue;
      seen.add(there);
      came.set(there, { leg: leg.id, from: here });
      queue.push(there);
    }
  }
  for (let at = came.get(point); at; at = came.get(at.from)) lit.add(at.leg);
  if (shape.ring_legs.some((leg) => lit.has(leg))) shape.ring_legs.forEach((leg) => lit.add(leg));
  return lit;
}
