import { asRefused, Refused } from "../api/client";

/** How long to wait before asking again, in ms; after the last it is said that nobody knows. */
export const PAUSES = [300, 900, 2500];

/** Return an id that nobody else makes: what is sent twice under it is done once. */
export function newId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] ?? 0) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] ?? 0) & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join("-");
}

/** Whether an answer was lost: then it is not known whether the write was kept. */
export function isLost(refused: Refused): boolean {
  return refused.status === 0 || refused.status >= 500;
}

/** Writes that no answer came to, by what they write, with the ids they went under. */
const unanswered = new Map<string, string>();

/**
 * Send a write with an id made here. Where the answer is lost it is sent again under the same id, which finds out;
 * only when no answer comes at all is it said that it is not known. Done again by hand, the same write (`what` it
 * is, in full) goes under that id still, so that it is never done twice.
 */
export async function once<T>(
  what: readonly unknown[],
  send: (id: string) => Promise<T>,
  pauses: readonly number[] = PAUSES,
): Promise<T> {
  const key = JSON.stringify(what);
  const id = unanswered.get(key) ?? newId();
  for (let tries = 0; ; tries += 1) {
    try {
      const answer = await send(id);
      unanswered.delete(key);
      return answer;
    } catch (error) {
      const refused = asRefused(error);
      if (!isLost(refused)) {
        unanswered.delete(key);
        throw refused;
      }
      const pause = pauses[tries];
      if (pause === undefined) {
        unanswered.set(key, id);
        // A full disk says for itself that nothing was kept.
        throw refused.body.code === "full" ? refused : notKnown(refused);
      }
      await new Promise((go) => setTimeout(go, pause));
    }
  }
}

function notKnown(refused: Refused): Refused {
  return new Refused(refused.status, {
    code: "not-known",
    message:
      "No answer came, so it is not known whether this was saved. When the connection is back, do the same again: it is not done twice.",
    problems: [],
  });
}
