import { useQueryClient, type QueryKey } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { asRefused, type Refused } from "../api/client";
import { newId, once } from "./once";

/** A document as the server answers with it: on which version, and whether there is a way back or forth. */
export interface Versioned {
  version: number;
  can_undo: boolean;
  can_redo: boolean;
}

/** One kind of document: where it is kept here, how it is written, and what else is stale when it was. */
export interface Written<View extends Versioned, Doing> {
  key: QueryKey;
  carryOut: (seen: View, id: string, doing: Doing[]) => Promise<View>;
  step: (seen: View, id: string, way: "undo" | "redo") => Promise<View>;
  stale: (kept: View) => readonly QueryKey[];
}

/** Somebody else saved first: theirs stands, mine is kept until one of the two is chosen. */
export interface Conflict<View, Doing> {
  message: string;
  /** The document as I saw it, and what I wanted done to it. */
  before: View;
  mine: Doing[] | undefined;
  again: () => Promise<View | undefined>;
}

/** What a page needs to know of a write under way, whatever is written. */
export interface Writing<View extends Versioned, Doing> {
  /** Send a write of another sort than commands; `mine` is what it does, where that can be said. */
  write: (send: (seen: View, id: string) => Promise<View>, mine?: Doing[]) => Promise<View | undefined>;
  command: (...doing: Doing[]) => Promise<View | undefined>;
  undo: () => Promise<View | undefined>;
  redo: () => Promise<View | undefined>;
  refused: Refused | undefined;
  refuse: (why: Refused | undefined) => void;
  dismiss: () => void;
  conflict: Conflict<View, Doing> | undefined;
  keepTheirs: () => void;
  mineOverTheirs: () => void;
  saving: boolean;
}

/**
 * The one way a document is written from a page: command by command, one after another, each on the version that the
 * one before it made; sent once, undone and redone from what the server keeps.
 */
export function useWriting<View extends Versioned, Doing>(document: Written<View, Doing>): Writing<View, Doing> {
  const queries = useQueryClient();
  const [refused, setRefused] = useState<Refused>();
  const [conflict, setConflict] = useState<Conflict<View, Doing>>();
  const [saving, setSaving] = useState(0);
  const line = useRef<Promise<unknown>>(Promise.resolve());

  function write(send: (seen: View, id: string) => Promise<View>, mine?: Doing[]): Promise<View | undefined> {
    const run = async (): Promise<View | undefined> => {
      const before = queries.getQueryData<View>(document.key);
      if (!before) return undefined;
      setSaving((count) => count + 1);
      try {
        const kept = await once([document.key, before.version, mine ?? newId()], (id) => send(before, id));
        queries.setQueryData(document.key, kept);
        setRefused(undefined);
        for (const queryKey of document.stale(kept)) void queries.invalidateQueries({ queryKey });
        return kept;
      } catch (error) {
        const why = asRefused(error);
        if (why.status === 409) {
          await queries.refetchQueries({ queryKey: document.key, exact: true });
          setConflict({ message: why.body.message, before, mine, again: () => write(send, mine) });
        } else setRefused(why);
        return undefined;
      } finally {
        setSaving((count) => count - 1);
      }
    };
    const next = line.current.then(run, run);
    line.current = next;
    return next;
  }

  const step = (way: "undo" | "redo") => write((seen, id) => document.step(seen, id, way));
  const dismiss = useCallback(() => setRefused(undefined), []);
  return {
    write,
    command: (...doing) => write((seen, id) => document.carryOut(seen, id, doing), doing),
    undo: () => step("undo"),
    redo: () => step("redo"),
    refused,
    refuse: setRefused,
    dismiss,
    conflict,
    keepTheirs: () => setConflict(undefined),
    mineOverTheirs: () => {
      setConflict(undefined);
      void conflict?.again();
    },
    saving: saving > 0,
  };
}
