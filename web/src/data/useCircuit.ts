import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, asRefused, Refused, type CircuitView, type Command, type Preview } from "../api/client";
import { keys } from "./keys";
import { newId, once } from "./once";

/** What happens when someone else saved first: theirs stands, mine is kept until I choose. */
export interface Conflict {
  message: string;
  /** The circuit as I saw it, and what I wanted done to it. */
  before: CircuitView;
  mine: Command[] | undefined;
  again: () => Promise<CircuitView | undefined>;
}

/** Commands tried out beside what stands: nothing of it is saved until it is kept. */
interface Trial {
  commands: Command[];
  shown: Preview | undefined;
}

const PREVIEW_MS = 60;

/** A circuit open for work: changed command by command, previewed while typing, undone and redone. */
export function useCircuit(circuitId: string | undefined) {
  const queries = useQueryClient();
  const query = useQuery({
    queryKey: keys.circuit(circuitId),
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}", { params: { path: { circuit_id: circuitId ?? "" } } })),
    enabled: circuitId !== undefined,
  });
  const [typed, setTyped] = useState<Preview>();
  const [refused, setRefused] = useState<Refused>();
  const [conflict, setConflict] = useState<Conflict>();
  const [saving, setSaving] = useState(0);
  const [trial, setTrial] = useState<Trial>();
  // Writes go out one after another, each on the version that the one before it made.
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const timer = useRef<number>(undefined);
  const asked = useRef(0);
  // How much had been asked when something was refused: what was asked before says nothing of it.
  const refusedAt = useRef(0);

  const standing = useCallback(() => queries.getQueryData<CircuitView>(keys.circuit(circuitId)), [queries, circuitId]);

  useEffect(() => () => clearTimeout(timer.current), []);

  function refuse(why: Refused) {
    refusedAt.current = asked.current;
    setRefused(why);
  }

  function write(send: (view: CircuitView, id: string) => Promise<CircuitView>, mine?: Command[]): Promise<CircuitView | undefined> {
    const run = async (): Promise<CircuitView | undefined> => {
      const before = standing();
      if (!before) return undefined;
      setSaving((count) => count + 1);
      try {
        const kept = await once(["change", circuitId, before.version, mine ?? newId()], (id) => send(before, id));
        queries.setQueryData(keys.circuit(circuitId), kept);
        asked.current += 1;
        setTyped(undefined);
        setRefused(undefined);
        void queries.invalidateQueries({ queryKey: keys.job(kept.job_id) });
        void queries.invalidateQueries({ queryKey: keys.sheet(kept.id) });
        return kept;
      } catch (error) {
        const why = asRefused(error);
        setTyped(undefined);
        if (why.status === 409) {
          await queries.refetchQueries({ queryKey: keys.circuit(circuitId) });
          setConflict({ message: why.body.message, before, mine, again: () => write(send, mine) });
        } else refuse(why);
        return undefined;
      } finally {
        setSaving((count) => count - 1);
      }
    };
    const next = line.current.then(run, run);
    line.current = next;
    return next;
  }

  const carryOut = (commands: Command[]) =>
    write(
      (view, id) =>
        ask(
          api.POST("/api/circuits/{circuit_id}/commands", {
            params: { path: { circuit_id: view.id } },
            body: { id, version: view.version, commands },
          }),
        ),
      commands,
    );

  /** Ask what would be said after these commands; the newest answer counts. */
  async function preview(commands: Command[]): Promise<Preview | undefined> {
    const view = standing();
    if (!view) return undefined;
    const ticket = (asked.current += 1);
    try {
      const shown = await ask(
        api.POST("/api/circuits/{circuit_id}/preview", { params: { path: { circuit_id: view.id } }, body: { commands } }),
      );
      if (ticket !== asked.current) return undefined;
      if (refusedAt.current < ticket) setRefused(undefined);
      return shown;
    } catch (error) {
      if (ticket === asked.current) refuse(asRefused(error));
      return undefined;
    }
  }

  async function tryOut(commands: Command[]) {
    const shown = await preview(commands);
    if (shown) setTrial({ commands, shown });
  }

  /** Carry out commands, or try them out while something is being tried. Whether they were kept is the answer. */
  async function command(...commands: Command[]): Promise<CircuitView | undefined> {
    clearTimeout(timer.current);
    if (!trial) return carryOut(commands);
    if (commands.some((each) => RUN.has(each.op))) {
      refuse(
        new Refused(0, { code: "trial", message: "Keep or drop what you are trying first: the run is changed for good.", problems: [] }),
      );
      return undefined;
    }
    await tryOut([...trial.commands, ...commands]);
    return undefined;
  }

  /** Judge what is still being typed. */
  function previewing(...commands: Command[]) {
    clearTimeout(timer.current);
    if (trial) return;
    timer.current = window.setTimeout(() => void preview(commands).then((shown) => shown && setTyped(shown)), PREVIEW_MS);
  }

  const layRun = (text: string, throughLeg?: string) =>
    write((view, id) =>
      ask(
        api.POST("/api/circuits/{circuit_id}/run", {
          params: { path: { circuit_id: view.id } },
          body: { id, version: view.version, text, through_leg: throughLeg ?? null },
        }),
      ),
    );

  const step = (way: "undo" | "redo") =>
    write((view, id) =>
      ask(
        api.POST(`/api/circuits/{circuit_id}/${way}`, {
          params: { path: { circuit_id: view.id } },
          body: { id, version: view.version },
        }),
      ),
    );

  async function keepTrial() {
    if (trial && (trial.commands.length === 0 || (await carryOut(trial.commands)))) setTrial(undefined);
  }

  /** Keep what I wanted as a circuit of its own: the one I saw, with my commands carried out on it. */
  async function copyOfMine() {
    if (!conflict) return;
    const { before, mine } = conflict;
    try {
      const name = `${before.design.name} (mine)`.slice(0, 80);
      const made = await once(["mine", circuitId, before.version], (id) =>
        ask(
          api.POST("/api/jobs/{job_id}/circuits", {
            params: { path: { job_id: before.job_id } },
            body: { id, design: { ...before.design, name } },
          }),
        ),
      );
      if (mine)
        await once(["mine-changed", made.id, mine], (id) =>
          ask(
            api.POST("/api/circuits/{circuit_id}/commands", {
              params: { path: { circuit_id: made.id } },
              body: { id, version: made.version, commands: mine },
            }),
          ),
        );
      await queries.invalidateQueries({ queryKey: keys.job(before.job_id) });
      setConflict(undefined);
    } catch (error) {
      refuse(asRefused(error));
    }
  }

  const shown = trial?.shown ?? typed;
  return {
    query,
    view: query.data,
    design: trial?.shown?.design ?? query.data?.design,
    result: shown?.result ?? query.data?.result,
    trial,
    startTrial: () => setTrial({ commands: [], shown: undefined }),
    tryOut,
    keepTrial,
    dropTrial: () => setTrial(undefined),
    layRun,
    previewed: !trial && typed !== undefined,
    refused,
    dismiss: () => setRefused(undefined),
    conflict,
    keepTheirs: () => setConflict(undefined),
    mineOverTheirs: () => {
      setConflict(undefined);
      void conflict?.again();
    },
    copyOfMine,
    saving: saving > 0,
    command,
    previewing,
    undo: () => step("undo"),
    redo: () => step("redo"),
  };
}

/** Commands that change the run itself; they are not tried out. */
const RUN: ReadonlySet<Command["op"]> = new Set(["add", "spur", "insert", "move", "remove", "join", "cut", "leave-dead"]);

export type CircuitWork = ReturnType<typeof useCircuit>;
