import { beforeEach, expect, test, vi } from "vitest";

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
});

const reading = { quantity: "r1", value: 0.4, beyond: false, note: "", source: "typed" } as const;
const entry = { of: "circuit", about: "c1", by: "Robin Ash, Signal works", reading } as const;

beforeEach(() => {
  kept.clear();
  vi.resetModules();
});

test("what is put in is on the device before anything else, and is there after the page was closed", async () => {
  const first = await import("./outbox");
  const put = first.putIn(entry);
  expect(JSON.parse(kept.get("lumbek.outbox") ?? "")).toEqual([put]);
  vi.resetModules();
  const again = await import("./outbox");
  expect(again.waiting().map((each) => each.id)).toEqual([put.id]);
});

test("another tab's readings are not written over, and each leaves once", async () => {
  const { putIn, takeOut, waiting } = await import("./outbox");
  const mine = putIn(entry);
  const theirs = { ...entry, id: "theirs" };
  kept.set("lumbek.outbox", JSON.stringify([mine, theirs]));
  const later = putIn({ ...entry, reading: { ...reading, value: 0.5 } });
  expect(waiting().map((each) => each.id)).toEqual([mine.id, "theirs", later.id]);
  takeOut("theirs");
  expect(waiting().map((each) => each.id)).toEqual([mine.id, later.id]);
});

test("what the server would not have waits with its reason, and what is spoilt is nothing", async () => {
  const { noteTrouble, putIn, waiting } = await import("./outbox");
  const put = putIn(entry);
  noteTrouble(put.id, "Dead tests first");
  expect(waiting()[0]?.trouble).toBe("Dead tests first");
  kept.set("lumbek.outbox", "{not json");
  vi.resetModules();
  expect((await import("./outbox")).waiting()).toEqual([]);
});

test("what the server would not have is sent again, thrown away, or gives way to a later reading of its place", async () => {
  const { noteTrouble, putIn, sendAgain, takeOut, waiting } = await import("./outbox");
  const [first, elsewhere] = [putIn(entry), putIn({ ...entry, about: "c2" })];
  noteTrouble(first.id, "Dead tests first");
  noteTrouble(elsewhere.id, "Dead tests first");
  sendAgain(first.id);
  expect(waiting()[0]?.trouble).toBeUndefined();
  const second = putIn(entry);
  expect(waiting().map((each) => each.id)).toEqual([first.id, elsewhere.id, second.id]);
  noteTrouble(second.id, "Dead tests first");
  const third = putIn(entry);
  expect(waiting().map((each) => each.id)).toEqual([first.id, elsewhere.id, third.id]);
  takeOut(elsewhere.id);
  expect(waiting().map((each) => each.id)).toEqual([first.id, third.id]);
});

test("a place is its quantity with its point or its test", async () => {
  const { placeOf } = await import("./outbox");
  expect(placeOf({ quantity: "zs", point: "P1" })).toBe("zs:P1");
  expect(placeOf({ quantity: "trace", test: "link/LN/P1/a" })).toBe("trace:link/LN/P1/a");
  expect(placeOf({ quantity: "r1" })).toBe("r1:");
});
