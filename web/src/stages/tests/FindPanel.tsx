import { useState } from "react";
import { Link } from "react-router-dom";
import { asRefused, type Diagnosis, type NextTest, type SuspectLine } from "../../api/client";
import type { ReadingRecord, Waiting } from "../../data/outbox";
import { useCircuit } from "../../data/useCircuit";
import { useDiagnosis } from "../../data/useDiagnosis";
import type { Entry } from "../../data/useSheet";
import type { TesterValue } from "../../data/useTester";
import { Opened } from "../../parts/Opened";
import { RefusalNote } from "../../parts/RefusalNote";
import { readKeyed } from "./entry";
import { KeepFound } from "./KeepFound";
import { NoticedBar } from "./NoticedBar";
import { PractisePart } from "./PractisePart";
import { OnDevice } from "./ReadingRow";
import { Refused } from "../../app/Refused";
import { SuspicionDrawing } from "./SuspicionDrawing";

interface Props {
  circuitId: string;
  sheetPath: string;
  ambientC: number;
  waiting: Map<string, Waiting<ReadingRecord>>;
  onEnter: (entry: Entry) => void;
  /** Take a reading with the tester that is connected; nothing where none is. */
  onTester: ((how: Record<string, unknown>) => Promise<TesterValue | undefined>) | undefined;
}

const HEADS: Record<Diagnosis["state"], string> = {
  sound: "Sound",
  looking: "Looking",
  found: "Found",
  unexplained: "Not explained",
  meter: "The meter",
};
const COLOURS: Record<Diagnosis["state"], string> = {
  sound: "text-success",
  looking: "text-warning",
  found: "text-error",
  unexplained: "text-warning",
  meter: "text-warning",
};

/** Finding a fault: where suspicion lies, the measurement that tells most next, and what to do when it is found. */
export function FindPanel({ circuitId, sheetPath, ambientC, waiting, onEnter, onTester }: Props) {
  const query = useDiagnosis(circuitId, ambientC);
  const circuit = useCircuit(circuitId);
  const [other, setOther] = useState<string>();
  const sent = [...waiting.values()].some((each) => each.trouble === undefined);
  return (
    <Opened query={query} waiting="Weighing every fault against the readings…">
      {(found) => {
        const test = [found.next, ...found.others].find((each) => each?.id === other) ?? found.next;
        const view = circuit.query.data;
        return (
          <div data-diagnosis={found.state} data-busy={sent || query.isFetching}>
            <p className={`pt-2 text-3xl leading-tight font-bold ${COLOURS[found.state]}`}>{HEADS[found.state]}</p>
            <p className="pb-2 text-xl leading-snug font-semibold">{found.sentence}</p>
            {found.unseen !== "" && <p className="pb-2">{found.unseen}</p>}
            {found.left_out.length > 0 && (
              <details className="pb-2" data-left-out={found.left_out.length}>
                <summary className="cursor-pointer font-semibold">What is left out until it is read again</summary>
                <ul className="columns-2 pt-1 text-sm max-lg:columns-1">
                  {found.left_out.map((each, at) => (
                    <li key={at}>{each}</li>
                  ))}
                </ul>
              </details>
            )}
            {view && <NoticedBar circuit={view.design} found={found} onEnter={onEnter} />}
            <div className="grid gap-x-8 gap-y-4 pt-2 lg:grid-cols-2">
              <div>
                {found.remedy && (
                  <Remedy
                    remedy={found.remedy}
                    sheetPath={sheetPath}
                    kept={view && { jobId: view.job_id, circuit: view.design.number }}
                  />
                )}
                {test && (
                  <TestCard key={test.id} test={test} onEnter={onEnter} onTester={onTester}>
                    {[found.next, ...found.others].map(
                      (each) =>
                        each &&
                        each.id !== test.id && (
                          <button key={each.id} className="link block text-left" onClick={() => setOther(each.id)}>
                            Or: {each.title}
                          </button>
                        ),
                    )}
                  </TestCard>
                )}
                {[...waiting.values()].map((each) => (
                  <div key={each.id} className="flex items-center gap-2 py-1">
                    <OnDevice trouble={each.trouble} />{" "}
                    {each.trouble === undefined ? "kept on this device, not sent yet" : <Refused waiting={each} />}
                  </div>
                ))}
              </div>
              {/* On a phone: the drawing, what to measure, then who is under suspicion. */}
              <div className="max-lg:contents">
                <div className="max-lg:order-first">
                  {view && <SuspicionDrawing circuit={view.design} shape={view.result.shape} along={found.along} />}
                </div>
                <div className="max-lg:order-last">
                  <h2 className="text-lg font-bold">Under suspicion</h2>
                  <ul className="border-t-2 border-base-content/70">
                    {found.suspects.map((suspect) => (
                      <SuspectRow key={suspect.id} suspect={suspect} explained={found.explained} />
                    ))}
                  </ul>
                </div>
              </div>
            </div>
            {query.isError && <RefusalNote refused={asRefused(query.error)} />}
            <PractisePart circuitId={circuitId} />
          </div>
        );
      }}
    </Opened>
  );
}

function TestCard({
  test,
  onEnter,
  onTester,
  children,
}: {
  test: NextTest;
  onEnter: (entry: Entry) => void;
  onTester: Props["onTester"];
  children: React.ReactNode;
}) {
  const [text, setText] = useState("");
  const [wrong, setWrong] = useState("");
  const read = (value: number, beyond: boolean, source: "typed" | "tester") =>
    onEnter({ quantity: "trace", test: test.id, value, beyond, source });
  return (
    <form
      className="border-2 border-base-content/70 px-4 py-3"
      data-next={test.id}
      onSubmit={(event) => {
        event.preventDefault();
        const keyed = readKeyed(text, test.unit);
        if (keyed.kind === "reading") read(keyed.value, keyed.beyond, "typed");
        else setWrong("a figure, >999 or open");
      }}
    >
      <p className="quiet text-sm font-semibold">Measure next</p>
      <p className="text-xl leading-tight font-bold">{test.title}</p>
      <ol className="mt-1 list-decimal pl-5">
        {test.steps.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <label className="input input-lg flex w-48 items-center gap-1">
          {}
          <input
            autoFocus
            name="Next reading"
            aria-label={`Reading: ${test.title}`}
            inputMode="decimal"
            autoComplete="off"
            className="w-full text-right text-2xl font-bold"
            value={text}
            onChange={(event) => {
              setText(event.target.value);
              setWrong("");
            }}
          />
          <span className="quiet">{test.unit}</span>
        </label>
        <button className="btn btn-lg btn-primary">Enter</button>
        <button
          type="button"
          className="btn btn-lg"
          onClick={() => read(test.unit === "Ω" ? 1999 : 999, true, "typed")}
        >
          {test.unit === "Ω" ? "open" : ">999"}
        </button>
        {onTester && (
          <button
            type="button"
            className="btn btn-lg"
            onClick={() =>
              void onTester(test.instruction).then(
                (value) => value?.value !== undefined && read(value.value, value.beyond ?? false, "tester"),
              )
            }
          >
            Test
          </button>
        )}
      </div>
      {wrong && (
        <p role="alert" className="text-sm font-semibold text-error">
          {wrong}
        </p>
      )}
      <table className="mt-2 w-full text-sm">
        <tbody>
          {test.foretold.map((each) => (
            <tr key={each.suspect} className="border-b border-base-300">
              <td className="pr-2">{each.suspect}</td>
              <td className="text-right font-bold whitespace-nowrap">{each.shows}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-2 text-sm">{children}</div>
    </form>
  );
}

/** A suspect, and how likely it is; where nothing explains what was read, none is likely, whatever leads the others. */
function SuspectRow({ suspect, explained }: { suspect: SuspectLine; explained: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <li className="border-b border-base-300" data-suspect={suspect.id}>
      <button
        className="flex w-full items-center gap-3 px-1 py-1.5 text-left hover:bg-base-200"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span className="w-20 shrink-0 text-right text-lg leading-tight font-bold">
          {explained ? sayShare(suspect.share) : "–"}
        </span>
        <span className="min-w-0 grow leading-tight">{suspect.title}</span>
        <span className="quiet text-sm whitespace-nowrap">
          {suspect.explains.length > 0 && `explains ${String(suspect.explains.length)}`}
          {suspect.fails.length > 0 && ` fails ${String(suspect.fails.length)}`}
        </span>
      </button>
      {open && (
        <ul className="bg-base-200 px-3 py-2 text-sm">
          {suspect.explains.length + suspect.fails.length === 0 && (
            <li>No reading speaks for it or against it by itself.</li>
          )}
          {suspect.explains.map((each, at) => (
            <li key={at}>
              explains <b>{each.reading}</b>: {each.read}, it says {each.says}
            </li>
          ))}
          {suspect.fails.map((each, at) => (
            <li key={at} className="text-error">
              does not explain <b>{each.reading}</b>: {each.read}, it says {each.says}
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

// What readings are called on a sheet, where their id is no word of the trade.
const CALLED: Partial<Record<string, string>> = {
  "cross-ln": "L–N crossed",
  "cross-le": "L–cpc crossed",
  "r1+r2": "R1+R2",
  "r1+rn": "R1+Rn",
  "insulation-ll": "insulation L–N",
  "insulation-le": "insulation L and N to earth",
  "insulation-l-e": "insulation L–E",
  "insulation-n-e": "insulation N–E",
  zs: "Zs",
};

function Remedy({
  remedy,
  sheetPath,
  kept,
}: {
  remedy: NonNullable<Diagnosis["remedy"]>;
  sheetPath: string;
  kept: { jobId: string; circuit: number } | undefined;
}) {
  return (
    <div className="mb-3 border-l-6 border-error bg-base-200 px-4 py-3" data-remedy>
      <h2 className="text-lg font-bold">What to do</h2>
      <ol className="list-decimal pl-5">
        {remedy.do.map((step) => (
          <li key={step}>{step}</li>
        ))}
      </ol>
      {remedy.again.length > 0 && (
        <p className="mt-2">
          Then read again: <b>{remedy.again.map((each) => CALLED[each] ?? each).join(", ")}</b>.{" "}
          <Link className="link" to={sheetPath}>
            To the readings
          </Link>
        </p>
      )}
      {remedy.entry !== "" && <p className="mt-2 text-sm">For the remedial list: {remedy.entry}</p>}
      {kept && remedy.entry !== "" && (
        <KeepFound jobId={kept.jobId} made={{ kind: "fault", title: remedy.entry, circuit: kept.circuit, lines: [] }} />
      )}
    </div>
  );
}

/** How likely something is, in words where a figure would say more than anybody knows. */
function sayShare(share: number): string {
  return share > 0.985 ? "nearly certain" : `${String(Math.max(1, Math.round(share * 100)))} %`;
}
