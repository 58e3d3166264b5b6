import { describe, expect, it, vi } from "vitest";
import { Refused } from "../api/client";
import { newId, once } from "./once";

const refused = (status: number, code = "bad-input") => new Refused(status, { code, message: "no", problems: [] });

describe("a write sent once", () => {
  it("goes again under the same id where its answer was lost, until one comes", async () => {
    const send = vi
      .fn<(id: string) => Promise<string>>()
      .mockRejectedValueOnce(refused(0, "unreachable"))
      .mockRejectedValueOnce(refused(503, "not-known"))
      .mockResolvedValue("kept");
    expect(await once(["a"], send, [0, 0, 0])).toBe("kept");
    const ids = send.mock.calls.map(([id]) => id);
    expect(ids).toHaveLength(3);
    expect(new Set(ids).size).toBe(1);
  });

  it("is not sent again where the answer is a refusal", async () => {
    const send = vi.fn<(id: string) => Promise<string>>().mockRejectedValue(refused(422));
    await expect(once(["b"], send, [0, 0])).rejects.toMatchObject({ status: 422 });
    expect(send).toHaveBeenCalledTimes(1);
  });

  it("says that nobody knows where no answer comes at all", async () => {
    const send = vi.fn<(id: string) => Promise<string>>().mockRejectedValue(refused(0, "unreachable"));
    await expect(once(["c"], send, [0])).rejects.toMatchObject({ body: { code: "not-known" } });
    expect(send).toHaveBeenCalledTimes(2);
  });

  it("says what a full disk says: that it was not kept", async () => {
    const send = vi.fn<(id: string) => Promise<string>>().mockRejectedValue(refused(503, "full"));
    await expect(once(["d"], send, [0])).rejects.toMatchObject({ body: { code: "full" } });
    expect(send).toHaveBeenCalledTimes(2);
  });

  it("goes under the same id when it is done again by hand, and under a new one once it was answered", async () => {
    const send = vi
      .fn<(id: string) => Promise<string>>()
      .mockRejectedValueOnce(refused(0, "unreachable"))
      .mockResolvedValue("kept");
    await expect(once(["start", { kind: "cooker" }], send, [])).rejects.toMatchObject({ body: { code: "not-known" } });
    await once(["start", { kind: "shower" }], send, []);
    await once(["start", { kind: "cooker" }], send, []);
    await once(["start", { kind: "cooker" }], send, []);
    const [lost, other, again, anew] = send.mock.calls.map(([id]) => id);
    expect(again).toBe(lost);
    expect(new Set([lost, other, anew]).size).toBe(3);
  });

  it("has an id like no other", () => {
    const ids = Array.from({ length: 500 }, newId);
    expect(new Set(ids).size).toBe(500);
    for (const id of ids) expect(id).toMatch(/^[0-9a-f]{8}-[0-9a-f]{4}-4[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/);
  });
});
