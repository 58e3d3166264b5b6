import type { Face, FaceCore, Hazard, Proof, StateTable } from "../../api/client";

/** How each switch stands, by its key. */
export type Stands = Readonly<Record<string, number>>;

interface AnySwitch {
  circuit: number;
  point: string;
  switch: string;
}

export function switchKey(each: AnySwitch): string {
  return `${each.circuit}/${each.point}/${each.switch}`;
}

/** Every switch of the proof, in order: digits on the keyboard work them. */
export function switchesOf(proof: Proof): StateTable["switches"] {
  return proof.tables.flatMap((table) => table.switches);
}

export function atRest(proof: Proof): Stands {
  return Object.fromEntries(switchesOf(proof).map((each) => [switchKey(each), each.at]));
}

export function standsOf(hazard: Hazard, before: Stands): Stands {
  return { ...before, ...Object.fromEntries(hazard.stands.map((each) => [switchKey(each), each.position])) };
}

function rowOf(table: StateTable, stands: Stands): number {
  return table.stands.findIndex((row) =>
    row.every((at, index) => at === (stands[switchKey(table.switches[index] as AnySwitch)] ?? 0)),
  );
}

/** Which state of all this is, and how many there are: every switch but those that isolate, counted through. */
export function stateNumber(proof: Proof, stands: Stands): { at: number; of: number } {
  let at = 0;
  let of = 1;
  for (const each of switchesOf(proof)) {
    if (each.isolates) continue;
    at = at * each.positions + (stands[switchKey(each)] ?? 0);
    of *= each.positions;
  }
  return { at, of };
}

export function stepState(proof: Proof, stands: Stands, by: number): Stands {
  const { at, of } = stateNumber(proof, stands);
  let left = (at + by + of) % of;
  const found: Record<string, number> = { ...stands };
  for (const each of [...switchesOf(proof)].reverse()) {
    if (each.isolates) continue;
    found[switchKey(each)] = left % each.positions;
    left = Math.floor(left / each.positions);
  }
  return found;
}

/** What every part of the copper is in a state, and which lamps burn: looked up, nothing is worked out here. */
export interface Shown {
  live: ReadonlyMap<number, string>;
  lamps: ReadonlyMap<string, string>;
}

export function shownIn(proof: Proof, stands: Stands): Shown {
  const live = new Map<number, string>();
  const lamps = new Map<string, string>();
  for (const [part, kind] of Object.entries(proof.fixed)) live.set(Number(part), kind);
  for (const lamp of proof.always_lit) lamps.set(lampKey(lamp.circuit, lamp.point, lamp.line), "1");
  for (const table of proof.tables) {
    const row = rowOf(table, stands);
    table.parts.forEach((part, index) => live.set(part, table.live[row]?.[index] ?? "."));
    table.lamps.forEach((lamp, index) =>
      lamps.set(lampKey(lamp.circuit, lamp.point, lamp.line), table.lit[row]?.[index] ?? "0"),
    );
  }
  return { live, lamps };
}

export function lampKey(circuit: number, point: string, line: string): string {
  return `${circuit}/${point}/${line}`;
}

export function coreKey(circuit: number, point: string, leg: string, core: string): string {
  return `${circuit}/${point}/${leg}/${core}`;
}

/** Which part of the copper each core end and terminal is. */
export function partsOf(proof: Proof): ReadonlyMap<string, number> {
  return new Map(proof.where.map((each) => [coreKey(each.circuit, each.point, each.leg, each.name), each.part]));
}

// The drawing

const PAD = 40;
const LETTER = 7.4;
const MARGIN = 12;
const GAP_X = 30;
const GAP_Y = 56;
const CORE_GAP = 15;
export const TITLE = 26;
const PLATE = 62;
const FAN = 74;
const STUB = 30;

export interface PadSpot {
  name: string;
  shown: string;
  words: string;
  gang: number | null;
  x: number;
  y: number;
  cores: readonly FaceCore[];
  off: boolean;
}

export interface CoreSpot {
  leg: string;
  core: string;
  x: number;
  /** The pad that it is in. */
  pad: PadSpot;
  face: FaceCore;
  /** Where along the pad it comes in. */
  padX: number;
}

export interface CableSpot {
  leg: string;
  to: string;
  beyond: string | null;
  x: number;
  width: number;
  found: boolean;
}

export interface BoxSpot {
  face: Face;
  x: number;
  y: number;
  width: number;
  height: number;
  plateY: number;
  padY: number;
  stubY: number;
  pads: readonly PadSpot[];
  cores: readonly CoreSpot[];
  cables: readonly CableSpot[];
}

export interface BenchLayout {
  boxes: readonly BoxSpot[];
  links: readonly { leg: string; d: string; found: boolean }[];
  width: number;
  height: number;
}

/** Boxes in rows, each after the one its cable comes from; cables hang from box to box below them. */
export function layOutBench(faces: readonly Face[], room: number): BenchLayout {
  const boxes: BoxSpot[] = [];
  let top = 8;
  let width = 0;
  for (const circuit of new Set(faces.map((face) => face.circuit))) {
    let left = 8;
    let tallest = 0;
    for (const face of inOrder(faces.filter((each) => each.circuit === circuit))) {
      const box = boxOf(face, left, top);
      if (left > 8 && left + box.width + 8 > room) {
        left = 8;
        top += tallest + GAP_Y;
        tallest = 0;
      }
      boxes.push({ ...box, x: left, y: top });
      left += box.width + GAP_X;
      tallest = Math.max(tallest, box.height);
      width = Math.max(width, left - GAP_X + 8);
    }
    top += tallest + GAP_Y;
  }
  return { boxes, links: linksOf(boxes), width: Math.max(width, 200), height: top };
}

/** Along the cables from the board, a branch to its end before the next: neighbours stand side by side. */
function inOrder(faces: readonly Face[]): Face[] {
  const left = new Map(faces.map((face) => [face.place, face]));
  const found: Face[] = [];
  function visit(place: string) {
    const face = left.get(place);
    if (!face) return;
    left.delete(place);
    found.push(face);
    const onward = face.cables.map((cable) => cable.beyond ?? "");
    // Lamps hang off a switch: they come before the run goes on.
    const ends = onward.filter((each) => (left.get(each)?.cables.length ?? 2) < 2);
    for (const each of [...ends, ...onward]) visit(each);
  }
  for (const face of faces) visit(face.place);
  return found;
}

/** What is written over a terminal: its gang with it where there are several. */
function padWords(pad: { name: string; shown: string; gang: number | null; off: boolean }, many: boolean): string {
  if (pad.off) return "off";
  if (pad.name === "") return "joint";
  return many && pad.gang !== null && !pad.shown.includes(" ") ? `${pad.gang} ${pad.shown}` : pad.shown;
}

function boxOf(face: Face, x: number, y: number): BoxSpot {
  const pads = [
    ...face.terminals.map((each) => ({ ...each, off: false })),
    ...face.off.map((core) => ({ name: "", shown: "", gang: null, cores: [core], off: true })),
  ];
  const cablesWide = face.cables.reduce((sum, cable) => sum + cable.cores.length * CORE_GAP + 26, 0);
  const many = face.gangs.length > 1;
  const wide = pads.map((pad) => Math.max(PAD, padWords(pad, many).length * LETTER + 10));
  const padsWide = wide.reduce((sum, each) => sum + each, 0);
  const plateWide = (face.gangs.length + face.lamps.length) * 76 + 2 * MARGIN;
  const width = Math.max(
    150,
    plateWide,
    padsWide + 2 * MARGIN,
    cablesWide + 2 * MARGIN,
    face.title.length * 8.2 + 20 + (face.room ? 7 * face.room.length : 0),
  );
  const hasPlate = face.gangs.length > 0 || face.lamps.length > 0;
  const plateY = TITLE + 6;
  const padY = plateY + (hasPlate ? PLATE : 4) + 18;
  const stubY = padY + 22 + FAN;
  const slack = (width - 2 * MARGIN - padsWide) / Math.max(1, pads.length);
  let padAt = MARGIN;
  const spots: PadSpot[] = pads.map((pad, index) => {
    const mine = (wide[index] ?? PAD) + slack;
    padAt += mine;
    return { ...pad, words: padWords(pad, many), x: padAt - mine / 2, y: padY };
  });
  const cables: CableSpot[] = [];
  const cores: CoreSpot[] = [];
  let at = (width - cablesWide) / 2 + 13;
  for (const cable of face.cables) {
    const wide = cable.cores.length * CORE_GAP;
    cables.push({
      leg: cable.leg,
      to: cable.to,
      beyond: cable.beyond ?? null,
      x: at + wide / 2,
      width: wide + 8,
      found: cable.state === "as-found",
    });
    cable.cores.forEach((core, index) => {
      const pad = spots.find((spot) => spot.cores.some((each) => each.leg === cable.leg && each.core === core));
      const mine = pad?.cores.find((each) => each.leg === cable.leg && each.core === core);
      if (!pad || !mine) return;
      const count = pad.cores.length;
      const order = pad.cores.indexOf(mine);
      const padX = pad.x + (count > 1 ? (order / (count - 1) - 0.5) * Math.min(22, 8 * count) : 0);
      cores.push({ leg: cable.leg, core, x: at + CORE_GAP * (index + 0.5), pad, face: mine, padX });
    });
    at += wide + 26;
  }
  return { face, x, y, width, height: stubY + STUB, plateY, padY, stubY, pads: spots, cores, cables };
}

function linksOf(boxes: readonly BoxSpot[]): BenchLayout["links"] {
  const ends = new Map<string, { x: number; y: number; found: boolean }[]>();
  for (const box of boxes)
    for (const cable of box.cables) {
      const key = `${box.face.circuit}/${cable.leg}`;
      ends.set(key, [...(ends.get(key) ?? []), { x: box.x + cable.x, y: box.y + box.height, found: cable.found }]);
    }
  return [...ends].flatMap(([leg, spots]) => {
    const [a, b] = spots;
    if (!a) return [];
    if (!b) return [{ leg, d: `M${a.x},${a.y}v16`, found: a.found }];
    const sag = 34 + Math.min(40, Math.abs(a.x - b.x) / 14);
    return [{ leg, d: `M${a.x},${a.y}C${a.x},${a.y + sag} ${b.x},${b.y + sag} ${b.x},${b.y}`, found: a.found }];
  });
}
