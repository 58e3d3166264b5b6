import { useEffect, useRef, useState } from "react";
import { asRefused, Refused, type ErrorBody } from "../api/client";

interface Props {
  href: string;
  words: string;
  /** What a test knows it by. */
  name: string;
  className?: string;
}

/** A PDF, made when it is asked for: says that it is being made, for how long already, and can be stopped. */
export function MakePdf({ href, words, name, className = "" }: Props) {
  const [making, setMaking] = useState<AbortController>();
  const [seconds, setSeconds] = useState(0);
  const [refused, setRefused] = useState<Refused>();
  const last = useRef<AbortController>(undefined);
  useEffect(() => {
    if (!making) return undefined;
    const timer = window.setInterval(() => setSeconds((before) => before + 1), 1000);
    return () => window.clearInterval(timer);
  }, [making]);
  // Whoever leaves the page waits no more, and the server stops making it.
  useEffect(() => () => last.current?.abort(), []);

  async function make() {
    const stop = new AbortController();
    last.current = stop;
    setMaking(stop);
    setSeconds(0);
    setRefused(undefined);
    try {
      const answer = await fetch(href, { signal: stop.signal });
      if (!answer.ok) throw new Refused(answer.status, (await answer.json()) as ErrorBody);
      keep(await answer.blob(), nameIn(answer.headers.get("content-disposition") ?? ""));
    } catch (error) {
      if (!stop.signal.aborted) setRefused(asRefused(error));
    } finally {
      setMaking(undefined);
    }
  }

  return (
    <span className="inline-flex items-center gap-1">
      <button
        className={`btn ${className}`}
        data-download={name}
        data-href={href}
        aria-busy={making !== undefined}
        disabled={making !== undefined}
        onClick={() => void make()}
      >
        {making ? `Making it… ${String(seconds)} s` : words}
      </button>
      {making && (
        <button className="btn btn-ghost btn-sm" onClick={() => making.abort()}>
          Stop
        </button>
      )}
      {refused && (
        <span role="alert" className="text-sm font-semibold text-error">
          {refused.body.message}
        </span>
      )}
    </span>
  );
}

/** The name that the server gives a file, in letters of any script where it says so. */
export function nameIn(disposition: string): string {
  const wide = /filename\*=UTF-8''([^;]+)/.exec(disposition)?.[1];
  return wide === undefined ? (/filename="([^"]+)"/.exec(disposition)?.[1] ?? "lumbek.pdf") : decodeURIComponent(wide);
}

function keep(file: Blob, name: string) {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(file);
  link.download = name;
  link.click();
  URL.revokeObjectURL(link.href);
}
