import { describe, expect, it } from "vitest";
import { Refused } from "../api/client";
import { onlyOn, settled, type ToDo } from "./useWriting";

interface View {
  version: number;
  many: number[];
}
const add =
  (one: number): ToDo<View, { many: number[] }> =>
  (now) => [{ many: [...now.many, one] }];

describe("what is to be done", () => {
  it("is as it was said, or follows from what stands now", () => {
    const now = { version: 3, many: [1] };
    expect(settled([{ many: [9] }, add(2), () => []], now)).toEqual([{ many: [9] }, { many: [1, 2] }]);
  });
  it("as a whole is done on the version it was worked out for, and on no other", () => {
    const layout = { many: [7] };
    const whole = onlyOn(3, layout);
    expect(settled<View, { many: number[] }>([whole], { version: 3, many: [1] })).toEqual([layout]);
    for (const version of [2, 4]) {
      const late = () => settled<View, { many: number[] }>([whole], { version, many: [1] });
      expect(late).toThrow(Refused);
      expect(late).toThrow("worked out before the last change");
    }
  });
});
