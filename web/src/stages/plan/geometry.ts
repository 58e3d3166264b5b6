import type { Outline, RoomPlan } from "../../api/client";

export interface Spot {
  x: number;
  y: number;
}

/** The box round some spots, with how wide and how deep it is. */
export function boxOf(spots: readonly Spot[]) {
  const [xs, ys] = [spots.map((each) => each.x), spots.map((each) => each.y)];
  const [left, right, low, high] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  return { left, right, low, high, wide: right - left, deep: high - low };
}

/** The middle of some corners. */
export function middleOf(spots: readonly Spot[]): Spot {
  const sum = spots.reduce((all, each) => ({ x: all.x + each.x, y: all.y + each.y }), { x: 0, y: 0 });
  return { x: sum.x / spots.length, y: sum.y / spots.length };
}

/** What a drawing of a room shows, in mm: north up, so y is turned over; room for what is written outside the walls. */
export function frameOf(
  corners: readonly Spot[],
  more: readonly Spot[] = [],
): { x: number; y: number; wide: number; deep: number; unit: number } {
  const { left, right, low, high } = boxOf(corners);
  // Letters are as large in a small room as in a large one.
  const unit = Math.max(right - left, (high - low) * 1.4) / 40;
  const margin = unit * 4;
  // What reaches out of the room, a door that opens outwards, is no reason to draw all of it smaller than it needs.
  const edge = unit / 2;
  const west = Math.min(left - margin, ...more.map((each) => each.x - edge));
  const east = Math.max(right + margin, ...more.map((each) => each.x + edge));
  const south = Math.min(low - margin, ...more.map((each) => each.y - edge));
  const north = Math.max(high + margin, ...more.map((each) => each.y + edge));
  return { x: west, y: -north, wide: east - west, deep: north - south, unit };
}

/** The unit steps of a wall: along it from left to right, and from it into the room. */
export function stepsOf(heading: number): { along: Spot; inward: Spot } {
  const angle = (heading * Math.PI) / 180;
  const along = { x: Math.sin(angle), y: Math.cos(angle) };
  return { along, inward: { x: along.y, y: -along.x } };
}

/** A spot on a wall, so far from its left end and so far into the room. */
export function onWall(outline: Outline, room: RoomPlan, wallId: string, mm: number, out = 0): Spot {
  const at = outline.walls.findIndex((wall) => wall.id === wallId);
  const wall = outline.walls[at];
  const corner = room.corners[at];
  if (!wall || !corner) return { x: 0, y: 0 };
  const { along, inward } = stepsOf(wall.heading);
  return { x: corner.x + along.x * mm + inward.x * out, y: corner.y + along.y * mm + inward.y * out };
}

/** Spots as the points of a drawing, y turned over. */
export function points(spots: readonly Spot[]): string {
  return spots.map((each) => `${String(Math.round(each.x))},${String(Math.round(-each.y))}`).join(" ");
}

/** A measure as it is read off a tape: 4.20, or in mm below a metre. */
export function tape(mm: number): string {
  return mm >= 1000 ? (mm / 1000).toFixed(mm % 10 === 0 ? 2 : 3) : String(mm);
}
