import { useSyncExternalStore } from "react";
import type { Me, ReadingTaken } from "../api/client";
import { newId } from "./once";

/** A reading that was taken and has not reached the server: kept on this device until it has, under its own id. */
export interface Waiting {
  id: string;
  /** What it is read of: a circuit, or a job whole. */
  of: "circuit" | "job";
  about: string;
  reading: ReadingTaken;
  /** Whose it is: another person who signs in here does not send it. */
  by: string;
  /** Why the server would not have it; then it waits for somebody to look. */
  trouble?: string;
}

/** Whose a reading is, on a device that several may use. */
export function ownerOf(me: Pick<Me, "name" | "firm">): string {
  return `${me.name}, ${me.firm}`;
}

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
    return Array.isArray(found) ? (found as Waiting[]) : [];
  } catch {
    return [];
  }
}

function write(change: (queue: readonly Waiting[]) => readonly Waiting[]): void {
  // Read anew: another tab may have added to it.
  held = change(read());
  localStorage.setItem(KEY, JSON.stringify(held));
  listeners.forEach((tell) => tell());
}

/**
 * Put a reading in, before anything is sent: from here on it is not lost. One that the server would not have is
 * taken out by a later one for its place. Throws where the device will not keep it.
 */
export function putIn(entry: Omit<Waiting, "id" | "trouble">): Waiting {
  const added = { ...entry, id: newId() };
  const stands = (each: Waiting) => each.trouble === undefined || each.by !== entry.by || each.about !== entry.about || placeOf(each.reading) !== placeOf(entry.reading);
  write((queue) => [...queue.filter(stands), added]);
  return added;
}

/** Take out what the server has, or what somebody throws away. */
export function takeOut(id: string): void {
  write((queue) => queue.filter((each) => each.id !== id));
}

/** Note why the server would not have it. */
export function noteTrouble(id: string, trouble: string): void {
  write((queue) => queue.map((each) => (each.id === id ? { ...each, trouble } : each)));
}

/** Send again what the server would not have: what it asked for first may be there by now. */
export function sendAgain(id: string): void {
  write((queue) => queue.map((each) => (each.id === id ? { ...each, trouble: undefined } : each)));
}

/** The place that a reading is for: a later one for the same place stands instead. */
export function placeOf(reading: Pick<ReadingTaken, "quantity"> & { point?: string | null; test?: string | null }): string {
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
