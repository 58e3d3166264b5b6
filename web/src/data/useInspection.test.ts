import { describe, expect, it } from "vitest";
import type { FindingSaid, InspectionView } from "../api/client";
import { dangersOf, isDanger, laidOver, withDanger } from "./useInspection";

const said = {
  record: "finding",
  finding: "f1",
  kind: "damage",
  spot: { of: "job", id: "", circuit: null, words: "" },
  seen: "Broken",
  clause: "",
  code: "C1",
  suggested: "",
  why: "",
  departs: "",
  answers: [],
  since: "",
  status: "open",
  danger: null,
  offer: "C1/damage",
} satisfies FindingSaid;

const view = {
  job_id: "j",
  signed: [],
  whole: {
    findings: [],
    dangers: [],
    offers: [{ key: "C1/damage" }],
    areas: [{ key: "loft", items: [{ kind: { id: "a" }, standing: null }] }],
  },
} as unknown as InspectionView;
const at = "2026-05-04T12:00:00Z";

describe("what waits on the device", () => {
  it("stands at once, and takes its offer away", () => {
    const now = laidOver(view, { said, saidAt: at });
    expect(now.whole.findings.map((each) => each.said.seen)).toEqual(["Broken"]);
    expect(now.whole.offers).toEqual([]);
    expect(now.whole.dangers).toEqual(["f1"]);
  });
  it("corrects, and keeps what was said before", () => {
    const twice = laidOver(laidOver(view, { said, saidAt: at }), { said: { ...said, code: "C2" }, saidAt: at });
    expect(twice.whole.findings).toHaveLength(1);
    expect(twice.whole.findings[0]?.earlier.map((each) => each.code)).toEqual(["C1"]);
    expect(twice.whole.dangers).toEqual([]);
  });
  it("marks items of its area only", () => {
    const lines = [{ item: "a", outcome: "sound" as const, why: "" }];
    const here = laidOver(view, { said: { record: "items", area: "loft", lines }, saidAt: at });
    expect(here.whole.areas[0]?.items[0]?.standing?.line.outcome).toBe("sound");
    const elsewhere = laidOver(view, { said: { record: "items", area: "intake", lines }, saidAt: at });
    expect(elsewhere.whole.areas[0]?.items[0]?.standing).toBeNull();
  });
});

describe("a danger", () => {
  it("is told as the last thing said of it, once, until it is none", () => {
    const other = { ...said, finding: "f2", seen: "Live metal" };
    const both = withDanger(withDanger([], said), other);
    expect(both.map((each) => each.finding)).toEqual(["f1", "f2"]);
    const again = withDanger(both, { ...said, seen: "Broken through" });
    expect(again.map((each) => each.seen)).toEqual(["Live metal", "Broken through"]);
    expect(withDanger(both, { ...said, code: "C2" })).toEqual([other]);
  });
  it("is found among what an inspection knows", () => {
    const now = laidOver(laidOver(view, { said, saidAt: at }), {
      said: { ...said, finding: "f2", code: "C3" },
      saidAt: at,
    });
    expect(dangersOf(now)).toEqual([said]);
  });
  it("waits until it is made safe or refused, and somebody was told", () => {
    const dealt = { made_safe: "off", lock: "", told: "who", told_at: at, refused: false, distributor: "" };
    expect(isDanger({ ...said, danger: dealt })).toBe(false);
    expect(isDanger({ ...said, danger: { ...dealt, told: "" } })).toBe(true);
    expect(isDanger({ ...said, danger: { ...dealt, made_safe: "" } })).toBe(true);
    expect(isDanger({ ...said, danger: { ...dealt, made_safe: "", refused: true } })).toBe(false);
    expect(isDanger({ ...said, code: "C2" })).toBe(false);
  });
});
