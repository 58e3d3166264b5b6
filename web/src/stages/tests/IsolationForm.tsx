import { useState } from "react";
import type { Item, ReadingTaken } from "../../api/client";
import type { ReadingRecord, Waiting } from "../../data/outbox";
import type { Entry } from "../../data/useSheet";
import { withOrWithout } from "../../lists";
import { timeOf } from "../../numbers";
import { VerdictMark } from "../../parts/verdict";
import { OnDevice } from "./ReadingRow";
import { Refused } from "../../app/Refused";

type Isolation = NonNullable<ReadingTaken["isolation"]>;
type IsolatedPair = NonNullable<Isolation["pairs"]>[number];
const NOTHING: Isolation = { device: "", proved_before: false, pairs: [], proved_after: false, lock: "", key_with: "" };

interface Props {
  item: Item;
  waiting: Waiting<ReadingRecord> | undefined;
  /** What is tested dead, pair by pair. */
  pairs: readonly IsolatedPair[];
  onEnter: (entry: Entry) => void;
}

/** The record of safe isolation, step by step as it is done; it stands when every step is ticked. */
export function IsolationForm({ item, waiting, pairs, onEnter }: Props) {
  const stands = waiting?.reading ?? item.reading;
  const [open, setOpen] = useState(stands?.correct !== true);
  const [made, setMade] = useState<Isolation>(NOTHING);
  const has = made.pairs;
  const proved = made.proved_before && made.proved_after && pairs.every((pair) => has.includes(pair));
  const set = (change: Partial<Isolation>) => setMade({ ...made, ...change });
  if (stands?.correct && !open)
    return (
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 px-1 py-2" data-isolation="proved">
        {waiting ? <OnDevice trouble={waiting.trouble} /> : <VerdictMark state="pass" size={28} />}
        <span className="text-lg font-semibold">
          {waiting?.trouble === undefined ? "Proved dead" : "Not on record"}
        </span>
        <span>
          {stands.isolation?.lock && `lock ${stands.isolation.lock}`}
          {stands.isolation?.key_with && `, key with ${stands.isolation.key_with}`}
          {item.reading && !waiting && ` · ${item.reading.by}, ${timeOf(item.reading.at)}`}
        </span>
        <button className="btn btn-sm ml-auto" onClick={() => setOpen(true)}>
          Isolate again
        </button>
        <Refused waiting={waiting} />
      </div>
    );
  return (
    <form
      className="flex flex-col gap-1 px-1 py-2"
      data-isolation="open"
      onSubmit={(event) => {
        event.preventDefault();
        if (!proved) return;
        onEnter({ quantity: "isolation", correct: true, isolation: made });
        setOpen(false);
      }}
    >
      <ol className="flex flex-col gap-1.5">
        <Step words="Identified, permission given, switched off">
          <input
            name="Isolated at"
            aria-label="Isolated at"
            placeholder="device"
            className="input w-40"
            maxLength={80}
            value={made.device}
            onChange={(event) => set({ device: event.target.value })}
          />
        </Step>
        <Step words="Locked and tagged">
          <input
            name="Lock number"
            aria-label="Lock number"
            placeholder="lock no."
            className="input w-26"
            maxLength={40}
            value={made.lock}
            onChange={(event) => set({ lock: event.target.value })}
          />
          <input
            name="Key with"
            aria-label="Key with"
            placeholder="key with"
            className="input w-30"
            maxLength={80}
            value={made.key_with}
            onChange={(event) => set({ key_with: event.target.value })}
          />
        </Step>
        <Step words="Indicator proved on a known source">
          <Check
            name="Proved before"
            checked={made.proved_before}
            onChange={(proved_before) => set({ proved_before })}
          />
        </Step>
        <Step words="Every pair tested: dead">
          <span className="flex flex-wrap gap-1">
            {pairs.map((pair) => (
              <button
                key={pair}
                type="button"
                aria-pressed={has.includes(pair)}
                className={`btn min-w-14 px-2 ${has.includes(pair) ? "btn-success" : "bg-base-100"}`}
                onClick={() => set({ pairs: withOrWithout(has, pair, !has.includes(pair)) })}
              >
                {pair.replace("-", "–")}
              </button>
            ))}
          </span>
        </Step>
        <Step words="Indicator proved again">
          <Check name="Proved after" checked={made.proved_after} onChange={(proved_after) => set({ proved_after })} />
        </Step>
      </ol>
      <button className="btn btn-lg btn-primary mt-1 self-start" disabled={!proved}>
        Proved dead
      </button>
    </form>
  );
}

function Step({ words, children }: { words: string; children: React.ReactNode }) {
  return (
    <li className="grid items-center gap-x-3 gap-y-1 border-b border-base-300/60 py-1 sm:grid-cols-[1fr_auto]">
      <span>{words}</span>
      <span className="flex flex-wrap justify-end gap-1">{children}</span>
    </li>
  );
}

function Check({ name, checked, onChange }: { name: string; checked: boolean; onChange: (checked: boolean) => void }) {
  return (
    <button
      type="button"
      aria-label={name}
      aria-pressed={checked}
      className={`btn min-w-24 ${checked ? "btn-success" : "bg-base-100"}`}
      onClick={() => onChange(!checked)}
    >
      {checked ? "proved" : "not yet"}
    </button>
  );
}
