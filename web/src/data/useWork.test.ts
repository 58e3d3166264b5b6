import { describe, expect, it } from "vitest";
import type { WorkStep } from "../api/client";
import { spell, standingSteps } from "./useWork";

const STEP = {
  key: "box/socket-1",
  phase: "first-fix",
  follows: false,
  stands: { status: "to-do", note: "", by: "", at: "" },
} as unknown as WorkStep;
const said = (status: "done" | "left", step = STEP.key) => ({
  said: { record: "step" as const, step, status, note: "" },
  saidAt: "2026-03-01T10:00:00Z",
});

describe("what waits is laid over the steps", () => {
  it("the last that was said of a step counts", () => {
    const [step] = standingSteps([STEP], [said("done"), said("left")]);
    expect(step?.stands.status).toBe("left");
    expect(step?.stands.by).toContain("not sent yet");
  });

  it("what follows from readings is not ticked, and others stay", () => {
    const follows = { ...STEP, follows: true };
    expect(standingSteps([follows], [said("done")])[0]).toBe(follows);
    expect(standingSteps([STEP], [said("done", "box/other")])[0]).toBe(STEP);
  });

  it("hours are said in hours and minutes", () => {
    expect([spell(45), spell(60), spell(150.4)]).toEqual(["45 min", "1 h 00", "2 h 30"]);
  });
});
