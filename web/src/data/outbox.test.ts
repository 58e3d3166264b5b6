import { beforeEach, expect, test, vi } from "vitest";

const kept = new Map<string, string>();
vi.stubGlobal("localStorage", {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
});

const reading = { quantity: "r1", value: 0.4, beyond: false, note: "", source: "typed" } as const;
const entry = { kind: "reading", of: "circuit", about: "c1", by: "u1", reading } as const;

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

test("any record that is only added waits, and no photo keeps a figure waiting", async () => {
  const pictures = new Map<string, Blob>();
  vi.doMock("./blobs", () => ({
    keepBlob: (id: string, blob: Blob) => Promise.resolve(void pictures.set(id, blob)),
    dropBlob: (id: string) => Promise.resolve(void pictures.delete(id)),
  }));
  const { nextOf, putIn, putPhotoIn, takeOut, waiting } = await import("./outbox");
  await putPhotoIn(
    { about: "j1", by: "u1", shown: { shows: "job" }, note: "", takenAt: "2026-11-29T10:00:00Z" },
    new Blob(["picture"]),
  );
  const found = putIn({
    kind: "found",
    about: "j1",
    by: "u1",
    found: { kind: "traced", title: "Board", circuit: null, board: null, lines: [] },
  });
  const figure = putIn(entry);
  expect([...pictures.keys()]).toEqual([waiting()[0]?.id]);
  for (const each of [found, figure]) {
    expect(nextOf("u1")?.id).toBe(each.id);
    takeOut(each.id);
  }
  expect(nextOf("u1")?.kind).toBe("photo");
  takeOut(nextOf("u1")?.id ?? "");
  expect(pictures.size).toBe(0);
});

test("a device keeps so much and no more, and says so before anything is lost", async () => {
  vi.doMock("./blobs", () => ({ keepBlob: () => Promise.resolve(), dropBlob: () => Promise.resolve() }));
  const { MOST, MOST_BYTES, putIn, putPhotoIn, waiting } = await import("./outbox");
  kept.set("lumbek.outbox", JSON.stringify(Array.from({ length: MOST }, (_, at) => ({ ...entry, id: String(at) }))));
  expect(() => putIn(entry)).toThrow("keeps no more");
  expect(waiting()).toHaveLength(MOST);
  kept.set("lumbek.outbox", "[]");
  const huge = { size: MOST_BYTES + 1 } as Blob;
  await expect(
    putPhotoIn({ about: "j1", by: "u1", shown: { shows: "job" }, note: "", takenAt: "" }, huge),
  ).rejects.toThrow("keeps no more");
});

test("two people of one name have a queue each, and what was kept under a name is its person's", async () => {
  kept.set(
    "lumbek.outbox",
    JSON.stringify([{ id: "old", of: "circuit", about: "c1", by: "Robin Ash, Signal works", reading }]),
  );
  const { adopt, nextOf, putIn, waiting } = await import("./outbox");
  expect(waiting()[0]?.kind).toBe("reading");
  adopt({ id: "u2", name: "Robin Ash", firm: "Signal works" });
  putIn(entry);
  expect(nextOf("u2")?.id).toBe("old");
  expect(nextOf("u1")?.id).not.toBe("old");
});
