import type { Item, Sheet, Verdict } from "../../api/client";
import { placeOf, type ReadingRecord, type Waiting } from "../../data/outbox";
import type { Entry } from "../../data/useSheet";
import type { State } from "../../parts/verdict";

/** A sheet in work: what waits on this device, which place is in hand, and what is done with an entry. */
export interface SheetProps {
  sheet: Sheet;
  waiting: Map<string, Waiting<ReadingRecord>>;
  chosen: string | undefined;
  onChoose: (key: string) => void;
  onEnter: (entry: Entry) => void;
}

/** What a place is known by, here and among what waits on this device. */
export function keyOf(item: Pick<Item, "quantity" | "point">): string {
  return placeOf(item);
}

/** Whether nothing has been entered at a place, neither a reading nor why there is none. */
export function isEmpty(item: Item, waiting: SheetProps["waiting"]): boolean {
  return !item.reading && !item.aside && !waiting.has(keyOf(item));
}

/** Whether live tests are closed: dead ones are missing or fail, and no reason is on record. */
export function isShut(sheet: Sheet): boolean {
  return sheet.waits_for.length > 0 && sheet.reason === "";
}

/** How readings stand together, by how many there are. */
export function stateOfReadings(taken: number, verdict: Verdict, cautions: number): State {
  if (taken === 0) return "not-applicable";
  return verdict === "pass" && cautions > 0 ? "mind" : verdict;
}
