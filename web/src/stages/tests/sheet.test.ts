import { expect, test } from "vitest";
import type { Item, Sheet } from "../../api/client";
import { isEmpty, isShut, keyOf, stateOfReadings, type SheetProps } from "./sheet";

const PLACE = { quantity: "r1+r2", point: "P1" } as Item;

test("a place is empty until something is read there, said of it, or waits on this device", () => {
  const nothing: SheetProps["waiting"] = new Map();
  const waits = new Map([[keyOf(PLACE), {}]]) as SheetProps["waiting"];
  expect(isEmpty(PLACE, nothing)).toBe(true);
  expect(isEmpty(PLACE, waits)).toBe(false);
  expect(isEmpty({ ...PLACE, reading: { value: 0.4 } } as unknown as Item, nothing)).toBe(false);
  expect(isEmpty({ ...PLACE, aside: "no access" } as unknown as Item, nothing)).toBe(false);
});

test("live tests are shut while dead ones are wanting, unless a reason is on record", () => {
  const sheet = (waits_for: string[], reason: string) => ({ waits_for, reason }) as unknown as Sheet;
  expect(isShut(sheet(["r1+r2"], ""))).toBe(true);
  expect(isShut(sheet(["r1+r2"], "supply cannot be off"))).toBe(false);
  expect(isShut(sheet([], ""))).toBe(false);
});

test("readings stand by their verdict; a caution makes a pass one to mind, and none is no verdict", () => {
  expect(stateOfReadings(0, "pass", 0)).toBe("not-applicable");
  expect(stateOfReadings(3, "pass", 0)).toBe("pass");
  expect(stateOfReadings(3, "pass", 1)).toBe("mind");
  expect(stateOfReadings(3, "fail", 1)).toBe("fail");
  expect(stateOfReadings(1, "cannot-tell", 2)).toBe("cannot-tell");
});
