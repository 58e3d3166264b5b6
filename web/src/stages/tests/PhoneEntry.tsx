import { useState } from "react";
import type { Item } from "../../api/client";
import type { ReadingRecord, Waiting } from "../../data/outbox";
import type { Entry } from "../../data/useSheet";
import { stateOf, verdictColour, VerdictMark, verdictWord } from "../../parts/verdict";
import { AsideForm, sayAside } from "./Aside";
import { readKeyed } from "./entry";
import { IsolationForm } from "./IsolationForm";
import { OnDevice, sayReading } from "./ReadingRow";
import { Refused } from "../../app/Refused";
import { isEmpty, isShut, keyOf, type SheetProps } from "./sheet";

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", ">"] as const;

/** One big reading at a time, for a thumb: the place, what it should read, a keypad, Enter to the next place. */
export function PhoneEntry({ sheet, waiting, chosen, onChoose, onEnter }: SheetProps) {
  const shut = isShut(sheet);
  const walk = sheet.stages
    .filter((stage) => !(stage.live && shut))
    .flatMap((stage) => stage.items.filter((item) => !item.beside).map((item) => ({ stage, item })));
  const found = walk.findIndex(({ item }) => keyOf(item) === chosen);
  const first = walk.findIndex(({ item }) => isEmpty(item, waiting));
  const at = found >= 0 ? found : Math.max(0, first);
  const here = walk[at];
  if (!here) return null;
  const { stage, item } = here;
  const go = (to: number) => {
    const next = walk[to];
    if (next) onChoose(keyOf(next.item));
  };
  const onward = (entry: Entry) => {
    onEnter(entry);
    go(at + 1);
  };
  return (
    <section className="flex grow flex-col" data-one={keyOf(item)}>
      <div className="flex items-center gap-2 border-b border-base-300 pb-1">
        <button className="btn btn-square" aria-label="Place before" disabled={at === 0} onClick={() => go(at - 1)}>
          ‹
        </button>
        <p className="min-w-0 grow text-center leading-tight">
          <b>{stage.title}</b> {stage.live && <span className="bg-error px-1 text-sm text-error-content">LIVE</span>}
          <span className="quiet block text-sm">
            {at + 1} of {walk.length}
          </span>
        </p>
        <button
          className="btn btn-square"
          aria-label="Next place"
          disabled={at === walk.length - 1}
          onClick={() => go(at + 1)}
        >
          ›
        </button>
      </div>
      {item.quantity === "isolation" ? (
        <IsolationForm item={item} waiting={waiting.get(keyOf(item))} pairs={sheet.pairs} onEnter={onward} />
      ) : (
        <OnePlace
          key={keyOf(item)}
          item={item}
          how={stage.how}
          waiting={waiting.get(keyOf(item))}
          onEnter={onward}
          onStay={onEnter}
        />
      )}
      {at === walk.length - 1 && shut && (
        <p className="mt-2 border-l-6 border-error bg-base-200 px-3 py-2 text-sm font-semibold" data-live="closed">
          Live tests are closed: {sheet.waits_for.slice(0, 2).join("; ")} first. A reason to go live sooner is given in
          the list.
        </p>
      )}
    </section>
  );
}

interface OneProps {
  item: Item;
  how: string;
  waiting: Waiting<ReadingRecord> | undefined;
  onEnter: (entry: Entry) => void;
  onStay: (entry: Entry) => void;
}

function OnePlace({ item, how, waiting, onEnter, onStay }: OneProps) {
  const said = sayReading(item, waiting);
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const [setting, setSetting] = useState<Entry["untaken"]>(null);
  const place = { quantity: item.quantity, point: item.point };
  const aside = waiting ? waiting.reading : item.aside;
  const state = item.check && !waiting ? stateOf(item.check) : undefined;

  function enter(keyed = readKeyed(text, item.unit)) {
    if (keyed.kind === "wrong") return setWrong(keyed.why);
    if (keyed.kind === "aside") return setSetting(keyed.untaken);
    if (keyed.kind === "clear") return setWrong("a figure first");
    onEnter({ ...place, value: keyed.value, beyond: keyed.beyond });
  }

  return (
    <div className="flex grow flex-col">
      <p className="pt-2 text-2xl leading-tight font-bold">{item.place || item.title}</p>
      {item.place && <p className="quiet leading-tight">{item.title}</p>}
      <p className="quiet line-clamp-2 text-sm leading-snug">{how}</p>
      {item.unit === "" ? (
        <div className="grid grow grid-cols-2 items-center gap-3 py-4">
          {([true, false] as const).map((answer) => (
            <button
              key={String(answer)}
              className={`btn h-28 text-3xl ${(waiting?.reading.correct ?? item.reading?.correct) === answer ? (answer ? "btn-success" : "btn-error") : "bg-base-200"}`}
              onClick={() => onEnter({ ...place, correct: answer })}
            >
              {answer ? "right" : "wrong"}
            </button>
          ))}
        </div>
      ) : (
        <>
          <div className="mt-1 flex items-end justify-between gap-2">
            <p className="leading-tight">
              {item.expected && (
                <>
                  <span className="quiet text-sm">expect</span>
                  <b className="block text-3xl">{item.expected.shown}</b>
                </>
              )}
              {item.limit !== "" && (
                <span className="text-sm">
                  {item.sense} <b>{item.limit}</b> {item.unit}
                </span>
              )}
            </p>
            <p
              className={`min-w-0 text-right text-6xl leading-none font-bold ${text === "" && said !== "" ? "quiet" : ""}`}
              data-figure
            >
              {text || said || "–"} <span className="text-2xl">{item.unit}</span>
            </p>
          </div>
          <p className="flex min-h-7 items-center gap-2 font-semibold">
            {wrong && <span className="text-error">{wrong}</span>}
            {!wrong && text === "" && waiting && (
              <>
                <OnDevice trouble={waiting.trouble} />{" "}
                {waiting.trouble === undefined ? "kept on this device, not judged yet" : <Refused waiting={waiting} />}
              </>
            )}
            {!wrong && text === "" && state && (
              <span className={`flex items-center gap-1 ${verdictColour(state)}`}>
                <VerdictMark state={state} /> {verdictWord(state)}
              </span>
            )}
            {text === "" && aside?.untaken && <span className="text-warning">{sayAside(aside)}</span>}
          </p>
          <div className="mt-auto grid grid-cols-4 gap-1.5">
            <div className="col-span-3 grid grid-cols-3 gap-1.5">
              {KEYS.map((key) => (
                <button
                  key={key}
                  className="btn h-14 bg-base-200 text-2xl font-bold"
                  aria-label={key === ">" ? "more than" : key}
                  onClick={() => {
                    setWrong("");
                    setText(text + key);
                  }}
                >
                  {key}
                </button>
              ))}
            </div>
            <div className="grid gap-1.5">
              <button
                className="btn h-14 bg-base-200 text-xl"
                aria-label="Delete"
                onClick={() => setText(text.slice(0, -1))}
              >
                ⌫
              </button>
              <button className="btn h-14 bg-base-200 px-1" onClick={() => enter(readKeyed("open", item.unit))}>
                open
              </button>
              <button className="btn h-29.5 btn-primary text-xl" onClick={() => enter()}>
                Enter
              </button>
            </div>
          </div>
        </>
      )}
      {setting ? (
        <AsideForm
          start={setting}
          onClose={() => setSetting(null)}
          onSet={(untaken, note) => {
            setSetting(null);
            onEnter({ ...place, untaken, note });
          }}
        />
      ) : (
        <div className="mt-1.5 flex justify-between gap-2">
          <button className="btn btn-ghost btn-sm" onClick={() => setSetting("deferred")}>
            Not now…
          </button>
          {said !== "" && (
            <button className="btn btn-ghost btn-sm" onClick={() => onStay({ ...place, value: null })}>
              Strike it
            </button>
          )}
        </div>
      )}
    </div>
  );
}
