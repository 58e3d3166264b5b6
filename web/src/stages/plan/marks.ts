import type { Mark } from "../../api/client";

type Kind = Mark["kind"];

/** What a kind of mark is called, and its shape: a shape and a letter, never a colour alone. Paths span -1 to 1. */
const BOX = "M-1 -1H1V1H-1Z";
const ROUND = "M-1 0A1 1 0 1 1 1 0A1 1 0 1 1 -1 0Z";
const POINTED = "M0 -1.15L1.15 0L0 1.15L-1.15 0Z";
const HOUSE = "M-1 1V-0.4L0 -1.15L1 -0.4V1Z";
const SHAPES: Record<Kind, readonly [string, string, string]> = {
  socket: ["socket", BOX, "S"],
  data: ["data outlet", BOX, "D"],
  outlet: ["outlet", BOX, "O"],
  "fused-spur": ["fused spur", BOX, "F"],
  switch: ["switch", ROUND, "/"],
  "cord-switch": ["cord switch", ROUND, "C"],
  isolator: ["isolator", POINTED, "I"],
  "cooker-switch": ["cooker switch", POINTED, "K"],
  thermostat: ["thermostat", POINTED, "T"],
  light: ["light", ROUND, "L"],
  "wall-light": ["wall light", ROUND, "W"],
  downlight: ["downlight", ROUND, "•"],
  "shaver-socket": ["shaver supply", BOX, "R"],
  "smoke-alarm": ["smoke alarm", HOUSE, "S"],
  "heat-alarm": ["heat alarm", HOUSE, "H"],
  "co-alarm": ["CO alarm", HOUSE, "C"],
  fan: ["fan", POINTED, "V"],
  board: ["board", HOUSE, "B"],
  joint: ["joint", POINTED, "J"],
};

export function shapeOf(kind: Kind): { path: string; letter: string } {
  const [, path, letter] = SHAPES[kind];
  return { path, letter };
}

export function kindWords(kind: Kind): string {
  return SHAPES[kind][0];
}

/** What a mark is called: by a person, else as which of its kind in the room. */
export function titleOf(mark: Mark, inRoom: readonly Mark[]): string {
  const alike = inRoom.filter((each) => each.kind === mark.kind);
  return mark.name || `${kindWords(mark.kind)} ${String(alike.findIndex((each) => each.id === mark.id) + 1)}`;
}

/** How many more of a kind a room usually has. */
export function wantWords(kind: string, count: number): string {
  const words = kind in SHAPES ? kindWords(kind as Kind) : kind;
  return `${String(count)} more ${words}${count > 1 ? "s" : ""}`;
}

/** By which rule a mark is where it is, in words. */
export function ruleWords(rule: Mark["rule"], walls: Record<string, string>): string {
  const of = (id: string) => walls[id] ?? id;
  switch (rule.rule) {
    case "from-corner":
      return `${String(rule.mm)} mm from the ${rule.side} end of wall ${of(rule.wall)}`;
    case "beside":
      return `${rule.side} of ${rule.thing}: half of it and half of a cabinet of ${String(rule.cabinet_mm)} mm from its middle`;
    case "between":
      return `in the middle between ${rule.one} and ${rule.other}`;
    case "middle":
      return `on the middle of ${rule.part ? `unit ${String(rule.part)} of ` : ""}${of(rule.of)}`;
    case "beside-door":
      return `beside ${rule.door}, on its opening side, ${String(rule.mm)} mm from it`;
    case "edge":
      return `${String(rule.mm)} mm ${rule.outside ? "outside" : "inside"} the ${rule.side} end of ${rule.of}`;
    case "spread":
      return `${String(rule.at)} of ${String(rule.count)} spread evenly over ${of(rule.over)}`;
    case "straight":
      return `straight above or below ${rule.mark}${rule.mm ? `, ${String(rule.mm)} mm to the ${rule.side}` : ""}`;
    case "behind":
      return `back to back with ${rule.mark}${rule.mm ? `, ${String(rule.mm)} mm to the ${rule.side}` : ""}`;
    case "ceiling":
      return `on the ceiling, ${String(rule.mm)} mm from wall ${of(rule.wall)} and ${String(rule.other_mm)} mm from ${of(rule.other)}`;
    case "grid":
      return `column ${String(rule.column)} of ${String(rule.columns)}, row ${String(rule.row)} of ${String(rule.rows)} over the ceiling`;
    case "over-edge":
      return `${String(rule.at)} of ${String(rule.count)} over the front edge of ${rule.thing}${rule.out_mm ? `, ${String(rule.out_mm)} mm in front` : ""}`;
    case "kept":
      return `left where it was: ${rule.why}`;
  }
}
