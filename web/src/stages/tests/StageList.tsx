import { useState } from "react";
import type { Item, Sheet } from "../../api/client";
import type { Entry } from "../../data/useSheet";
import { CheckRow } from "../../parts/CheckRow";
import { IsolationForm } from "./IsolationForm";
import { ReadingRow } from "./ReadingRow";
import { isEmpty, isShut, keyOf, type SheetProps } from "./sheet";

/** A sheet as a list: step by step, dead tests before live ones, place by place. */
export function StageList({ sheet, waiting, chosen, onChoose, onEnter }: SheetProps) {
  const shut = isShut(sheet);
  return (
    <>
      {sheet.between.length > 0 && (
        <section className="pb-4" data-between>
          <h2 className="text-xl font-bold">Readings beside each other</h2>
          <ul className="border-t-2 border-base-content/70">
            {sheet.between.map((check, index) => (
              <CheckRow key={`${check.id}${String(index)}`} check={check} />
            ))}
          </ul>
        </section>
      )}
      {sheet.stages.map((stage, index) => (
        <section key={stage.id} className="pb-6" data-stage={stage.id}>
          {stage.live && !sheet.stages[index - 1]?.live && <LiveGate sheet={sheet} shut={shut} onEnter={onEnter} />}
          {!stage.live && index === 0 && <DeadCaution isolated={sheet.isolated} />}
          <h2 className="text-xl font-bold">
            {stage.title} {stage.live && <span className="ml-1 bg-error px-2 text-base text-error-content">LIVE</span>}
          </h2>
          <p className="quiet pb-1">{stage.how}</p>
          {stage.id === "insulation" && sheet.unplug.length > 0 && <Unplug what={sheet.unplug} />}
          <Rows
            items={stage.items}
            closed={stage.live && shut}
            pairs={sheet.pairs}
            waiting={waiting}
            chosen={chosen}
            onChoose={onChoose}
            onEnter={onEnter}
          />
        </section>
      ))}
    </>
  );
}

type RowsProps = Omit<SheetProps, "sheet"> & Pick<Sheet, "pairs"> & { items: readonly Item[]; closed: boolean };

function Rows({ items, closed, pairs, waiting, chosen, onChoose, onEnter }: RowsProps) {
  const [more, setMore] = useState(false);
  const beside = items.filter((item) => item.beside && isEmpty(item, waiting));
  const shown = more ? items : items.filter((item) => !beside.includes(item));
  return (
    <>
      <ul className="border-t-2 border-base-content/70">
        {shown.map((item) =>
          item.quantity === "isolation" ? (
            <li
              key={keyOf(item)}
              className="border-b border-base-300"
              data-item={keyOf(item)}
              data-verdict={item.check?.verdict ?? "none"}
            >
              <IsolationForm item={item} waiting={waiting.get(keyOf(item))} pairs={pairs} onEnter={onEnter} />
            </li>
          ) : (
            <ReadingRow
              key={keyOf(item)}
              item={item}
              waiting={waiting.get(keyOf(item))}
              closed={closed}
              chosen={chosen === keyOf(item)}
              onChoose={() => onChoose(keyOf(item))}
              onEnter={onEnter}
            />
          ),
        )}
      </ul>
      {beside.length > 0 && !closed && (
        <button className="link mt-1 text-sm" aria-expanded={more} onClick={() => setMore(!more)}>
          {more
            ? "Fewer"
            : `${String(beside.length)} more that may be read: ${[...new Set(beside.map((item) => item.title))].join(", ")}`}
        </button>
      )}
    </>
  );
}

function Unplug({ what }: { what: readonly string[] }) {
  return (
    <details className="mb-2 border-l-6 border-warning bg-base-200 px-3 py-2" data-unplug>
      <summary className="cursor-pointer font-semibold">First out or linked: {what.length} things</summary>
      <ul className="mt-1 list-disc pl-5">
        {what.map((each) => (
          <li key={each}>{each}</li>
        ))}
      </ul>
    </details>
  );
}

function DeadCaution({ isolated }: { isolated: boolean }) {
  return (
    <p
      className={`mb-3 border-l-6 px-3 py-2 font-semibold ${isolated ? "border-success" : "border-warning bg-base-200"}`}
      data-isolated={isolated}
    >
      {isolated
        ? "Isolated and proved dead, by the record. Keep the key on you."
        : "Isolate first, and prove it dead. What is expected here never replaces a test."}
    </p>
  );
}

/** Live tests wait for the dead ones that guard them, or for a reason that goes on record; then the caution. */
function LiveGate({ sheet, shut, onEnter }: { sheet: Sheet; shut: boolean; onEnter: (entry: Entry) => void }) {
  const [why, setWhy] = useState("");
  return (
    <div
      className={`mb-3 border-l-6 px-3 py-2 ${shut ? "border-error bg-base-200" : "border-warning bg-base-200"}`}
      data-live={shut ? "closed" : "open"}
    >
      {shut ? (
        <>
          <p className="text-lg font-bold">Live tests are closed: dead tests first.</p>
          <p>Not read yet, or failing: {sheet.waits_for.slice(0, 5).join("; ")}.</p>
          <form
            className="mt-2 flex flex-wrap items-end gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              if (why.trim()) onEnter({ quantity: "live-reason", correct: true, note: why.trim() });
            }}
          >
            <label className="flex min-w-60 grow flex-col gap-0.5">
              <span className="text-sm font-semibold">Live first all the same, because</span>
              <input
                name="Reason to go live first"
                className="input w-full"
                maxLength={200}
                value={why}
                onChange={(event) => setWhy(event.target.value)}
              />
            </label>
            <button className="btn btn-warning" disabled={why.trim() === ""}>
              Open live tests
            </button>
          </form>
        </>
      ) : (
        <>
          <p className="font-semibold">
            Live testing: competent persons only, the right probes, nobody else at the circuit.
          </p>
          {sheet.reason !== "" && <p>Opened before the dead tests: {sheet.reason}</p>}
          <ol className="mt-1 list-decimal pl-6 text-sm">
            <li>Covers on, all but where you test; fused probes with finger guards, leads looked over.</li>
            <li>Polarity of the supply first, then Ze, then Zs.</li>
            <li>Tell the household which outlets are being tested.</li>
          </ol>
        </>
      )}
    </div>
  );
}
