import { describe, expect, it } from "vitest";
import type { Circuit, CircuitResult } from "../api/client";
import { layOut } from "./layout";
import { litLegs } from "./lit";

type Shape = CircuitResult["shape"];
const leg = (id: string, a: string, b: string) => ({ id, a, b, state: "new", segments: [] });
const circuit = (points: string[], legs: ReturnType<typeof leg>[]) =>
  ({ points: points.map((id) => ({ id })), legs }) as unknown as Circuit;
const step = (id: string, point: string) => ({ leg: id, point });
const shape = (part: Partial<Shape>) =>
  ({ ring_legs: [], ring_points: [], spurs: [], walk: [], detached: [], ...part }) as unknown as Shape;

/** A ring of so many points with a spur of one point off the second. */
function ring(count: number) {
  const ids = Array.from({ length: count }, (_, index) => `P${index + 1}`);
  const ends = ["board", ...ids, "board"];
  const legs = ends.slice(1).map((to, index) => leg(`L${index + 1}`, ends[index] ?? "", to));
  const around = legs.map((each) => step(each.id, each.b));
  return {
    design: circuit([...ids, "S1"], [...legs, leg("S", "P2", "S1")]),
    found: shape({
      ring_legs: legs.map((each) => each.id),
      ring_points: ids,
      spurs: [{ from_point: "P2", legs: ["S"], points: ["S1"] }],
      walk: [
        { start: "board", steps: around },
        { start: "P2", steps: [step("S", "S1")] },
      ],
    }),
  };
}

describe.each([2, 3, 7, 12, 40])("a ring of %i points", (count) => {
  const { design, found } = ring(count);
  const layout = layOut(design, found);

  it("draws every point and leg once, inside the picture", () => {
    expect([...layout.points.keys()].sort()).toEqual(design.points.map((point) => point.id).sort());
    expect(layout.legs.map((each) => each.id).sort()).toEqual(design.legs.map((each) => each.id).sort());
    for (const spot of layout.points.values()) {
      expect(spot.x).toBeGreaterThan(0);
      expect(spot.x).toBeLessThan(layout.width);
      expect(spot.y).toBeGreaterThan(0);
      expect(spot.y).toBeLessThan(layout.height);
    }
  });

  it("keeps points apart", () => {
    const spots = [...layout.points.values()];
    spots.forEach((a, index) =>
      spots.slice(index + 1).forEach((b) => expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(60)),
    );
  });

  it("is walked from the board over every leg and point, each once", () => {
    expect(layout.walk[0]).toEqual({ kind: "point", id: "board" });
    const names = layout.walk.map((each) => `${each.kind} ${each.id}`);
    expect(new Set(names).size).toBe(names.length);
    expect(names).toHaveLength(1 + design.points.length + design.legs.length);
  });

  it("lights the whole ring for a point on it, and its spur for one that hangs off", () => {
    expect(litLegs(design, found, "P1").size).toBe(count + 1);
    expect(litLegs(design, found, "S1").has("S")).toBe(true);
    expect(litLegs(design, found, "P1").has("S")).toBe(false);
  });
});

it("sets points that nothing feeds by themselves underneath", () => {
  const layout = layOut(
    circuit(["P1", "P9"], [leg("L1", "board", "P1")]),
    shape({ walk: [{ start: "board", steps: [step("L1", "P1")] }], detached: ["P9"] }),
  );
  expect(layout.points.get("P9")?.y ?? 0).toBeGreaterThan(layout.points.get("P1")?.y ?? 0);
});
