import { describe, expect, it } from "vitest";
import type { Face, Hazard, Proof } from "../../api/client";
import { atRest, coreKey, lampKey, layOutBench, partsOf, shownIn, standsOf, stateNumber, stepState } from "./bench";

const two = (point: string, more: object = {}) => ({
  circuit: 3,
  point,
  switch: "1",
  positions: 2,
  at: 0,
  isolates: false,
  ...more,
});

/** A lamp between two-way switches at A and B: it burns where they stand differently. */
const stair = {
  fixed: { 1: "L", 2: "N" },
  always_lit: [{ circuit: 3, point: "porch", line: "L" }],
  tables: [
    {
      switches: [two("A"), two("B")],
      stands: [
        [0, 0],
        [0, 1],
        [1, 0],
        [1, 1],
      ],
      parts: [7, 8],
      live: ["L.", "LF", ".L", "LL"],
      lamps: [{ circuit: 3, point: "hall", line: "L" }],
      lit: ["0", "1", "1", "0"],
    },
  ],
  where: [{ circuit: 3, point: "A", leg: "L1", name: "L", part: 7 }],
} as unknown as Proof;

/** The same with an isolator and a switch of three positions. */
const more = {
  ...stair,
  tables: [
    ...stair.tables,
    {
      switches: [two("I", { isolates: true, at: 1 }), two("F", { positions: 3 })],
      stands: [],
      parts: [],
      live: [],
      lamps: [],
      lit: [],
    },
  ],
} as unknown as Proof;

describe("the state that switches stand in", () => {
  it("is at rest as the proof has it, isolators on", () => {
    expect(atRest(more)).toEqual({ "3/A/1": 0, "3/B/1": 0, "3/I/1": 1, "3/F/1": 0 });
  });

  it("is counted through every switch but those that isolate", () => {
    expect(stateNumber(stair, atRest(stair))).toEqual({ at: 0, of: 4 });
    expect(stateNumber(more, { "3/A/1": 1, "3/B/1": 1, "3/I/1": 0, "3/F/1": 2 })).toEqual({ at: 11, of: 12 });
  });

  it("goes through all states and round, and back the same way", () => {
    const seen = new Set<string>();
    let stands = atRest(more);
    for (let step = 0; step < 12; step++) {
      seen.add(JSON.stringify(stands));
      const next = stepState(more, stands, 1);
      expect(stepState(more, next, -1)).toEqual(stands);
      expect(stateNumber(more, next).at).toBe((stateNumber(more, stands).at + 1) % 12);
      stands = next;
    }
    expect(seen.size).toBe(12);
    expect(stands).toEqual(atRest(more));
    expect(stepState(more, stands, 1)["3/I/1"]).toBe(1);
  });

  it("is taken from a hazard for the switches that it names, and left for all others", () => {
    const hazard = { stands: [{ circuit: 3, point: "B", switch: "1", position: 1 }] } as unknown as Hazard;
    expect(standsOf(hazard, { "3/A/1": 1, "3/B/1": 0 })).toEqual({ "3/A/1": 1, "3/B/1": 1 });
  });
});

describe("what is shown in a state", () => {
  it("is looked up in the row of that state", () => {
    for (const [a, b, lit, live] of [
      [0, 0, "0", "L."],
      [0, 1, "1", "LF"],
      [1, 0, "1", ".L"],
      [1, 1, "0", "LL"],
    ] as const) {
      const shown = shownIn(stair, { "3/A/1": a, "3/B/1": b });
      expect(shown.lamps.get(lampKey(3, "hall", "L"))).toBe(lit);
      expect([shown.live.get(7), shown.live.get(8)].join("")).toBe(live);
      expect([shown.live.get(1), shown.live.get(2)]).toEqual(["L", "N"]);
      expect(shown.lamps.get(lampKey(3, "porch", "L"))).toBe("1");
    }
  });

  it("takes a switch that nobody has touched as at rest, and a state that is in no table as dark", () => {
    expect(shownIn(stair, {}).lamps.get(lampKey(3, "hall", "L"))).toBe("0");
    const dark = shownIn(stair, { "3/A/1": 5, "3/B/1": 0 });
    expect([dark.live.get(7), dark.lamps.get(lampKey(3, "hall", "L"))]).toEqual([".", "0"]);
  });

  it("finds the copper of each core end", () => {
    expect(partsOf(stair).get(coreKey(3, "A", "L1", "L"))).toBe(7);
  });
});

function face(place: string, cables: [string, string | null, number][], gangs = 1, circuit = 3): Face {
  const cores = (leg: string, count: number) =>
    Array.from({ length: count }, (_, at) => ({ leg, core: ["L", "N", "S1"][at] ?? "E", colour: "brown" }));
  const every = cables.flatMap(([leg, , count]) => cores(leg, count));
  return {
    circuit,
    place,
    title: `Box ${place}`,
    room: "",
    gangs: Array.from({ length: gangs }, (_, at) => ({ gang: at + 1 })),
    lamps: [],
    cables: cables.map(([leg, beyond, count]) => ({
      leg,
      to: "",
      beyond,
      state: "new",
      cores: cores(leg, count).map((each) => each.core),
    })),
    terminals: [{ name: "1.COM", shown: "COM", gang: 1, cores: every.slice(0, -1) }],
    off: every.slice(-1),
  } as unknown as Face;
}

const hall = [
  face("A", [
    ["L1", "board", 2],
    ["L2", "B", 3],
  ]),
  face(
    "B",
    [
      ["L2", "A", 3],
      ["L3", "C", 2],
    ],
    3,
  ),
  face("C", [["L3", "B", 2]]),
];

describe.each([320, 700, 1600])("boxes in a room of %i", (room) => {
  const layout = layOutBench(hall, room);

  it("stand once each, apart, inside the picture", () => {
    expect(layout.boxes.map((box) => box.face.place).sort()).toEqual(["A", "B", "C"]);
    for (const [at, box] of layout.boxes.entries()) {
      expect(box.x).toBeGreaterThanOrEqual(0);
      expect(box.x + box.width).toBeLessThanOrEqual(layout.width);
      expect(box.y + box.height).toBeLessThanOrEqual(layout.height);
      for (const other of layout.boxes.slice(at + 1)) {
        const beside = box.x + box.width <= other.x || other.x + other.width <= box.x;
        const below = box.y + box.height <= other.y || other.y + other.height <= box.y;
        expect(beside || below).toBe(true);
      }
    }
  });

  it("have every core once, in its terminal or left off, and no two at one place", () => {
    for (const box of layout.boxes) {
      const all = box.face.cables.flatMap((cable) => cable.cores.map((core) => `${cable.leg}/${core}`));
      expect(box.cores.map((core) => `${core.leg}/${core.core}`)).toEqual(all);
      expect(new Set(box.cores.map((core) => core.x)).size).toBe(all.length);
      expect(box.cores.filter((core) => core.pad.off)).toHaveLength(1);
      for (const core of box.cores) expect(core.x).toBeLessThan(box.width);
    }
  });

  it("are joined by each cable once; what leads to no box hangs down", () => {
    expect(layout.links.map((link) => link.leg).sort()).toEqual(["3/L1", "3/L2", "3/L3"]);
    for (const link of layout.links) expect(link.d).toContain(link.leg === "3/L1" ? "v16" : "C");
  });
});

describe("the order and the words of boxes", () => {
  it("goes along the cables, a lamp before the run goes on", () => {
    const run = [
      face("A", [
        ["L1", "board", 2],
        ["L2", "B", 2],
        ["L9", "lamp", 2],
      ]),
      face("B", [
        ["L2", "A", 2],
        ["L3", "C", 2],
      ]),
      face("C", [["L3", "B", 2]]),
      face("lamp", [["L9", "A", 2]]),
    ];
    expect(layOutBench(run, 4000).boxes.map((box) => box.face.place)).toEqual(["A", "lamp", "B", "C"]);
  });

  it("says the gang of a terminal only where there are several", () => {
    const [a, b] = layOutBench(hall, 4000).boxes;
    expect(a?.pads.map((pad) => pad.words)).toEqual(["COM", "off"]);
    expect(b?.pads.map((pad) => pad.words)).toEqual(["1 COM", "off"]);
  });

  it("puts another circuit in rows of its own", () => {
    const other = face("A", [["L1", "board", 2]], 1, 4);
    const boxes = layOutBench([...hall, other], 4000).boxes;
    const own = boxes.find((box) => box.face.circuit === 4);
    expect(own?.y).toBeGreaterThan(Math.max(...boxes.filter((box) => box !== own).map((box) => box.y + box.height)));
  });
});
