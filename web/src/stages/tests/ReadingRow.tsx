import { useRef, useState } from "react";
import type { Item } from "../../api/client";
import type { Entry } from "../../data/useSheet";
import type { ReadingRecord, Waiting } from "../../data/outbox";
import { plain, recordTime } from "../../numbers";
import { CheckRow } from "../../parts/CheckRow";
import { entryKeys } from "../../parts/fields";
import { stateOf, VerdictMark, type State } from "../../parts/verdict";
import { AsideForm, sayAside } from "./Aside";
import { readKeyed } from "./entry";
import { Refused } from "../../app/Refused";
import { keyOf } from "./sheet";

export interface RowProps {
  item: Item;
  waiting: Waiting<ReadingRecord> | undefined;
  closed: boolean;
  chosen: boolean;
  onChoose: () => void;
  onEnter: (entry: Entry) => void;
}

/** What stands at a place, as it was entered; what still waits on this device before what the server has. */
export function sayReading(item: Item, waiting: Waiting<ReadingRecord> | undefined): string {
  const reading = waiting?.reading ?? item.reading;
  if (reading?.value == null) return "";
  return `${reading.beyond ? ">" : ""}${plain(reading.value)}`;
}

/** How a place stands: waiting on this device, saved, or not read. */
export function keptAs(
  item: Item,
  waiting: Waiting<ReadingRecord> | undefined,
): "trouble" | "queued" | "saved" | "none" {
  if (waiting) return waiting.trouble === undefined ? "queued" : "trouble";
  return item.reading || item.aside ? "saved" : "none";
}

/** One reading of the sheet: what it should be, what was read, what that means. */
export function ReadingRow(props: RowProps) {
  const { item, waiting, closed, chosen, onEnter } = props;
  const [setting, setSetting] = useState<Entry["untaken"]>(null);
  const [earlier, setEarlier] = useState(false);
  const state: State | undefined = item.check && !waiting ? stateOf(item.check) : undefined;
  const aside = waiting ? waiting.reading : item.aside;
  return (
    <li
      className={`border-b border-base-300 ${chosen ? "bg-base-200" : ""}`}
      data-item={keyOf(item)}
      data-verdict={item.check?.verdict ?? "none"}
      data-kept={keptAs(item, waiting)}
    >
      <div className="grid grid-cols-[1fr_auto] items-center gap-x-3 px-1 py-1.5 md:grid-cols-[1fr_11rem_auto]">
        <div className="min-w-0">
          <p className={`text-lg leading-tight ${item.beside ? "" : "font-semibold"}`}>{item.place || item.title}</p>
          {item.place && item.beside && <p className="quiet text-sm leading-tight">{item.title}</p>}
          {item.tested_at && (
            <p className="quiet text-sm leading-tight">Tested once for all behind it: {item.tested_at}</p>
          )}
          {item.outside && <p className="quiet text-sm leading-tight">{item.outside}</p>}
          {aside?.untaken && <p className="text-sm font-semibold text-warning">{sayAside(aside)}</p>}
          <p className="quiet text-sm md:hidden">
            <Expectation item={item} />
          </p>
        </div>
        <p className="hidden text-right leading-tight md:block">
          <Expectation item={item} />
        </p>
        <span className="flex items-center gap-1">
          {item.unit === "" ? <Tick {...props} /> : <ReadingBox {...props} onAside={setSetting} />}
          <span className="w-7 shrink-0" data-state={keptAs(item, waiting)}>
            {waiting ? <OnDevice trouble={waiting.trouble} /> : state && <VerdictMark state={state} size={28} />}
          </span>
          <button
            className="btn btn-square btn-ghost btn-sm"
            aria-label={`Not now: ${item.title} ${item.place}`}
            aria-expanded={setting !== null}
            disabled={closed}
            onClick={() => setSetting(setting === null ? "deferred" : null)}
          >
            ⋯
          </button>
        </span>
      </div>
      {setting && (
        <AsideForm
          start={setting}
          onSet={(untaken, note) => {
            onEnter({ quantity: item.quantity, point: item.point, untaken, note });
            setSetting(null);
          }}
          onClose={() => setSetting(null)}
        />
      )}
      <Refused waiting={waiting} />
      {item.earlier.length > 0 && (
        <p className="px-1 pb-1 text-sm">
          <button className="link" aria-expanded={earlier} onClick={() => setEarlier(!earlier)}>
            {item.earlier.length} earlier
          </button>
          {earlier &&
            item.earlier.map((each, index) => (
              <span key={index} className="quiet ml-3">
                <s>
                  {each.untaken
                    ? sayAside(each)
                    : each.correct === null || each.correct === undefined
                      ? `${plain(each.value)} ${item.unit}`
                      : each.correct
                        ? "right"
                        : "wrong"}
                </s>{" "}
                {recordTime(each.at)}, {each.by}
              </span>
            ))}
        </p>
      )}
      {item.check && state && state !== "pass" && (
        <ul className="-mt-1">
          <CheckRow check={item.check} />
        </ul>
      )}
    </li>
  );
}

/** A mark for what waits on this device: an arrow that has not left yet, or that came back. */
export function OnDevice({ trouble }: { trouble: string | undefined }) {
  const words = trouble === undefined ? "kept on this device, not sent yet" : "the server would not have it";
  return (
    <svg
      viewBox="0 0 24 24"
      width="26"
      height="26"
      role="img"
      aria-label={words}
      fill="none"
      stroke="currentColor"
      strokeWidth="2.4"
      className={trouble === undefined ? "text-warning" : "text-error"}
    >
      <rect x="5" y="2.5" width="14" height="19" rx="2.5" />
      {trouble === undefined ? <path d="M12 16V7m-3.5 3.5L12 7l3.5 3.5" /> : <path d="m9 9 6 6m0-6-6 6" />}
    </svg>
  );
}

export function Expectation({ item }: { item: Item }) {
  return (
    <>
      {item.expected && (
        <>
          expect <b className="text-lg">{item.expected.shown}</b> {item.unit}
        </>
      )}
      {item.limit !== "" && (
        <span className={item.expected ? "block text-sm" : ""}>
          {item.sense} <b>{item.limit}</b> {item.unit}
        </span>
      )}
    </>
  );
}

function ReadingBox({
  item,
  waiting,
  closed,
  onChoose,
  onEnter,
  onAside,
}: RowProps & { onAside: (untaken: Entry["untaken"]) => void }) {
  const said = sayReading(item, waiting);
  const [text, setText] = useState(said);
  const [held, setHeld] = useState(said);
  const [wrong, setWrong] = useState("");
  // Enter hands a reading on, and leaving the box after it is no second reading.
  const handedOn = useRef<string>(undefined);
  if (held !== said) {
    setHeld(said);
    setText(said);
  }

  function commit() {
    const typed = text.trim();
    if (typed === said || typed === handedOn.current) return setWrong("");
    const keyed = readKeyed(typed, item.unit);
    if (keyed.kind === "wrong") return setWrong(keyed.why);
    setWrong("");
    handedOn.current = typed;
    const place = { quantity: item.quantity, point: item.point };
    if (keyed.kind === "aside" && keyed.untaken !== "not-applicable") {
      setText(said);
      onAside(keyed.untaken);
    } else if (keyed.kind === "aside") onEnter({ ...place, untaken: keyed.untaken });
    else if (keyed.kind === "clear") onEnter({ ...place, value: null });
    else onEnter({ ...place, value: keyed.value, beyond: keyed.beyond });
  }

  return (
    <span className="flex flex-col">
      <span className={`input input-lg flex w-38 min-w-0 items-center gap-1 px-2 ${wrong ? "input-error" : ""}`}>
        <input
          data-walk={closed || item.beside ? undefined : ""}
          name={keyOf(item)}
          aria-label={`${item.title} ${item.place}`}
          aria-invalid={wrong !== ""}
          inputMode="decimal"
          autoComplete="off"
          disabled={closed}
          className="w-full min-w-0 text-right text-2xl font-bold"
          value={text}
          onFocus={(event) => {
            event.target.select();
            onChoose();
          }}
          onChange={(event) => {
            handedOn.current = undefined;
            setText(event.target.value);
          }}
          onBlur={commit}
          onKeyDown={(event) =>
            entryKeys(event, commit, () => {
              setText(said);
              setWrong("");
            })
          }
        />
        <span className="quiet text-base">{item.unit}</span>
      </span>
      {wrong && (
        <span role="alert" className="text-sm font-semibold text-error">
          {wrong}
        </span>
      )}
    </span>
  );
}

function Tick({ item, waiting, closed, onChoose, onEnter }: RowProps) {
  const correct = waiting ? waiting.reading.correct : item.reading?.correct;
  return (
    <span className="join justify-self-end">
      {([true, false] as const).map((answer) => (
        <button
          key={String(answer)}
          data-walk={answer && !closed && !item.beside ? "" : undefined}
          aria-pressed={correct === answer}
          aria-label={`${item.title}: ${answer ? "right" : "wrong"}`}
          disabled={closed}
          className={`btn btn-lg join-item px-4 ${correct === answer ? (answer ? "btn-success" : "btn-error") : "bg-base-100"}`}
          onFocus={onChoose}
          onClick={() =>
            onEnter({ quantity: item.quantity, point: item.point, correct: correct === answer ? null : answer })
          }
        >
          {answer ? "right" : "wrong"}
        </button>
      ))}
    </span>
  );
}
