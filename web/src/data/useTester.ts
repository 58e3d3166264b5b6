import { useCallback, useEffect, useRef, useState } from "react";
import { api, ask } from "../api/client";
import { newId } from "./once";

/** Where a tester on this machine may listen; one that was set on this device comes first. */
function ports(): number[] {
  const set = Number(localStorage.getItem("lumbek.tester-port"));
  return set > 0 ? [set, 8431, 8432, 8433] : [8431, 8432, 8433];
}
const ANSWER_MS = 4000;

export interface TesterHello {
  name: string;
  serial: string;
  calibrated_until: string;
  battery: number;
  simulated: boolean;
}
export interface TesterValue {
  value?: number;
  beyond?: boolean;
  correct?: boolean;
  battery: number;
}
interface Reply extends Record<string, unknown> {
  says: string;
  id?: string | null;
  why?: string;
}

/** A tester spoken to over its own protocol (docs/formats/tester.md): found, hooked up to a circuit, asked to read. */
export function useTester(circuitId: string) {
  const socket = useRef<WebSocket>(undefined);
  const asked = useRef(new Map<string, (reply: Reply) => void>());
  const [hello, setHello] = useState<TesterHello>();
  const [trouble, setTrouble] = useState("");
  const ways = useRef<Record<string, Record<string, unknown>>>({});

  const say = useCallback(async (message: Record<string, unknown>): Promise<Reply> => {
    const open = socket.current;
    if (!open || open.readyState !== WebSocket.OPEN) throw new Error("The tester is not connected.");
    const id = newId();
    const reply = new Promise<Reply>((answer, fail) => {
      asked.current.set(id, answer);
      setTimeout(() => fail(new Error("The tester does not answer.")), ANSWER_MS);
    });
    open.send(JSON.stringify({ ...message, id }));
    const found = await reply.finally(() => asked.current.delete(id));
    if (found.says === "error") throw new Error(`The tester says: ${found.why ?? "no reason"}.`);
    return found;
  }, []);

  const hookUp = useCallback(async () => {
    const told = await ask(
      api.GET("/api/circuits/{circuit_id}/hook-up", { params: { path: { circuit_id: circuitId } } }),
    );
    ways.current = told.ways;
    await say({ say: "hook-up", circuit: told.circuit });
    await say({ say: "null-leads" });
  }, [circuitId, say]);

  async function connect(): Promise<void> {
    setTrouble("");
    for (const port of ports()) {
      const open = await opened(port);
      if (!open) continue;
      socket.current = open;
      open.onmessage = (event) => {
        const reply = JSON.parse(String(event.data)) as Reply;
        if (reply.id) asked.current.get(reply.id)?.(reply);
      };
      open.onclose = () => {
        setHello(undefined);
        socket.current = undefined;
      };
      try {
        const found = (await say({ say: "hello" })) as unknown as TesterHello;
        // It is shown as connected once it can be asked for readings.
        await hookUp();
        setHello(found);
      } catch (error) {
        setTrouble(error instanceof Error ? error.message : String(error));
      }
      return;
    }
    setTrouble("No tester is found on this machine.");
  }

  /** Take the reading of a place of the sheet, or one given as an instruction. */
  async function take(place: string | Record<string, unknown>): Promise<TesterValue | undefined> {
    setTrouble("");
    const way = typeof place === "string" ? ways.current[place] : place;
    if (!way) {
      setTrouble("This is not a reading that the tester takes.");
      return undefined;
    }
    try {
      const value = (await say({ say: "take", how: way })) as unknown as TesterValue;
      setHello((before) => before && { ...before, battery: value.battery });
      return value;
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : String(error));
      return undefined;
    }
  }

  const disconnect = useCallback(() => socket.current?.close(), []);
  useEffect(() => disconnect, [disconnect]);
  return { hello, trouble, connect, disconnect, take };
}

function opened(port: number): Promise<WebSocket | undefined> {
  return new Promise((found) => {
    const socket = new WebSocket(`ws://127.0.0.1:${port}`);
    socket.onopen = () => found(socket);
    socket.onerror = () => found(undefined);
  });
}
