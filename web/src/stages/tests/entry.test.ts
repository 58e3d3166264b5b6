import { expect, test } from "vitest";
import { readKeyed } from "./entry";

test("figures as they are keyed in with a thumb", () => {
  expect(readKeyed(".35", "Ω")).toEqual({ kind: "reading", value: 0.35, beyond: false });
  expect(readKeyed("350m", "Ω")).toEqual({ kind: "reading", value: 0.35, beyond: false });
  expect(readKeyed("0,35", "Ω")).toEqual({ kind: "reading", value: 0.35, beyond: false });
  expect(readKeyed("2.1k", "Ω")).toEqual({ kind: "reading", value: 2100, beyond: false });
  expect(readKeyed("200M", "MΩ")).toEqual({ kind: "reading", value: 200, beyond: false });
  expect(readKeyed("500k", "MΩ")).toEqual({ kind: "reading", value: 0.5, beyond: false });
});

test("what lies beyond the display, and what is not read", () => {
  expect(readKeyed(">999", "MΩ")).toEqual({ kind: "reading", value: 999, beyond: true });
  expect(readKeyed("open", "Ω")).toEqual({ kind: "reading", value: 1999, beyond: true });
  expect(readKeyed("lim", "Ω")).toEqual({ kind: "aside", untaken: "limitation" });
  expect(readKeyed("later", "Ω")).toEqual({ kind: "aside", untaken: "deferred" });
  expect(readKeyed(" ", "Ω")).toEqual({ kind: "clear" });
});

test("what is no figure says so", () => {
  for (const text of ["abc", "1.2.3", "-4", "12Q", "--"]) expect(readKeyed(text, "Ω").kind).toBe("wrong");
});
