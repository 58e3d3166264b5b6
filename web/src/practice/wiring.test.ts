import { describe, expect, it } from "vitest";
import type { WireBox } from "../api/client";
import { actOf, BARE, endKey, placed, targetsOf } from "./wiring";

const BOX: WireBox = {
  place: "S1",
  title: "switch, porch",
  terminals: ["1.COM", "1.L1", "E"],
  connectors: 2,
  ends: [
    { leg: "L1", core: "L", colour: "brown", to: "the board" },
    { leg: "L1", core: "E", colour: "bare", to: "the board" },
  ],
};

describe("wiring a box", () => {
  it("offers its terminals and its connectors by letters", () => {
    expect(targetsOf(BOX).map(([id]) => id)).toEqual(["1.COM", "1.L1", "E", "A", "B"]);
  });

  it("says every end, those left off too", () => {
    const key = endKey("S1", "L1", "L");
    const wiring = { ...BARE, into: { [key]: "1.COM" }, marked: { [key]: "line" as const } };
    expect(actOf([BOX], wiring).wired).toEqual([
      { place: "S1", leg: "L1", core: "L", into: "1.COM", marked: "line" },
      { place: "S1", leg: "L1", core: "E", into: "", marked: null },
    ]);
    expect(placed([BOX], wiring)).toBe(1);
    expect(placed([BOX], BARE)).toBe(0);
  });
});
