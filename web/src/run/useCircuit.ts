import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask, asRefused, Refused, type Circuit, type CircuitResult, type CircuitView, type Edit } from "../api/client";

/** What happens when someone else saved first: their circuit stands, mine is kept until I choose. */
export interface Conflict {
  message: string;
  mine: Circuit | undefined;
  again: () => Promise<CircuitView | undefined>;
}

const PREVIEW_MS = 60;

/** A circuit open for work: saved edit by edit, previewed while typing, undone and redone. */
export function useCircuit(circuitId: string | undefined) {
  const queries = useQueryClient();
  const key = ["circuit", circuitId];
  const query = useQuery({
    queryKey: key,
    queryFn: () => ask(api.GET("/api/circuits/{circuit_id}", { params: { path: { circuit_id: circuitId ?? "" } } })),
    enabled: circuitId !== undefined,
  });
  const [preview, setPreview] = useState<CircuitResult>();
  const [refused, setRefused] = useState<Refused>();
  const [conflict, setConflict] = useState<Conflict>();
  const [saving, setSaving] = useState(0);
  // A design tried out beside the one that stands: nothing of it is saved until it is kept.
  const [trial, setTrial] = useState<{ design: Circuit; result: CircuitResult | undefined }>();
  const [past, setPast] = useState<Circuit[]>([]);
  const [future, setFuture] = useState<Circuit[]>([]);
  // Writes go out one after another, each on the version that the one before it made.
  const line = useRef<Promise<unknown>>(Promise.resolve());
  const timer = useRef<number>(undefined);
  const asked = useRef(0);

  const standing = useCallback(() => queries.getQueryData<CircuitView>(["circuit", circuitId]), [queries, circuitId]);

  useEffect(() => () => clearTimeout(timer.current), []);

  function write(
    send: (view: CircuitView) => Promise<CircuitView>,
    mine?: (view: CircuitView) => Circuit,
  ): Promise<CircuitView | undefined> {
    const run = async (): Promise<CircuitView | undefined> => {
      const before = standing();
      if (!before) return undefined;
      setSaving((count) => count + 1);
      try {
        const kept = await send(before);
        queries.setQueryData(key, kept);
        asked.current += 1;
        setPreview(undefined);
        setRefused(undefined);
        void queries.invalidateQueries({ queryKey: ["job", kept.job_id] });
        void queries.invalidateQueries({ queryKey: ["sheet", kept.id] });
        return kept;
      } catch (error) {
        const why = asRefused(error);
        setPreview(undefined);
        if (why.status === 409) {
          const lost = mine?.(before);
          await queries.refetchQueries({ queryKey: key });
          setConflict({ message: why.body.message, mine: lost, again: () => write(send, mine) });
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

  const put = (design: (view: CircuitView) => Circuit) =>
    write(
      (view) =>
        ask(
          api.PUT("/api/circuits/{circuit_id}", {
            params: { path: { circuit_id: view.id } },
            body: { version: view.version, design: design(view) },
          }),
        ),
      design,
    );

  function remember(before: Circuit | undefined) {
    if (!before) return;
    setPast((stack) => [...stack.slice(-99), before]);
    setFuture([]);
  }

  async function tryOut(design: Circuit) {
    setTrial((held) => ({ design, result: held?.result }));
    const view = standing();
    if (!view) return;
    const ticket = (asked.current += 1);
    try {
      const result = await ask(
        api.POST("/api/circuits/{circuit_id}/evaluate", { params: { path: { circuit_id: view.id } }, body: design }),
      );
      if (ticket === asked.current) setTrial({ design, result });
      setRefused(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }

  async function keepTrial() {
    const design = trial?.design;
    if (!design) return;
    const before = standing()?.design;
    if (await put(() => design)) {
      remember(before);
      setTrial(undefined);
    }
  }

  async function change(make: (design: Circuit) => Circuit) {
    clearTimeout(timer.current);
    if (trial) {
      await tryOut(make(trial.design));
      return undefined;
    }
    const before = standing()?.design;
    const kept = await put((view) => make(view.design));
    if (kept) remember(before);
    return kept;
  }

  async function layRun(text: string, throughLeg?: string) {
    const before = standing()?.design;
    const kept = await write((view) =>
      ask(api.POST("/api/circuits/{circuit_id}/run", { params: { path: { circuit_id: view.id } }, body: { version: view.version, text, through_leg: throughLeg ?? null } })),
    );
    if (kept) remember(before);
    return kept;
  }

  async function edit(op: Edit) {
    if (trial) {
      setRefused(
        new Refused(0, { code: "trial", message: "Keep or drop what you are trying first: the run is changed for good.", problems: [] }),
      );
      return undefined;
    }
    const before = standing()?.design;
    const kept = await write((view) =>
      ask(
        api.POST("/api/circuits/{circuit_id}/edits", {
          params: { path: { circuit_id: view.id } },
          body: { version: view.version, edit: op },
        }),
      ),
    );
    if (kept) remember(before);
    return kept;
  }

  async function step(from: Circuit[], take: typeof setPast, give: typeof setFuture) {
    const target = from.at(-1);
    const before = standing()?.design;
    if (!target || !before) return;
    if (await put(() => target)) {
      take((stack) => stack.slice(0, -1));
      give((stack) => [...stack, before]);
    }
  }

  /** Judge a design that is still being typed; the newest answer counts. */
  function previewing(make: (design: Circuit) => Circuit) {
    clearTimeout(timer.current);
    if (trial) return;
    timer.current = window.setTimeout(() => {
      const view = standing();
      if (!view) return;
      const ticket = (asked.current += 1);
      ask(api.POST("/api/circuits/{circuit_id}/evaluate", { params: { path: { circuit_id: view.id } }, body: make(view.design) }))
        .then((result) => {
          if (ticket === asked.current) {
            setPreview(result);
            setRefused(undefined);
          }
        })
        .catch((error: unknown) => {
          if (ticket === asked.current) setRefused(asRefused(error));
        });
    }, PREVIEW_MS);
  }

  async function copyOfMine(mine: Circuit) {
    const view = standing();
    if (!view) return;
    try {
      const name = `${mine.name} (mine)`.slice(0, 80);
      await ask(api.POST("/api/jobs/{job_id}/circuits", { params: { path: { job_id: view.job_id } }, body: { ...mine, name } }));
      await queries.invalidateQueries({ queryKey: ["job", view.job_id] });
      setConflict(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }

  return {
    query,
    view: query.data,
    design: trial?.design ?? query.data?.design,
    trial,
    startTrial: () => {
      const view = standing();
      if (view) setTrial({ design: view.design, result: view.result });
    },
    tryOut,
    keepTrial,
    dropTrial: () => setTrial(undefined),
    layRun,
    result: trial?.result ?? preview ?? query.data?.result,
    previewed: preview !== undefined,
    refused,
    dismiss: () => setRefused(undefined),
    conflict,
    keepTheirs: () => {
      // Mine stays one redo away.
      if (conflict?.mine) setFuture((stack) => [...stack, ...(conflict.mine ? [conflict.mine] : [])]);
      setConflict(undefined);
    },
    mineOverTheirs: () => {
      setConflict(undefined);
      const theirs = standing()?.design;
      void conflict?.again().then((kept) => {
        if (kept) remember(theirs);
      });
    },
    copyOfMine,
    saving: saving > 0,
    change,
    edit,
    previewing,
    undo: () => step(past, setPast, setFuture),
    redo: () => step(future, setFuture, setPast),
    canUndo: past.length > 0,
    canRedo: future.length > 0,
  };
}

export type CircuitWork = ReturnType<typeof useCircuit>;
