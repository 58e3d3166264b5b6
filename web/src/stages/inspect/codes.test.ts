import { describe, expect, it } from "vitest";
import type { FindingKind } from "../../api/client";
import { questionsOf, suggested } from "./codes";

const burns: FindingKind = {
  id: "board-burns",
  title: "Burns",
  clauses: {},
  usual: { code: "C3", why: "nobody has looked" },
  asks: [
    { id: "heat", asks: "Heat?", answer: "yes", code: "C2", why: "hot" },
    { id: "way-out", asks: "Way out?", answer: "yes", code: "C3", why: "on the way out" },
    { id: "way-out", asks: "Way out?", answer: "no", code: "none", why: "sound" },
  ],
};

describe("the usual code", () => {
  it("is the usual one while nothing is answered, and says what is open", () => {
    expect(suggested(burns, [])).toEqual({ code: "C3", why: "nobody has looked", open: ["heat", "way-out"] });
  });
  it("is that of the first question answered so", () => {
    expect(suggested(burns, [{ id: "heat", answer: "yes" }]).code).toBe("C2");
    expect(suggested(burns, [{ id: "way-out", answer: "no" }])).toEqual({ code: "none", why: "sound", open: ["heat"] });
  });
  it("is none where the sort is not known", () => {
    expect(suggested(undefined, []).code).toBe("");
  });
  it("asks each question once", () => {
    expect(questionsOf(burns).map((each) => each.id)).toEqual(["heat", "way-out"]);
  });
});
