import { expect, test } from "vitest";
import type { PlanView } from "../../api/client";
import { seatedOn, wallWords } from "./seated";

const CORNERS = [
  { x: 0, y: 0 },
  { x: 4000, y: 0 },
  { x: 4000, y: 3000 },
];
const VIEW = {
  places: {
    rooms: [
      { id: "hall", name: "Hall", storey: "ground", outline: {} },
      { id: "attic", name: "Attic", storey: "roof", outline: {} },
      { id: "cellar", name: "Cellar", storey: null, outline: {} },
      { id: "shed", name: "Shed", storey: "ground", outline: null },
    ],
  },
  answer: {
    seats: ["hall", "attic", "cellar"].map((room, at) => ({ room, group: at, x: 1000 * at + 500, y: -200 })),
    rooms: ["hall", "attic", "cellar"].map((room) => ({ room, corners: CORNERS, walls: { w1: "A" } })),
  },
} as unknown as PlanView;

test("the measured rooms of a storey lie where their seats have them", () => {
  const [hall, ...others] = seatedOn(VIEW, "ground");
  expect(others).toEqual([]);
  expect(hall?.corners[1]).toEqual({ x: 4500, y: -200 });
  expect(hall?.at({ x: 10, y: 20 })).toEqual({ x: 510, y: -180 });
});

test("rooms of no storey are by themselves, and what is not measured lies nowhere", () => {
  expect(seatedOn(VIEW, null).map((each) => each.room.id)).toEqual(["cellar"]);
  expect(seatedOn(VIEW, "roof").map((each) => each.group)).toEqual([1]);
});

test("a wall is said by its room and what it is called there, else by its id", () => {
  expect(wallWords(VIEW, { room: "hall", wall: "w1" })).toBe("Hall, wall A");
  expect(wallWords(VIEW, { room: "hall", wall: "w9" })).toBe("Hall, wall w9");
  expect(wallWords(VIEW, { room: "loft", wall: "w1" })).toBe("loft, wall w1");
});
