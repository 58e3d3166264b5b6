import { describe, expect, it } from "vitest";
import type { Board } from "../../api/client";
import { moveBy } from "./picking";

const board = (id: string, ...groups: [string, ...string[]][]) =>
  ({
    id,
    groups: groups.map(([group, ...ways]) => ({ id: group, ways: ways.map((way) => ({ id: way })) })),
  }) as unknown as Board;

const boards = [board("B1", ["G1", "W1", "W2"], ["G2", "W3"], ["G3"]), board("B2", ["G4", "W4"])];

describe("a way moved by one place", () => {
  it.each([
    ["W1", 1, "G1", 1],
    ["W2", -1, "G1", 0],
    ["W2", 1, "G2", 0],
    ["W3", -1, "G1", 2],
    ["W3", 1, "G3", 0],
  ] as const)("%s by %i goes to %s at %i", (way, step, group, index) => {
    expect(moveBy(boards, way, step)).toEqual({ op: "move-way", way, group, index });
  });

  it.each([
    ["W1", -1],
    ["W4", -1],
    ["W4", 1],
    ["W9", 1],
  ] as const)("%s by %i goes nowhere", (way, step) => {
    expect(moveBy(boards, way, step)).toBeUndefined();
  });
});
