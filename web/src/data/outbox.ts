import { useSyncExternalStore } from "react";
import type { FoundMade, InspectionSaid, Me, ReadingTaken, Shown, Tick } from "../api/client";
import { dropBlob, keepBlob } from "./blobs";
import { newId } from "./once";

/** A reading, of a circuit or of a job whole. */
export interface ReadingRecord {
  kind: "reading";
  of: "circuit" | "job";
  reading: ReadingTaken;
}

/** What was found on a job: a board traced, cables belled out, a fault. */
export interface FoundRecord {
  kind: "found";
  found: FoundMade;
}

/** A photo, with what it shows; the picture itself lies beside it under its id. */
export interface PhotoRecord {
  kind: "photo";
  shown: Shown;
  note: string;
  takenAt: string;
  bytes: number;
}

/** What somebody says on an inspection: a finding, items, an opened accessory, a task. */
export interface SaidRecord {
  kind: "said";
  said: InspectionSaid;
  saidAt: string;
}

/** Whether something said is of the work on site: a step, hours, what was used. */
export function isOfTheWork({ record }: InspectionSaid): boolean {
  return record === "step" || record === "worked" || record === "used";
}

/** A mark of the plan that was made on the wall, or could not be: it is ticked on whatever stands by then. */
export interface TickRecord {
  kind: "tick";
  tick: Tick;
}

/** Anything that is only ever added: taken on the spot, and sent when there is a signal. */
export type FieldRecord = ReadingRecord | FoundRecord | PhotoRecord | SaidRecord | TickRecord;

/** A record that has not reached the server: kept on this device until it has, under its own id. */
export type Waiting<Record extends FieldRecord = FieldRecord> = Record & {
  id: string;
  /** What it is added to: a circuit, or a job. */
  about: string;
  /** The id of whose it is: another person who signs in here does not send it. */
  by: string;
  /** Why the server would not have it; then it waits for somebody to look. */
  trouble?: string;
};

/** More is not kept on a device: by then somebody has to find a signal. */
export const MOST = 500;
export const MOST_BYTES = 80_000_000;

const KEY = "lumbek.outbox";
const listeners = new Set<() => void>();
let held: readonly Waiting[] | undefined;

/** Everything that waits, the oldest first. */
export function waiting(): readonly Waiting[] {
  held ??= read();
  return held;
}

function read(): readonly Waiting[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(KEY) ?? "[]");
    return Array.isArray(found) ? found.map(broughtForward) : [];
  } catch {
    return [];
  }
}

/** Readings were all that waited once: they said no kind. */
function broughtForward(entry: Waiting | Omit<Waiting<ReadingRecord>, "kind">): Waiting {
  return "kind" in entry ? entry : { ...entry, kind: "reading" };
}

function write(change: (queue: readonly Waiting[]) => readonly Waiting[]): void {
  // Read anew: another tab may have added to it.
  held = change(read());
  localStorage.setItem(KEY, JSON.stringify(held));
  listeners.forEach((tell) => tell());
}

/**
 * Put a record in, before anything is sent: from here on it is not lost. A reading that the server would not have is
 * taken out by a later one for its place. Throws where the device will not keep it.
 */
export function putIn<Record extends FieldRecord>(
  entry: Record & { about: string; by: string },
  id = newId(),
): Waiting<Record> {
  const added = { ...entry, id };
  write((queue) => {
    const stands = queue.filter((each) => each.trouble === undefined || !isSamePlace(each, added));
    const bytes = [...stands, added].reduce((sum, each) => sum + (each.kind === "photo" ? each.bytes : 0), 0);
    if (stands.length >= MOST || bytes > MOST_BYTES)
      throw new Error("So much waits on this device that it keeps no more: find a signal first.");
    return [...stands, added];
  });
  return added;
}

/** Put a photo in: the picture first, so that nothing waits that is not there. */
export async function putPhotoIn(
  entry: Omit<PhotoRecord, "kind" | "bytes"> & { about: string; by: string },
  picture: Blob,
): Promise<void> {
  const id = newId();
  await keepBlob(id, picture);
  try {
    putIn({ ...entry, kind: "photo", bytes: picture.size }, id);
  } catch (error) {
    await dropBlob(id);
    throw error;
  }
}

function isSamePlace(one: Waiting, other: Waiting): boolean {
  if (one.kind !== "reading" || other.kind !== "reading") return false;
  return one.by === other.by && one.about === other.about && placeOf(one.reading) === placeOf(other.reading);
}

/** The record that is sent next: in the order they were made, but no photo keeps a figure waiting. */
export function nextOf(by: string): Waiting | undefined {
  const mine = waiting().filter((each) => each.by === by && each.trouble === undefined);
  return mine.find((each) => each.kind !== "photo") ?? mine[0];
}

/** Take out what the server has, or what somebody throws away. */
export function takeOut(id: string): void {
  const gone = waiting().find((each) => each.id === id);
  write((queue) => queue.filter((each) => each.id !== id));
  // A picture that cannot be let go of only takes room.
  if (gone?.kind === "photo") void dropBlob(id).catch(() => undefined);
}

/** Note why the server would not have it. */
export function noteTrouble(id: string, trouble: string): void {
  write((queue) => queue.map((each) => (each.id === id ? { ...each, trouble } : each)));
}

/** Send again what the server would not have: what it asked for first may be there by now. */
export function sendAgain(id: string): void {
  write((queue) =>
    queue.map((each) => {
      if (each.id !== id) return each;
      const again = { ...each };
      delete again.trouble;
      return again;
    }),
  );
}

/** Give to a person what waits under their name: what was kept before a person was known by an id. */
export function adopt(me: Pick<Me, "id" | "name" | "firm">): void {
  const before = `${me.name}, ${me.firm}`;
  if (waiting().some((each) => each.by === before))
    write((queue) => queue.map((each) => (each.by === before ? { ...each, by: me.id } : each)));
}

/** The place that a reading is for: a later one for the same place stands instead. */
export function placeOf(
  reading: Pick<ReadingTaken, "quantity"> & { point?: string | null; test?: string | null },
): string {
  return `${reading.quantity}:${reading.test ?? reading.point ?? ""}`;
}

function subscribe(tell: () => void): () => void {
  const changed = (event: StorageEvent) => {
    if (event.key !== KEY) return;
    held = undefined;
    tell();
  };
  listeners.add(tell);
  addEventListener("storage", changed);
  return () => {
    listeners.delete(tell);
    removeEventListener("storage", changed);
  };
}

/** What waits on this device, as it changes, also by another tab. */
export function useWaiting(): readonly Waiting[] {
  return useSyncExternalStore(subscribe, waiting);
}
