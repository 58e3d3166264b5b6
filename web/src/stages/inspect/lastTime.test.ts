import { describe, expect, it } from "vitest";
import { readLines } from "./lastTime";

describe("readings of another paper", () => {
  it("reads lines, a heading, quotes and what lies beyond a display", () => {
    const { readings, trouble } = readLines(
      'circuit,reading,value,place\n1,Zs,0.64,"Sink"\n-;ze;0.21\n2\tinsulation\t>999\n\n',
    );
    expect(trouble).toBe("");
    expect(readings.map((each) => [each.circuit, each.quantity, each.value, each.beyond, each.place])).toEqual([
      [1, "zs", 0.64, false, "Sink"],
      [null, "ze", 0.21, false, ""],
      [2, "insulation-le", 999, true, ""],
    ]);
  });
  it("says what is wrong, by line", () => {
    expect(readLines("1, zs, 0.6\nx, zs, 1").trouble).toBe("Line 2: “x” is no circuit number");
    expect(readLines("1, zz, 0.6").trouble).toContain("“zz” is none of");
    expect(readLines("1, zs, 0.6\n1, zs, soon").trouble).toBe("Line 2: “soon” is no figure");
  });
});
