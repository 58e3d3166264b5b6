import { describe, expect, it } from "vitest";
import type { Outline, RoomPlan } from "../../api/client";
import { frameOf, onWall, points, stepsOf, tape } from "./geometry";

const outline = {
  walls: [
    { id: "w1", heading: 0, length_mm: 3000 },
    { id: "w2", heading: 90, length_mm: 4000 },
    { id: "w3", heading: 180, length_mm: 3000 },
    { id: "w4", heading: 270, length_mm: 4000 },
  ],
} as unknown as Outline;
const room = {
  corners: [
    { x: 0, y: 0 },
    { x: 0, y: 3000 },
    { x: 4000, y: 3000 },
    { x: 4000, y: 0 },
  ],
} as unknown as RoomPlan;

describe("a room as it is drawn", () => {
  it("puts a spot on its wall and steps into the room from there", () => {
    const north = onWall(outline, room, "w2", 500, 100);
    expect([Math.round(north.x), Math.round(north.y)]).toEqual([500, 2900]);
    const south = onWall(outline, room, "w4", 500, 100);
    expect([Math.round(south.x), Math.round(south.y)]).toEqual([3500, 100]);
    expect(onWall(outline, room, "gone", 1)).toEqual({ x: 0, y: 0 });
  });
  it("turns north up and leaves room for words", () => {
    expect(points([{ x: 0, y: 3000 }])).toBe("0,-3000");
    const frame = frameOf(room.corners);
    expect(frame.x).toBeLessThan(0);
    expect(frame.y).toBeLessThan(-3000);
    expect(frame.wide).toBeGreaterThan(4000);
  });
  it("steps inward to the right of how a wall runs", () => {
    const { inward } = stepsOf(90);
    expect(Math.round(inward.y)).toBe(-1);
  });
  it("says a measure as a tape does", () => {
    expect([tape(4200), tape(4205), tape(838)]).toEqual(["4.20", "4.205", "838"]);
  });
});
