import { expect, test } from "vitest";
import { ask, asRefused, Refused } from "./client";

const answer = (status: number, error?: unknown, data?: unknown) =>
  Promise.resolve({ data, error, response: new Response(null, { status }) });

async function refusedBy(call: Parameters<typeof ask>[0]): Promise<Refused> {
  try {
    await ask(call);
  } catch (error) {
    if (error instanceof Refused) return error;
  }
  throw new Error("it was not refused");
}

test("what the server answers is handed on", async () => {
  expect(await ask(answer(200, undefined, { name: "signal box" }))).toEqual({ name: "signal box" });
});

test("a refusal says what the server said", async () => {
  const refused = await refusedBy(
    answer(422, { code: "bad-input", message: "rating_a: 33 is no rating", problems: [] }),
  );
  expect([refused.status, refused.body.code, refused.message]).toEqual([422, "bad-input", "rating_a: 33 is no rating"]);
});

test("an answer that cannot be read, and none at all, are told apart by their status", async () => {
  const garbled = await refusedBy(answer(502, "<html>bad gateway</html>"));
  expect([garbled.status, garbled.body.code]).toEqual([502, "unreachable"]);
  expect(garbled.message).toContain("no answer that can be read");
  const lost = await refusedBy(Promise.reject(new TypeError("failed to fetch")));
  expect([lost.status, lost.body.code]).toEqual([0, "unreachable"]);
  expect(lost.message).toContain("What is marked saved is saved");
});

test("a fault of our own is told as one, a refusal stays what it was", () => {
  const ours = asRefused(new Error("undefined is not a function"));
  expect([ours.status, ours.body.code]).toEqual([0, "our-fault"]);
  const refused = new Refused(409, { code: "changed", message: "changed meanwhile", problems: [] });
  expect(asRefused(refused)).toBe(refused);
});
