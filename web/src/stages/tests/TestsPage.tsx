import { useRef, useState } from "react";
import { Navigate, useNavigate, useParams } from "react-router-dom";
import { asRefused, type CircuitLine, type Item } from "../../api/client";
import { useJob } from "../../data/useJob";
import { useSheet, type Entry } from "../../data/useSheet";
import { parseFigure, plain, timeOf } from "../../numbers";
import { CheckRow } from "../../parts/CheckRow";
import { CircuitStrip, type StripLine } from "../../parts/CircuitStrip";
import { Choice, Figure, entryKeys } from "../../parts/fields";
import { RefusalNote } from "../../parts/RefusalNote";
import { stateOf, verdictColour, VerdictMark, verdictWord, type State } from "../../parts/verdict";

export function TestsPage() {
  const job = useJob();
  const { circuitId } = useParams();
  const navigate = useNavigate();
  const first = job.circuits[0];
  if (!circuitId && first) return <Navigate to={`/jobs/${job.id}/tests/${first.id}`} replace />;
  if (!circuitId) return <p className="p-10 text-center text-xl">Nothing to test yet: draw a circuit first.</p>;
  return (
    <div className="grid grow md:grid-cols-[15rem_1fr]">
      <aside className="hidden border-r border-base-300 md:block">
        <CircuitStrip base={`/jobs/${job.id}/tests`} lines={job.circuits.map(tested)} chosen={circuitId} />
      </aside>
      <div className="px-3 pt-3 md:hidden">
        <Choice
          name="Circuit to test"
          className="select-lg w-full font-semibold"
          value={circuitId}
          options={job.circuits.map((line) => [line.id, `${line.number}  ${line.name}  ${line.taken}/${line.total}`] as const)}
          onCommit={(id) => void navigate(`/jobs/${job.id}/tests/${id}`)}
        />
      </div>
      <Sheet key={circuitId} circuitId={circuitId} />
    </div>
  );
}

/** How far a circuit is tested, and how its readings stand. */
function tested(line: CircuitLine): StripLine {
  const passed: State = line.cautions > 0 ? "mind" : "pass";
  const state = line.taken === 0 ? "not-applicable" : line.tests === "pass" ? passed : line.tests;
  return { ...line, state, aside: `${line.taken}/${line.total}` };
}

function Sheet({ circuitId }: { circuitId: string }) {
  const [ambient, setAmbient] = useState(20);
  const { query, enter, refused, dismiss, savedAt } = useSheet(circuitId, ambient);

  if (query.isError)
    return (
      <div className="p-6">
        <RefusalNote refused={asRefused(query.error)} />
      </div>
    );
  if (!query.data) return <p className="p-6">Opening…</p>;
  const { sheet, name, number, design } = query.data;
  const passed: State = sheet.cautions > 0 ? "mind" : "pass";
  const state: State = sheet.taken === 0 ? "not-applicable" : sheet.verdict === "pass" ? passed : sheet.verdict;
  return (
    <main className="mx-auto w-full max-w-4xl px-3 pb-10 md:px-6">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2 py-3">
        <h1 className="hidden text-2xl font-bold md:block">
          {number} {name}
        </h1>
        <span className={`flex items-center gap-2 text-xl font-bold ${verdictColour(state)}`} data-tests={sheet.verdict}>
          <VerdictMark state={state} size={30} />
          {sheet.taken === 0 ? "not tested" : state === "pass" ? "readings in order" : verdictWord(state)}
        </span>
        <span className="text-xl">
          <b>{sheet.taken}</b> of {sheet.total}
        </span>
        <div className="flex items-center gap-2">
          Copper at
          <Figure
            name="Ambient temperature"
            unit="°C"
            className="w-22"
            value={ambient}
            required
            onCommit={(value) => setAmbient(value ?? 20)}
          />
        </div>
        <span className="quiet text-sm" role="status">
          {refused ? "Not saved" : savedAt ? `Saved ${timeOf(savedAt)}` : ""}
        </span>
      </div>
      {design === "fail" && (
        <p className="mb-2 border-l-4 border-error bg-base-200 px-3 py-2 font-semibold">
          The design of this circuit does not comply: good readings do not mend that.
        </p>
      )}
      {refused && <RefusalNote refused={refused} onClose={dismiss} />}
      {sheet.stages.map((stage, index) => (
        <section key={stage.id} className="pb-6" data-stage={stage.id}>
          {stage.live !== (sheet.stages[index - 1]?.live ?? null) && <Caution live={stage.live} />}
          <h2 className="text-xl font-bold">
            {stage.title} {stage.live && <span className="ml-1 bg-error px-2 text-base text-error-content">LIVE</span>}
          </h2>
          <p className="quiet pb-1">{stage.how}</p>
          <ul className="border-t-2 border-base-content/70">
            {stage.items.map((item) => (
              <ReadingRow key={`${item.quantity}:${item.point ?? ""}`} item={item} onEnter={(entry) => enter(item, entry)} />
            ))}
          </ul>
        </section>
      ))}
    </main>
  );
}

function Caution({ live }: { live: boolean }) {
  return (
    <details className="mb-3 border-l-6 border-warning bg-base-200 px-3 py-2">
      <summary className="cursor-pointer font-semibold">
        {live
          ? "Live testing: competent persons only, the right probes, nobody else at the circuit."
          : "Isolate first, and prove it dead. What is expected here never replaces a test."}
      </summary>
      <ol className="mt-2 list-decimal pl-6">
        {live ? (
          <>
            <li>Covers on, all but where you test; fused probes with finger guards, leads looked over.</li>
            <li>Polarity of the supply first, then Ze, then Zs.</li>
            <li>Tell the household which outlets are being tested.</li>
          </>
        ) : (
          <>
            <li>Identify the circuit; get permission; switch off; lock and tag, the key with you.</li>
            <li>Prove the indicator on a proving unit or known source.</li>
            <li>Test every pair: L–N, L–E, N–E.</li>
            <li>Prove the indicator again.</li>
          </>
        )}
      </ol>
    </details>
  );
}

function sayReading(item: Item): string {
  const reading = item.reading;
  if (reading?.value == null) return "";
  return `${reading.beyond ? ">" : ""}${plain(reading.value)}`;
}

function ReadingRow({ item, onEnter }: { item: Item; onEnter: (entry: Entry) => Promise<boolean> }) {
  const seen = item.unit === "";
  const state: State | undefined = item.check ? stateOf(item.check) : undefined;
  return (
    <li
      className="border-b border-base-300"
      data-item={`${item.quantity}:${item.point ?? ""}`}
      data-verdict={item.check?.verdict ?? "none"}
    >
      <div className="grid grid-cols-[1fr_9.5rem] items-center gap-x-3 py-1.5 md:grid-cols-[1fr_13rem_11rem]">
        <div className="min-w-0">
          <p className="text-lg leading-tight font-semibold">{item.place || item.title}</p>
          <p className="quiet text-sm md:hidden">
            <Expectation item={item} />
          </p>
        </div>
        <p className="hidden text-right leading-tight md:block">
          <Expectation item={item} />
        </p>
        {seen ? <Tick item={item} onEnter={onEnter} /> : <ReadingBox item={item} onEnter={onEnter} />}
      </div>
      {item.check && state && state !== "pass" && (
        <ul className="-mt-1">
          <CheckRow check={item.check} />
        </ul>
      )}
    </li>
  );
}

function Expectation({ item }: { item: Item }) {
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

function ReadingBox({ item, onEnter }: { item: Item; onEnter: (entry: Entry) => Promise<boolean> }) {
  const said = sayReading(item);
  const [text, setText] = useState(said);
  const [held, setHeld] = useState(said);
  const [wrong, setWrong] = useState("");
  const [busy, setBusy] = useState(false);
  // Enter hands a reading on, and leaving the box after it is no second reading.
  const handedOn = useRef<string>(undefined);
  if (held !== said) {
    setHeld(said);
    setText(said);
  }
  const state = item.check ? stateOf(item.check) : undefined;

  function commit() {
    const typed = text.trim();
    if (typed === said || typed === handedOn.current) return setWrong("");
    const beyond = /^[>+]/.test(typed);
    const value = parseFigure(beyond ? typed.slice(1) : typed);
    if (value === undefined || (beyond && value === null)) return setWrong("a figure, or >999");
    setWrong("");
    setBusy(true);
    handedOn.current = typed;
    void onEnter({ value, beyond, correct: null }).then((kept) => {
      setBusy(false);
      // What was not kept may be tried again as it stands.
      if (!kept) handedOn.current = undefined;
    });
  }

  return (
    <span className="flex flex-col">
      <span className="flex items-center gap-1.5">
        <span className={`input input-lg flex min-w-0 items-center gap-1 px-2 ${wrong ? "input-error" : ""}`}>
          <input
            data-walk
            name={`${item.quantity}:${item.point ?? ""}`}
            aria-label={`${item.title} ${item.place}`}
            aria-invalid={wrong !== ""}
            inputMode="decimal"
            autoComplete="off"
            className="w-full min-w-0 text-right text-2xl font-bold"
            value={text}
            onFocus={(event) => event.target.select()}
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
        <span className="w-7 shrink-0" data-state={busy ? "saving" : text.trim() === said && said !== "" ? "saved" : "none"}>
          {busy ? <span className="text-xl">…</span> : state && <VerdictMark state={state} size={28} />}
        </span>
      </span>
      {wrong && (
        <span role="alert" className="text-sm font-semibold text-error">
          {wrong}
        </span>
      )}
    </span>
  );
}

function Tick({ item, onEnter }: { item: Item; onEnter: (entry: Entry) => Promise<boolean> }) {
  const correct = item.reading?.correct;
  return (
    <span className="join justify-self-end">
      {([true, false] as const).map((answer) => (
        <button
          key={String(answer)}
          data-walk={answer ? "" : undefined}
          aria-pressed={correct === answer}
          className={`btn btn-lg join-item px-4 ${correct === answer ? (answer ? "btn-success" : "btn-error") : "bg-base-100"}`}
          onClick={() => void onEnter({ value: null, beyond: false, correct: correct === answer ? null : answer })}
        >
          {answer ? "right" : "wrong"}
        </button>
      ))}
    </span>
  );
}
