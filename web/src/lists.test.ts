import { describe, expect, it } from "vitest";
import { withOrWithout } from "./lists";

describe("a list with or without one thing", () => {
  it("has it once, or not at all", () => {
    expect(withOrWithout(["a", "b"], "c", true)).toEqual(["a", "b", "c"]);
    expect(withOrWithout(["a", "b"], "a", true)).toEqual(["b", "a"]);
    expect(withOrWithout(["a", "b", "a"], "a", false)).toEqual(["b"]);
    expect(withOrWithout(["a"], "c", false)).toEqual(["a"]);
  });
});
