import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api, ask, asRefused, Refused, type CircuitView, type Command, type Preview } from "../api/client";
import { useInTurn } from "./inTurn";
import { keys } from "./keys";
import { once } from "./once";
import { onlyOn, settled as commandsOf, useWriting, type ToDo } from "./useWriting";

/** Commands tried out beside what stands: nothing of it is saved until it is kept. */
interface Trial {
  commands: Command[];
  shown: Preview | undefined;
  /** The version they were first tried on. */
  version: number;
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
  const [trial, showTrial] = useState<Trial>();
  // The trial as it is when a change of it has its turn: what is on the page is a question older.
  const tried = useRef<Trial>(undefined);
  const inTurn = useInTurn();
  const timer = useRef<number>(undefined);
  const asked = useRef(0);
  // How much had been asked when something was refused: what was asked before says nothing of it.
  const refusedAt = useRef(0);
  const params = { path: { circuit_id: circuitId ?? "" } };
  const writing = useWriting<CircuitView, Command>({
    key: keys.circuit(circuitId),
    carryOut: ({ version }, id, commands) =>
      ask(api.POST("/api/circuits/{circuit_id}/commands", { params, body: { id, version, commands } })),
    step: ({ version }, id, way) =>
      ask(api.POST(`/api/circuits/{circuit_id}/${way}`, { params, body: { id, version } })),
    stale: (kept) => [keys.job(kept.job_id), keys.sheet(kept.id), keys.places(kept.job_id)],
  });
  const { conflict } = writing;

  useEffect(() => () => clearTimeout(timer.current), []);

  function refuse(why: Refused) {
    refusedAt.current = asked.current;
    writing.refuse(why);
  }

  /** What was typed is kept, or not to be: what was said of it meanwhile is over. */
  async function settled(sent: Promise<CircuitView | undefined>): Promise<CircuitView | undefined> {
    const kept = await sent;
    if (kept) asked.current += 1;
    else refusedAt.current = asked.current;
    setTyped(undefined);
    return kept;
  }

  const carryOut = (doing: ToDo<CircuitView, Command>[]) => settled(writing.command(...doing));

  /** Ask what would be said after these commands; the newest answer counts. */
  async function preview(commands: Command[]): Promise<Preview | undefined> {
    const view = query.data;
    if (!view) return undefined;
    const ticket = (asked.current += 1);
    try {
      const shown = await ask(
        api.POST("/api/circuits/{circuit_id}/preview", {
          params: { path: { circuit_id: view.id } },
          body: { commands },
        }),
      );
      if (ticket !== asked.current) return undefined;
      if (refusedAt.current < ticket) writing.dismiss();
      return shown;
    } catch (error) {
      if (ticket === asked.current) refuse(asRefused(error));
      return undefined;
    }
  }

  function setTrial(next: Trial | undefined) {
    tried.current = next;
    showTrial(next);
  }

  async function tryOut(commands: Command[], version = query.data?.version ?? 0) {
    const shown = await preview(commands);
    if (shown) setTrial({ commands, shown, version });
  }

  /** Try more out beside what is tried already; what was dropped meanwhile is not begun again. */
  async function tryMore(doing: ToDo<CircuitView, Command>[]) {
    const { current: now } = tried;
    if (!now || !query.data) return;
    const commands = commandsOf(doing, { ...query.data, design: now.shown?.design ?? query.data.design });
    if (!commands.some((each) => RUN.has(each.op))) return tryOut([...now.commands, ...commands], now.version);
    refuse(
      new Refused(0, {
        code: "trial",
        message: "Keep or drop what you are trying first: the run is changed for good.",
        problems: [],
      }),
    );
  }

  /** Carry out commands, or try them out while something is being tried. Whether they were kept is the answer. */
  async function command(...doing: ToDo<CircuitView, Command>[]): Promise<CircuitView | undefined> {
    clearTimeout(timer.current);
    if (!trial) return carryOut(doing);
    await inTurn(() => tryMore(doing));
    return undefined;
  }

  /** Judge what is still being typed. */
  function previewing(...commands: Command[]) {
    clearTimeout(timer.current);
    if (trial) return;
    timer.current = window.setTimeout(
      () => void preview(commands).then((shown) => shown && setTyped(shown)),
      PREVIEW_MS,
    );
  }

  const layRun = (text: string, throughLeg?: string) =>
    settled(
      writing.write(({ version }, id) =>
        ask(
          api.POST("/api/circuits/{circuit_id}/run", {
            params,
            body: { id, version, text, through_leg: throughLeg ?? null },
          }),
        ),
      ),
    );

  /** Keep what is tried out, with all that was said of it until now. */
  const keepTrial = () =>
    inTurn(async () => {
      const { current: now } = tried;
      // A whole design that is taken must not take back what somebody changed since it was tried.
      const doing = now?.commands.map((each) => (each.op === "take" ? onlyOn(now.version, each) : each));
      if (doing && (doing.length === 0 || (await carryOut(doing)))) setTrial(undefined);
    });

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
      writing.keepTheirs();
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
    startTrial: () => setTrial({ commands: [], shown: undefined, version: query.data?.version ?? 0 }),
    tryOut: (commands: Command[]) => tryOut(commands),
    keepTrial,
    dropTrial: () => {
      // What is still on its way says nothing any more.
      asked.current += 1;
      setTrial(undefined);
    },
    layRun,
    previewed: !trial && typed !== undefined,
    refused: writing.refused,
    dismiss: writing.dismiss,
    conflict,
    keepTheirs: writing.keepTheirs,
    mineOverTheirs: writing.mineOverTheirs,
    copyOfMine,
    saving: writing.saving,
    command,
    previewing,
    undo: () => settled(writing.undo()),
    redo: () => settled(writing.redo()),
  };
}

/** Commands that change the run itself; they are not tried out. */
const RUN: ReadonlySet<Command["op"]> = new Set([
  "add",
  "spur",
  "insert",
  "move",
  "remove",
  "join",
  "cut",
  "leave-dead",
]);

export type CircuitWork = ReturnType<typeof useCircuit>;
