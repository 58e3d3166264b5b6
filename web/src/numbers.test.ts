import { describe, expect, it } from "vitest";
import { clip, inLines, parseFigure, plain } from "./numbers";

describe("figures as people type them", () => {
  it.each([
    ["0,21", 0.21],
    [".35", 0.35],
    [" 12 ", 12],
    ["-4", -4],
    ["", null],
    ["nine", undefined],
    ["1e5", undefined],
    ["٣", undefined],
    ["1.2.3", undefined],
  ])("%j is %j", (text, figure) => expect(parseFigure(text)).toBe(figure));
});

it("says an entered figure without binary dust", () => {
  expect(plain(0.1 + 0.2)).toBe("0.3");
  expect(plain(32)).toBe("32");
  expect(plain(null)).toBe("");
});

it("cuts a text to the room there is", () => {
  expect(clip("Kitchen window", 8)).toBe("Kitchen…");
  expect(clip("Kitchen", 8)).toBe("Kitchen");
});

describe("a name on the drawing", () => {
  it("stands in one line, or in two between words, and is cut only where two are not enough", () => {
    expect(inLines("Window", 14)).toEqual(["Window"]);
    expect(inLines("Under the window", 14)).toEqual(["Under the", "window"]);
    expect(inLines("Electroluminescent", 14)).toEqual(["Electrolumine…"]);
    expect(inLines("Under the electroluminescent lamp", 14)).toEqual(["Under the", "electrolumine…"]);
  });
});
