import { describe, expect, it } from "vitest";
import { placeOf, usualKind } from "./papers";

describe("where something is said", () => {
  it("leads to the stage, the part or the place", () => {
    const key = "0123456789abcdef0123456789abcdef";
    for (const [at, path] of [
      ["survey", "/jobs/j/survey"],
      ["head", "/jobs/j/survey"],
      ["inspection/particulars", "/jobs/j/inspection/particulars"],
      ["inspection/findings/f1", "/jobs/j/inspection/findings/f1"],
      ["inspection/offers/C1/rcd", "/jobs/j/inspection/findings"],
      ["inspection/board:B1", "/jobs/j/inspection/walk/board%3AB1"],
      [`tests/${key}`, "/jobs/j/tests/01234567-89ab-cdef-0123-456789abcdef"],
      ["circuits/C1", "/jobs/j/circuits"],
    ] as const)
      expect(placeOf("j", at)).toBe(path);
  });
});

describe("the paper that a job ends in", () => {
  it("goes by rulebook, work and state", () => {
    const extent = { state: "new", year: null, work: "whole", sampling: "every", limits: "" } as const;
    expect(usualKind({ rulebook: "bs7671", extent })).toBe("certificate");
    expect(usualKind({ rulebook: "bs7671", extent: { ...extent, state: "as-found" } })).toBe("condition");
    expect(usualKind({ rulebook: "bs7671", extent: { ...extent, work: "change" } })).toBe("minor-works");
    expect(usualKind({ rulebook: "iec60364", extent })).toBe("verification");
  });
});
