import { useState } from "react";
import { Navigate, NavLink, useNavigate, useParams } from "react-router-dom";
import type { CircuitLine, Item, JobView, Sheet } from "../../api/client";
import { HoldNote } from "../../app/HoldNote";
import { useJob, useJobWork } from "../../data/useJob";
import { useHouseSheet, useSheet, type Entry } from "../../data/useSheet";
import { useTester } from "../../data/useTester";
import { CircuitStrip, type StripLine } from "../../parts/CircuitStrip";
import { Choice } from "../../parts/fields";
import { Opened } from "../../parts/Opened";
import { RefusalNote } from "../../parts/RefusalNote";
import { verdictColour, VerdictMark, verdictWord, type State } from "../../parts/verdict";
import { FindPanel } from "./FindPanel";
import { ImportPanel } from "./ImportPanel";
import { LengthsPanel } from "./LengthsPanel";
import { PhoneEntry } from "./PhoneEntry";
import { isEmpty, isShut, keyOf, stateOfReadings } from "./sheet";
import { StageList } from "./StageList";
import { TesterBar } from "./TesterBar";
import { FoundList } from "./KeepFound";
import { BellOut, TraceBoard, TripsPanel } from "./ToolsPanel";
import { useNarrow } from "./useNarrow";
import { VisitBar } from "./VisitBar";

const HOUSE = "house";

/** The tests of a job: the house as a whole, then circuit by circuit. */
export function TestsPage() {
  const job = useJob();
  const { circuitId, view } = useParams();
  const navigate = useNavigate();
  const base = `/jobs/${job.id}/tests`;
  const house = useHouseSheet(job.id);
  const first = job.circuits[0];
  if (!circuitId) return <Navigate to={`${base}/${first?.id ?? HOUSE}`} replace />;
  const whole = house.query.data?.sheet;
  const houseLine: StripLine = {
    id: HOUSE,
    number: 0,
    name: "Whole installation",
    state: whole ? stateOfSheet(whole) : "not-applicable",
    ...(whole && { aside: `${whole.taken}/${whole.total}` }),
  };
  const lines = [houseLine, ...job.circuits.map(tested)];
  return (
    <div className="flex grow flex-col md:grid md:grid-cols-[15rem_1fr]">
      <aside aria-label="Circuits to test" className="hidden border-r border-base-300 md:block print:hidden">
        <CircuitStrip base={base} lines={lines} chosen={circuitId} />
      </aside>
      <nav aria-label="Circuits to test, one at a time" className="px-3 pt-2 md:hidden print:hidden">
        <Choice
          name="Circuit to test"
          className="select-lg w-full font-semibold"
          value={circuitId}
          options={lines.map(
            (line) =>
              [line.id, `${line.id === HOUSE ? "" : String(line.number)} ${line.name}  ${line.aside ?? ""}`] as const,
          )}
          onCommit={(id) => void navigate(`${base}/${id}`)}
        />
      </nav>
      <main className="mx-auto flex w-full max-w-5xl grow flex-col px-3 pb-2 md:px-6">
        <VisitBar visit={house.visit} expired={house.query.data?.expired ?? []} onBegin={house.beginVisit} />
        <HoldNote jobId={job.id} circuitId={circuitId} />
        {circuitId === HOUSE ? (
          <HouseTests job={job} house={house} view={view ?? "readings"} />
        ) : (
          <CircuitTests
            key={circuitId}
            job={job}
            circuitId={circuitId}
            view={view ?? "readings"}
            ambientC={house.visit?.ambient_c ?? 20}
            visit={house.visit?.id}
          />
        )}
      </main>
    </div>
  );
}

/** How far a circuit is tested, and how its readings stand. */
function tested(line: CircuitLine): StripLine {
  return {
    ...line,
    state: stateOfReadings(line.taken, line.tests, line.cautions),
    aside: `${line.taken}/${line.total}`,
  };
}

function stateOfSheet(sheet: Sheet): State {
  return stateOfReadings(sheet.taken, sheet.verdict, sheet.cautions);
}

function Views({ base, views }: { base: string; views: readonly (readonly [string, string])[] }) {
  return (
    <nav
      aria-label="Views of the tests"
      className="flex flex-wrap justify-between border-b border-base-300 md:justify-start md:gap-1 print:hidden"
    >
      {views.map(([path, words]) => (
        <NavLink
          key={path}
          end
          to={path === "readings" ? base : `${base}/${path}`}
          className={({ isActive }) =>
            `flex min-h-11 items-center px-1.5 text-sm font-semibold whitespace-nowrap md:px-3 md:text-base ${isActive ? "border-b-4 border-accent" : "quiet"}`
          }
        >
          {words}
        </NavLink>
      ))}
    </nav>
  );
}

const PLANS = [
  ["every", "every point"],
  ["ends", "ends of runs"],
  ["share", "ends, 1 of 5"],
] as const;

/** Which points are read: one press sets the rest aside, with the reason. */
function Plan({ job }: { job: JobView }) {
  const { command, refused, dismiss } = useJobWork(job);
  if (job.head.extent.work === "change") return <span className="quiet text-sm">Only what is new is read</span>;
  return (
    <span className="flex items-center gap-2 print:hidden">
      <Choice
        name="Points to read"
        className="select-sm w-36"
        value={job.head.extent.sampling}
        options={PLANS}
        onCommit={(sampling) => void command({ op: "extent", sampling })}
      />
      {refused && <RefusalNote refused={refused} onClose={dismiss} />}
    </span>
  );
}

function Head({ title, sheet, waits, job }: { title: string; sheet: Sheet; waits: number; job?: JobView }) {
  const state = stateOfSheet(sheet);
  return (
    <div className="flex flex-wrap items-center gap-x-4 py-1 md:gap-x-6 md:py-2">
      <h1 className="text-2xl font-bold max-md:sr-only">{title}</h1>
      <span
        className={`flex items-center gap-2 text-lg font-bold md:text-xl ${verdictColour(state)}`}
        data-tests={sheet.verdict}
      >
        <VerdictMark state={state} size={26} />
        {sheet.taken === 0 ? "not tested" : state === "pass" ? "readings in order" : verdictWord(state)}
      </span>
      <span className="text-lg md:text-xl">
        <b>{sheet.taken}</b> of {sheet.total}
      </span>
      <span className={`text-sm ${waits > 0 ? "font-bold text-warning" : "quiet"}`} role="status" data-waiting={waits}>
        {waits > 0 ? `${String(waits)} on this device, not sent` : sheet.taken > 0 ? "all saved" : ""}
      </span>
      {job && <Plan job={job} />}
    </div>
  );
}

const RCD_COURSE: readonly Item["quantity"][] = ["rcd-half", "rcd-trip", "rcd-five"];
const CIRCUIT_VIEWS = [
  ["readings", "Readings"],
  ["find", "Find a fault"],
] as const;

function CircuitTests({
  job,
  circuitId,
  view,
  ambientC,
  visit,
}: {
  job: JobView;
  circuitId: string;
  view: string;
  ambientC: number;
  visit: string | undefined;
}) {
  const { query, enter, waiting } = useSheet(circuitId, ambientC, visit);
  const tester = useTester(circuitId);
  const narrow = useNarrow();
  const [chosen, setChosen] = useState<string>();
  const [list, setList] = useState(false);
  const [panel, setPanel] = useState<"import" | "lengths">();
  const base = `/jobs/${job.id}/tests/${circuitId}`;
  return (
    <Opened query={query}>
      {({ sheet, name, number, design }) => {
        const items = sheet.stages.flatMap((stage) => stage.items);
        const hand =
          items.find((item) => keyOf(item) === chosen) ??
          items.find((item) => isEmpty(item, waiting) && !item.beside && item.quantity !== "isolation");
        const asked = {
          sheet,
          waiting,
          chosen: hand && keyOf(hand),
          onChoose: setChosen,
          onEnter: (entry: Entry) => void enter(entry),
        } as const;
        const takeOne = async (item: Item) => {
          const value = await tester.take(keyOf(item));
          if (!value) return false;
          const read =
            item.unit === ""
              ? { correct: value.correct ?? null }
              : { value: value.value ?? null, beyond: value.beyond ?? false };
          enter({ quantity: item.quantity, point: item.point, source: "tester", ...read });
          return true;
        };
        const take = async () => {
          if (!hand || !(await takeOne(hand))) return;
          const next = items[items.indexOf(hand) + 1];
          if (next) setChosen(keyOf(next));
        };
        // An RCD's whole course at once: it holds at half, trips at once and at five times.
        const rcd = items.filter((item) => RCD_COURSE.includes(item.quantity));
        const takeRcd = async () => {
          for (const item of rcd) if (!(await takeOne(item))) return;
        };
        return (
          <>
            <Views base={base} views={CIRCUIT_VIEWS} />
            <Head title={`${String(number)} ${name}`} sheet={sheet} waits={waiting.size} job={job} />
            <div className="flex flex-wrap items-center gap-x-2 border-b border-base-300 bg-base-100 max-md:order-last max-md:border-t max-md:border-b-0 md:sticky md:top-0 md:z-10 print:hidden">
              {narrow && view !== "find" && (
                <button className="btn btn-ghost btn-sm" onClick={() => setList(!list)}>
                  {list ? "One at a time" : "As a list"}
                </button>
              )}
              <TesterBar
                tester={tester}
                place={hand ? [hand.title, hand.place].filter(Boolean).join(", ") : ""}
                onTake={() => void take()}
                onRcd={rcd.length > 0 && !isShut(sheet) ? () => void takeRcd() : undefined}
              />
            </div>
            {design === "fail" && (
              <p className="mb-2 border-l-4 border-error bg-base-200 px-3 py-2 font-semibold">
                The design of this circuit does not comply: good readings do not mend that.
              </p>
            )}
            {view === "find" ? (
              <FindPanel
                key={circuitId}
                circuitId={circuitId}
                sheetPath={base}
                ambientC={ambientC}
                waiting={new Map([...waiting].filter(([key]) => key.startsWith("trace:")))}
                onEnter={(entry) => enter(entry)}
                onTester={tester.hello ? (how) => tester.take(how) : undefined}
              />
            ) : narrow && !list ? (
              <PhoneEntry {...asked} chosen={chosen} />
            ) : (
              <>
                <div className="flex flex-wrap gap-2 pb-1">
                  <button
                    className="btn btn-sm"
                    aria-expanded={panel === "import"}
                    onClick={() => setPanel(panel === "import" ? undefined : "import")}
                  >
                    Readings from a file
                  </button>
                  <button
                    className="btn btn-sm"
                    aria-expanded={panel === "lengths"}
                    onClick={() => setPanel(panel === "lengths" ? undefined : "lengths")}
                  >
                    Lengths from readings
                  </button>
                </div>
                {panel === "import" && (
                  <ImportPanel circuitId={circuitId} jobId={job.id} onDone={() => setPanel(undefined)} />
                )}
                {panel === "lengths" && <LengthsPanel circuitId={circuitId} ambientC={ambientC} />}
                <StageList {...asked} />
              </>
            )}
          </>
        );
      }}
    </Opened>
  );
}

const HOUSE_VIEWS = [
  ["readings", "Readings"],
  ["trips", "RCD trips"],
  ["bell-out", "Bell out"],
  ["trace", "Trace a board"],
] as const;

function HouseTests({ job, house, view }: { job: JobView; house: ReturnType<typeof useHouseSheet>; view: string }) {
  const { query, enter, waiting } = house;
  const narrow = useNarrow();
  const [chosen, setChosen] = useState<string>();
  return (
    <Opened query={query}>
      {({ sheet, found }) => {
        const asked = {
          sheet,
          waiting,
          chosen,
          onChoose: setChosen,
          onEnter: (entry: Entry) => void enter(entry),
        } as const;
        return (
          <>
            <Views base={`/jobs/${job.id}/tests/${HOUSE}`} views={HOUSE_VIEWS} />
            {view === "trips" && <TripsPanel jobId={job.id} circuits={job.circuits} />}
            {view === "bell-out" && <BellOut jobId={job.id} circuits={job.circuits} />}
            {view === "trace" && <TraceBoard jobId={job.id} circuits={job.circuits} />}
            {view !== "readings" && <FoundList jobId={job.id} found={found} />}
            {view === "readings" && (
              <>
                <Head title="Whole installation" sheet={sheet} waits={waiting.size} />
                {narrow ? <PhoneEntry {...asked} /> : <StageList {...asked} />}
              </>
            )}
          </>
        );
      }}
    </Opened>
  );
}
