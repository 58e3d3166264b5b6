import { useState } from "react";

/**
 * What is saved, with what has been said of it and is still on its way: who says two things quickly means both.
 *
 * `upToDate` is whether all that is shown has been worked out from what is saved; until then what was said stands.
 */
export function useSaid<T extends object>(saved: T, send: (whole: T) => Promise<unknown>, upToDate = true) {
  const [said, setSaid] = useState<Partial<T>>({});
  const [sending, setSending] = useState(0);
  const pending: Partial<T> = sending === 0 && upToDate ? {} : said;
  async function say(more: Partial<T>) {
    const now = { ...pending, ...more };
    setSaid(now);
    setSending((count) => count + 1);
    const kept = await send({ ...saved, ...now });
    setSending((count) => count - 1);
    // What was refused is not so.
    if (!kept) setSaid({});
  }
  return { whole: { ...saved, ...pending }, pending, say };
}
