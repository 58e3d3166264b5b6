import type { Board, BoardCommand } from "../../api/client";

export type Picked = { kind: "board" | "group" | "way"; id: string };
export type Showing = "feeds" | "demand" | "leakage" | "lines" | "heat";

export const SHOWINGS = [
  ["feeds", "Feeds"],
  ["demand", "Demand"],
  ["leakage", "Leakage"],
  ["lines", "Lines"],
  ["heat", "Heat"],
] as const;

/** The command that puts a way one place on, into the next group where its own ends; nothing at the end of a board. */
export function moveBy(boards: readonly Board[], wayId: string, step: -1 | 1): BoardCommand | undefined {
  for (const board of boards) {
    for (const [index, group] of board.groups.entries()) {
      const at = group.ways.findIndex((way) => way.id === wayId);
      if (at < 0) continue;
      const to = at + step;
      if (to >= 0 && to < group.ways.length) return { op: "move-way", way: wayId, group: group.id, index: to };
      const next = board.groups[index + step];
      if (!next) return undefined;
      return { op: "move-way", way: wayId, group: next.id, index: step > 0 ? 0 : next.ways.length };
    }
  }
  return undefined;
}
