import { describe, expect, it } from "vitest";
import type { PlanView } from "../../api/client";
import { settled } from "../../data/useWriting";
import { changingBetween, changingMark, changingWays } from "./changing";

const face = (room: string, wall = "n") => ({ room, wall });
const places = {
  marks: [
    { id: "m1", name: "Socket", box: { gangs: 1, depth_mm: 35 } },
    { id: "m2", name: "Switch", box: { gangs: 1, depth_mm: 25 } },
  ],
  ways: { slack_mm: 200, closed: ["loft"], weights: { bend: 40, outside: 900 } },
  between: [
    { one: face("a"), other: face("b"), thickness_mm: 100, offset_mm: 0 },
    { one: face("a", "e"), other: face("b"), thickness_mm: 90, offset_mm: 5 },
  ],
};
const now = { places } as unknown as PlanView;

describe("what is put down as a whole follows from what stands", () => {
  it("a mark keeps what was said of it meanwhile, and one that is gone is not put back", () => {
    const deeper = changingMark("m1", ({ box }) => ({ box: { ...box, depth_mm: 47 } }));
    const meanwhile = { places: { ...places, marks: [{ ...places.marks[0], box: { gangs: 2, depth_mm: 35 } }] } };
    expect(settled([deeper], meanwhile as unknown as PlanView)).toEqual([
      { op: "mark", mark: { id: "m1", name: "Socket", box: { gangs: 2, depth_mm: 47 } } },
    ]);
    expect(settled([changingMark("m9", () => ({ name: "x" }))], now)).toEqual([]);
  });
  it("so do the rules of ways", () => {
    const dearer = changingWays(({ weights }) => ({ weights: { ...weights, bend: 60 } }));
    expect(settled([dearer, { op: "drop-mark", mark: "m2" }], now)).toEqual([
      { op: "ways", ways: { ...places.ways, weights: { bend: 60, outside: 900 } } },
      { op: "drop-mark", mark: "m2" },
    ]);
  });
  it("and what is between two rooms, by both its faces", () => {
    const [, eastern] = now.places.between;
    if (!eastern) throw new Error("there are two");
    const [first, ...more] = changingBetween(eastern, { thickness_mm: 215 })(now);
    expect(first).toEqual({ op: "between", between: { ...eastern, thickness_mm: 215 } });
    expect(more).toEqual([]);
  });
});
