import { expect, test } from "vitest";
import type { Mark } from "../../api/client";
import { kindWords, ruleWords, shapeOf, titleOf, wantWords } from "./marks";

function mark(id: string, kind: Mark["kind"], name = ""): Mark {
  return { id, kind, name } as Mark;
}

test("a mark is called by its name, else by which of its kind it is in the room", () => {
  const room = [mark("a", "socket"), mark("b", "switch"), mark("c", "socket"), mark("d", "socket", "kettle")];
  expect(room.map((each) => titleOf(each, room))).toEqual(["socket 1", "switch 1", "socket 2", "kettle"]);
});

test("what is wanted is said in the number there is of it, of an unknown kind by its id", () => {
  expect(wantWords("socket", 1)).toBe("1 more socket");
  expect(wantWords("fused-spur", 3)).toBe("3 more fused spurs");
  expect(wantWords("bell", 2)).toBe("2 more bells");
});

test("no two kinds look and are lettered alike", () => {
  const kinds: Mark["kind"][] = [
    "socket",
    "data",
    "outlet",
    "fused-spur",
    "shaver-socket",
    "switch",
    "cord-switch",
    "light",
    "wall-light",
    "downlight",
    "isolator",
    "cooker-switch",
    "thermostat",
    "fan",
    "joint",
    "smoke-alarm",
    "heat-alarm",
    "co-alarm",
    "board",
  ];
  const looks = kinds.map((kind) => Object.values(shapeOf(kind)).join());
  expect(new Set(looks).size).toBe(kinds.length);
  expect(new Set(kinds.map(kindWords)).size).toBe(kinds.length);
});

test("every rule is said with its figures, and a wall by what it is called", () => {
  const walls = { w1: "A", w2: "B" };
  const said = (rule: unknown) => ruleWords(rule as Mark["rule"], walls);
  expect(said({ rule: "from-corner", mm: 450, side: "left", wall: "w1" })).toBe("450 mm from the left end of wall A");
  expect(said({ rule: "from-corner", mm: 450, side: "left", wall: "w7" })).toBe("450 mm from the left end of wall w7");
  expect(said({ rule: "between", one: "the sink", other: "the hob" })).toContain("between the sink and the hob");
  expect(said({ rule: "middle", of: "w2", part: null })).toBe("on the middle of B");
  expect(said({ rule: "middle", of: "w2", part: 2 })).toBe("on the middle of unit 2 of B");
  expect(said({ rule: "beside-door", door: "the door", mm: 200 })).toContain("on its opening side, 200 mm");
  expect(said({ rule: "edge", mm: 100, outside: true, side: "right", of: "the worktop" })).toContain("100 mm outside");
  expect(said({ rule: "edge", mm: 100, outside: false, side: "right", of: "the worktop" })).toContain("100 mm inside");
  expect(said({ rule: "spread", at: 2, count: 4, over: "w1" })).toBe("2 of 4 spread evenly over A");
  expect(said({ rule: "straight", mark: "S1", mm: 0, side: "left" })).toBe("straight above or below S1");
  expect(said({ rule: "straight", mark: "S1", mm: 80, side: "left" })).toContain(", 80 mm to the left");
  expect(said({ rule: "behind", mark: "S1", mm: 0, side: "left" })).toBe("back to back with S1");
  expect(said({ rule: "ceiling", mm: 900, wall: "w1", other_mm: 1200, other: "w2" })).toContain("900 mm from wall A");
  expect(said({ rule: "grid", column: 1, columns: 3, row: 2, rows: 2 })).toContain("column 1 of 3, row 2 of 2");
  expect(said({ rule: "over-edge", at: 1, count: 3, thing: "the island", out_mm: 0 })).not.toContain("in front");
  expect(said({ rule: "over-edge", at: 1, count: 3, thing: "the island", out_mm: 50 })).toContain("50 mm in front");
  expect(said({ rule: "kept", why: "the wall is gone" })).toBe("left where it was: the wall is gone");
  expect(said({ rule: "beside", side: "left", thing: "the hob", cabinet_mm: 600 })).toContain("cabinet of 600 mm");
});
