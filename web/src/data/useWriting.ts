import { useQueryClient, type QueryKey } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { asRefused, Refused } from "../api/client";
import { useInTurn } from "./inTurn";
import { newId, once } from "./once";

/** A document as the server answers with it, and on which version. */
export interface Versioned {
  version: number;
}

/**
 * Something to do to a document; or how it follows from what stands when its turn comes. What puts part of a document
 * down as a whole is said so: made of what was on the page, it would take back what was said just before it. It reads
 * nothing of the event that asked for it, which is over by then.
 */
export type ToDo<View, Doing extends object> = Doing | ((now: View) => readonly Doing[]);

/** One kind of document: where it is kept here, how it is written, and what else is stale when it was. */
export interface Written<View extends Versioned, Doing extends object> {
  key: QueryKey;
  carryOut: (seen: View, id: string, doing: Doing[]) => Promise<View>;
  /** Going back or forth, where there is a way. */
  step?: (seen: View, id: string, way: "undo" | "redo") => Promise<View>;
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
export interface Writing<View extends Versioned, Doing extends object> {
  /** Send a write of another sort than commands. */
  write: (send: (seen: View, id: string) => Promise<View>) => Promise<View | undefined>;
  command: (...doing: ToDo<View, Doing>[]) => Promise<View | undefined>;
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
export function useWriting<View extends Versioned, Doing extends object>(
  document: Written<View, Doing>,
): Writing<View, Doing> {
  const queries = useQueryClient();
  const [refused, setRefused] = useState<Refused>();
  const [conflict, setConflict] = useState<Conflict<View, Doing>>();
  const [saving, setSaving] = useState(0);
  const inTurn = useInTurn();

  function write(
    send: (seen: View, id: string, mine: Doing[]) => Promise<View>,
    doing?: ToDo<View, Doing>[],
  ): Promise<View | undefined> {
    const run = async (): Promise<View | undefined> => {
      const before = queries.getQueryData<View>(document.key);
      if (!before) return undefined;
      let mine: Doing[] | undefined;
      setSaving((count) => count + 1);
      try {
        mine = doing && settled(doing, before);
        if (mine?.length === 0) return before;
        const kept = await once([document.key, before.version, mine ?? newId()], (id) => send(before, id, mine ?? []));
        queries.setQueryData(document.key, kept);
        setRefused(undefined);
        for (const queryKey of document.stale(kept)) void queries.invalidateQueries({ queryKey });
        return kept;
      } catch (error) {
        const why = asRefused(error);
        if (why.status === 409) {
          await queries.refetchQueries({ queryKey: document.key, exact: true });
          setConflict({ message: why.body.message, before, mine, again: () => write(send, doing) });
        } else setRefused(why);
        return undefined;
      } finally {
        setSaving((count) => count - 1);
      }
    };
    return inTurn(run);
  }

  const step = async (way: "undo" | "redo") => {
    const { step: go } = document;
    return go && write((seen, id) => go(seen, id, way));
  };
  const dismiss = useCallback(() => setRefused(undefined), []);
  return {
    write: (send) => write(send),
    command: (...doing) => write((seen, id, mine) => document.carryOut(seen, id, mine), doing),
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

/** What is to be done to a document as it stands now. */
export function settled<View, Doing extends object>(doing: readonly ToDo<View, Doing>[], now: View): Doing[] {
  return doing.flatMap((each) => (typeof each === "function" ? each(now) : [each]));
}

/** What was worked out for one version of a document and is put down as a whole: on that version, and on no other. */
export function onlyOn<const Doing extends object>(version: number, ...doing: Doing[]): (now: Versioned) => Doing[] {
  return (now) => {
    if (now.version === version) return doing;
    throw new Refused(0, {
      code: "worked-out-before",
      message: "This was worked out before the last change, and would take that back: look at what it is now.",
      problems: [],
    });
  };
}
