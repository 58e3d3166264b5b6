import { expect, test } from "vitest";
import type { Circuit, CircuitResult } from "../api/client";
import { litLegs } from "./lit";

type Leg = Circuit["legs"][number];

function drawn(...legs: [string, string, string][]): Circuit {
  return { legs: legs.map(([id, a, b]) => ({ id, a, b }) as Leg) } as Circuit;
}

function shape(...ringLegs: string[]): CircuitResult["shape"] {
  return { ring_legs: ringLegs } as unknown as CircuitResult["shape"];
}

test("a point of a radial lights the way back to the board and nothing beyond it", () => {
  const radial = drawn(["L1", "board", "P1"], ["L2", "P1", "P2"], ["L3", "P2", "P3"], ["L4", "P1", "P4"]);
  expect([...litLegs(radial, shape(), "P2")].sort()).toEqual(["L1", "L2"]);
  expect([...litLegs(radial, shape(), "P4")].sort()).toEqual(["L1", "L4"]);
});

test("a point of a ring lights it both ways round, a spur its own leg too", () => {
  const ring = drawn(["L1", "board", "P1"], ["L2", "P1", "P2"], ["L3", "P2", "board"], ["L4", "P2", "P3"]);
  const both = ["L1", "L2", "L3"];
  expect([...litLegs(ring, shape(...both), "P1")].sort()).toEqual(both);
  expect([...litLegs(ring, shape(...both), "P3")].sort()).toEqual([...both, "L4"]);
});

test("legs are walked whichever way they are drawn, and what leads nowhere lights nothing", () => {
  const backwards = drawn(["L1", "P1", "board"], ["L2", "P2", "P1"]);
  expect([...litLegs(backwards, shape(), "P2")].sort()).toEqual(["L1", "L2"]);
  expect(litLegs(backwards, shape(), "P9").size).toBe(0);
  // A ring that the point is not on stays dark.
  expect([...litLegs(backwards, shape("L9"), "P2")].sort()).toEqual(["L1", "L2"]);
});
