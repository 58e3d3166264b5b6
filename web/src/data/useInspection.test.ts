import { describe, expect, it } from "vitest";
import type { FindingSaid, InspectionView } from "../api/client";
import { dangersOf, isDanger, withDanger } from "./dangers";
import { laidOver } from "./useInspection";

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

const BLANK = { record: "particulars", reason: null, covers: null, limitations: null } as unknown as Said;
type Said = Parameters<typeof laidOver>[1]["said"];
const limit = (what: string) => ({ what, why: "", agreed_with: "" });
const TASK = {
  record: "task",
  task: "t1",
  findings: ["f1"],
  what: "New plate",
  parts: [
    { what: "Plate", count: 2, price: "3.20" },
    { what: "Hour", count: 0.5, price: 48 },
  ],
  status: "proposed",
  agreed_by: "",
  by: "",
  touched: [],
} as unknown as Said;

describe("what is said while something waits is said of that", () => {
  const over = (first: InspectionView, ...all: Said[]) =>
    all.reduce((before, each) => laidOver(before, { said: each, saidAt: at }), first).whole;
  const whole = {
    ...view.whole,
    particulars: { ...BLANK, covers: "All of it", limitations: [limit("Loft")] },
    notify_answers: [],
    tasks: [],
    samples: [
      { opened: 1, faulty: 0, next: ["P1", "P2"].map((point) => ({ circuit: "c", point })) },
      { opened: 0, faulty: 0, next: [{ circuit: "d", point: "P1" }] },
    ],
  };
  const full = { ...view, whole } as unknown as InspectionView;

  it("particulars: what says nothing leaves what stood", () => {
    const now = over(full, { ...BLANK, reason: "A sale" } as Said, { ...BLANK, limitations: [limit("Shed")] } as Said);
    expect(now.particulars).toMatchObject({ covers: "All of it", reason: "A sale", limitations: [limit("Shed")] });
  });
  it("answers on notifying", () => {
    const answers = [{ id: "bath", answer: "yes" as const }];
    expect(over(full, { record: "notify", answers }).notify_answers).toEqual(answers);
  });
  it("a task, in its place, with what it costs", () => {
    const agreed = { ...TASK, status: "agreed", agreed_by: "M. Fallow" } as Said;
    const now = over(full, TASK, { ...TASK, task: "t2" } as Said, agreed);
    expect(now.tasks.map((each) => [each.said.task, each.said.agreed_by, each.price])).toEqual([
      ["t1", "M. Fallow", "30.40"],
      ["t2", "", "30.40"],
    ]);
  });
  it("an accessory that was opened is asked for no more, and counts where it is", () => {
    const opened = { record: "opened", circuit: "c", point: "P1", sound: false, note: "" } as const;
    const [mine, other] = over(full, opened, opened, { ...opened, point: "P2", sound: true }).samples;
    expect([mine?.opened, mine?.faulty, mine?.next]).toEqual([3, 1, []]);
    expect([other?.opened, other?.next.length]).toEqual([0, 1]);
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
