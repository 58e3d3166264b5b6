import type { LinkWire, WireBox, Wired } from "../api/client";

export const LETTERS = ["A", "B", "C", "D", "E", "F", "G", "H"] as const;

/** How boxes are wired so far: where each end goes and what its sleeve says, and the wires between terminals. */
export interface Wiring {
  into: Readonly<Record<string, string>>;
  marked: Readonly<Record<string, Wired["marked"]>>;
  links: readonly LinkWire[];
}

export const BARE: Wiring = { into: {}, marked: {}, links: [] };

export function endKey(place: string, leg: string, core: string): string {
  return `${place} ${leg} ${core}`;
}

/** Where an end may go in a box: its terminals, its connectors, or nowhere. */
export function targetsOf(box: WireBox): (readonly [string, string])[] {
  return [
    ...box.terminals.map((name) => [name, name] as const),
    ...LETTERS.slice(0, box.connectors).map((letter) => [letter, `connector ${letter}`] as const),
  ];
}

/** The wiring as it is sent: every end is said, those left off too. */
export function actOf(boxes: readonly WireBox[], wiring: Wiring): { wired: Wired[]; links: LinkWire[] } {
  const wired = boxes.flatMap((box) =>
    box.ends.map((end) => {
      const key = endKey(box.place, end.leg, end.core);
      return {
        place: box.place,
        leg: end.leg,
        core: end.core,
        into: wiring.into[key] ?? "",
        marked: wiring.marked[key] ?? null,
      };
    }),
  );
  return { wired, links: [...wiring.links] };
}

/** How many ends have been put somewhere. */
export function placed(boxes: readonly WireBox[], wiring: Wiring): number {
  return actOf(boxes, wiring).wired.filter((each) => each.into !== "").length;
}
