import { useRef } from "react";

/** Let one thing after another be done: each begins when the one before it has ended, well or not. */
export function useInTurn() {
  const line = useRef<Promise<unknown>>(Promise.resolve());
  return <T>(run: () => Promise<T>): Promise<T> => {
    const next = line.current.then(run, run);
    line.current = next;
    return next;
  };
}
