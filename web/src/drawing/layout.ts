import type { Circuit, CircuitResult } from "../api/client";

/** Where things stand on the drawing: geometry only. */
export interface Spot {
  x: number;
  y: number;
}
export interface LegLine {
  id: string;
  path: string;
  label: Spot;
}
export interface RunLayout {
  width: number;
  height: number;
  board: Spot;
  points: Map<string, Spot>;
  /** Points that a leg enters or leaves upright: their words stand beside them. */
  beside: Set<string>;
  /** Points of a row that a branch leaves upright, and which way: words on that side stand clear of it. */
  leaves: Map<string, "up" | "down">;
  legs: LegLine[];
  /** Points and legs in the order of a walk along the run, for the arrow keys. */
  walk: { kind: "point" | "leg"; id: string }[];
}

const STEP = 158;
const LANE = 150;
const SPUR = 150;
const MARGIN_X = 96;
const BOARD = "board";

/** Return the spot that part of the way from a to b. */
function along(a: Spot, b: Spot, part: number): Spot {
  return { x: a.x + (b.x - a.x) * part, y: a.y + (b.y - a.y) * part };
}

type Shape = CircuitResult["shape"];

export function layOut(circuit: Circuit, shape: Shape): RunLayout {
  const points = new Map<string, Spot>();
  const legs: LegLine[] = [];
  const beside = new Set<string>();
  const leaves: RunLayout["leaves"] = new Map();
  const ring = shape.ring_legs.length > 0;
  const board: Spot = { x: MARGIN_X - 20, y: 0 };
  let bottom = 0;
  let right = 0;

  if (ring) {
    // A closed run: out along the top, back along the bottom; spurs stand off it, away from the middle.
    const onRing = shape.ring_points;
    const top = Math.ceil(onRing.length / 2);
    const columns = Math.max(top, 2);
    const spurRoom = { top: 0, bottom: 0 };
    const side = new Map<string, "top" | "bottom">();
    onRing.forEach((id, index) => side.set(id, index < top ? "top" : "bottom"));
    side.set(BOARD, "bottom");
    for (const spur of shape.spurs) {
      const where = side.get(spur.from_point) ?? "bottom";
      spurRoom[where] = Math.max(spurRoom[where], spur.points.length);
    }
    const topY = 56 + spurRoom.top * SPUR;
    const bottomY = topY + 200;
    board.x = 70;
    board.y = (topY + bottomY) / 2;
    const left = 190;
    onRing.forEach((id, index) => {
      const upper = index < top;
      const place = upper ? index : onRing.length - 1 - index;
      const count = upper ? top : onRing.length - top;
      const span = (columns - 1) * STEP;
      const gap = count > 1 ? span / (count - 1) : 0;
      points.set(id, { x: left + (count > 1 ? place * gap : span / 2), y: upper ? topY : bottomY });
    });
    right = left + (columns - 1) * STEP;
    const corner = 30;
    shape.ring_legs.forEach((legId, index) => {
      const from = index === 0 ? undefined : onRing[index - 1];
      const to = onRing[index];
      const a = from === undefined ? board : (points.get(from) ?? board);
      const b = to === undefined ? board : (points.get(to) ?? board);
      if (from === undefined) {
        legs.push({
          id: legId,
          path: `M${board.x} ${board.y}V${topY + corner}Q${board.x} ${topY} ${board.x + corner} ${topY}H${b.x}`,
          label: { x: board.x + 42, y: topY },
        });
      } else if (to === undefined) {
        const upper = a.y === topY;
        const path = upper
          ? `M${a.x} ${a.y}H${right + 50 - corner}Q${right + 50} ${topY} ${right + 50} ${topY + corner}V${bottomY - corner}Q${right + 50} ${bottomY} ${right + 50 - corner} ${bottomY}H${board.x + corner}Q${board.x} ${bottomY} ${board.x} ${bottomY - corner}V${board.y}`
          : `M${a.x} ${a.y}H${board.x + corner}Q${board.x} ${bottomY} ${board.x} ${bottomY - corner}V${board.y}`;
        legs.push({ id: legId, path, label: { x: board.x + 42, y: bottomY } });
      } else if (a.y === b.y) {
        legs.push({ id: legId, path: `M${a.x} ${a.y}H${b.x}`, label: { x: (a.x + b.x) / 2, y: a.y } });
      } else {
        const out = right + 50;
        legs.push({
          id: legId,
          path: `M${a.x} ${a.y}H${out - corner}Q${out} ${a.y} ${out} ${a.y + corner}V${b.y - corner}Q${out} ${b.y} ${out - corner} ${b.y}H${b.x}`,
          label: { x: out, y: (a.y + b.y) / 2 },
        });
      }
    });
    bottom = bottomY + 84 + spurRoom.bottom * SPUR;
    right += 120;
    // Spurs: each further point one step outward, several off one point side by side.
    for (const chain of shape.walk.slice(1)) {
      const start = chain.start === BOARD ? board : points.get(chain.start);
      if (!start) continue;
      const away = start.y === topY ? -1 : 1;
      let from = start;
      for (const step of chain.steps) {
        const taken = [...points.values()];
        const next = { x: from.x + (chain.start === BOARD ? 60 : 0), y: from.y + away * SPUR };
        while (taken.some((other) => Math.abs(other.x - next.x) < 90 && Math.abs(other.y - next.y) < 60)) next.x += 100;
        const known = points.get(step.point);
        const to = known ?? next;
        legs.push({
          id: step.leg,
          path: `M${from.x} ${from.y}L${to.x} ${to.y}`,
          label: along(from, to, away < 0 ? 0.45 : 0.58),
        });
        if (from === start && chain.start !== BOARD) leaves.set(chain.start, away < 0 ? "up" : "down");
        points.set(step.point, to);
        beside.add(step.point);
        right = Math.max(right, to.x + 150);
        from = to;
      }
    }
  } else {
    // An open run: out to the right, a lane for each branch.
    board.y = 92;
    const laneEnds: number[] = [];
    for (const chain of shape.walk) {
      const start = chain.start === BOARD ? board : (points.get(chain.start) ?? board);
      const firstX = start.x + STEP;
      const fresh = chain.steps.filter((step) => step.point !== BOARD && !points.has(step.point)).length;
      const startLane = Math.round((start.y - board.y) / LANE);
      let lane = laneEnds.length === 0 ? 0 : startLane + (chain.start === BOARD || laneEnds.length > 0 ? 1 : 0);
      while ((laneEnds[lane] ?? 0) >= firstX - STEP / 2) lane += 1;
      if (fresh > 0) laneEnds[lane] = start.x + fresh * STEP;
      let from = start;
      chain.steps.forEach((step, index) => {
        const known = step.point === BOARD ? board : points.get(step.point);
        if (known) {
          const dip = Math.max(from.y, known.y) + 74;
          legs.push({
            id: step.leg,
            path: `M${from.x} ${from.y}C${from.x} ${dip} ${known.x} ${dip} ${known.x} ${known.y}`,
            label: { x: (from.x + known.x) / 2, y: dip - 18 },
          });
          bottom = Math.max(bottom, dip + 40);
          return;
        }
        const to = { x: start.x + (index + 1) * STEP + (start === board ? 24 : 0), y: board.y + lane * LANE };
        const path =
          index === 0 && to.y !== from.y
            ? `M${from.x} ${from.y}V${to.y - 24}Q${from.x} ${to.y} ${from.x + 24} ${to.y}H${to.x}`
            : `M${from.x} ${from.y}H${to.x}`;
        if (index === 0 && to.y > from.y && chain.start !== BOARD) leaves.set(chain.start, "down");
        // The board is wider than a point: the label keeps to the middle of what is seen of the leg.
        const seenFrom = from === board && to.y === from.y ? from.x + 26 : from.x;
        legs.push({ id: step.leg, path, label: { x: (seenFrom + to.x) / 2, y: to.y } });
        points.set(step.point, to);
        right = Math.max(right, to.x + 90);
        bottom = Math.max(bottom, to.y + 110);
        from = to;
      });
    }
    if (shape.walk.length === 0) {
      right = 500;
      bottom = 190;
    }
  }

  // Points that nothing joins to the board stand by themselves underneath.
  let x = MARGIN_X + 20;
  const strays = shape.detached.filter((id) => !points.has(id));
  for (const id of strays) {
    points.set(id, { x, y: bottom + 40 });
    x += STEP;
  }
  if (strays.length > 0) {
    for (const leg of circuit.legs) {
      const a = points.get(leg.a);
      const b = points.get(leg.b);
      if (a && b && !legs.some((drawn) => drawn.id === leg.id))
        legs.push({
          id: leg.id,
          path: `M${a.x} ${a.y}L${b.x} ${b.y}`,
          label: { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 },
        });
    }
    bottom += 140;
    right = Math.max(right, x);
  }

  const walk: RunLayout["walk"] = [{ kind: "point", id: BOARD }];
  for (const chain of shape.walk) {
    for (const step of chain.steps) {
      walk.push({ kind: "leg", id: step.leg });
      if (step.point !== BOARD && !walk.some((each) => each.id === step.point))
        walk.push({ kind: "point", id: step.point });
    }
  }
  for (const id of strays) walk.push({ kind: "point", id });
  return { width: Math.max(right, 520), height: Math.max(bottom, 190), board, points, beside, leaves, legs, walk };
}
