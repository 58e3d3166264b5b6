import { useState } from "react";
import { Link } from "react-router-dom";
import type { JobView, StandingFinding, TaskSaid } from "../../api/client";
import { newRecordId, priceOf } from "../../data/useInspection";
import { usePrices } from "../../data/usePrices";
import { withOrWithout } from "../../lists";
import { Figure, Labelled, Line } from "../../parts/fields";
import { codeWord } from "./FindingForm";
import { KeepOrNot } from "./KeepOrNot";
import type { PartProps } from "./part";
import { TaskMends } from "./TaskMends";

const STATUS = { proposed: "proposed", agreed: "agreed", refused: "refused", done: "done" };

/** What is done about findings: proposed with its price, agreed, done with proof. */
export function PutRightPart({ job, inspection, view }: PartProps) {
  const { findings, tasks } = view.whole;
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const [editing, setEditing] = useState<TaskSaid>();
  const held = new Set(tasks.flatMap((task) => task.said.findings));
  const open = findings.filter(
    (each) => !held.has(each.said.finding) && !["none", ""].includes(each.said.code) && each.said.status !== "outside",
  );
  const named = new Map(findings.map((each) => [each.said.finding, each]));
  return (
    <>
      {editing && (
        <TaskForm
          key={editing.task}
          start={editing}
          findings={editing.findings.flatMap((id) => named.get(id) ?? [])}
          onDone={(said) => {
            inspection.say(said);
            // What is proved to be put right is not open any more.
            if (said.status === "done")
              for (const id of said.findings) {
                const found = named.get(id);
                if (found) inspection.say({ ...found.said, status: "done" });
              }
            setEditing(undefined);
            setChosen([]);
          }}
          onClose={() => setEditing(undefined)}
        />
      )}
      <h2 className="text-xl font-bold">Tasks</h2>
      {tasks.length === 0 && <p className="quiet py-1">None yet: choose findings below, and make one of them.</p>}
      <ul>
        {tasks.map(({ said, last, price }) => (
          <li
            key={said.task}
            className="flex flex-wrap items-start gap-3 border-b border-base-300 py-2"
            data-task={said.status}
          >
            <div className="min-w-56 grow">
              <p className="font-semibold">{said.what}</p>
              <p className="quiet text-sm">
                {[
                  STATUS[said.status],
                  said.agreed_by && `by ${said.agreed_by}`,
                  said.day,
                  said.by || last.by,
                  said.parts.length > 0 && price,
                ]
                  .filter(Boolean)
                  .join(" · ")}
              </p>
              {said.findings.map((id) => (
                <p key={id} className="text-sm">
                  {codeWord(named.get(id)?.said.code ?? "")}: {named.get(id)?.said.seen}
                </p>
              ))}
              <OnTheDrawing job={job} task={said} />
              {said.proof && (
                <p className="text-sm">
                  Before: {said.proof.before || "not read"}. After: <b>{said.proof.after}</b>
                </p>
              )}
            </div>
            {said.status !== "done" && (
              <button className="btn" onClick={() => setEditing(said)}>
                Go on with it
              </button>
            )}
          </li>
        ))}
      </ul>
      {open.length > 0 && (
        <section className="pt-5">
          <h2 className="text-xl font-bold">Findings without a task</h2>
          {open.map(({ said }) => (
            <label key={said.finding} className="flex min-h-11 items-center gap-3 border-b border-base-300">
              <input
                type="checkbox"
                className="checkbox"
                checked={chosen.includes(said.finding)}
                onChange={(event) => setChosen(withOrWithout(chosen, said.finding, event.target.checked))}
              />
              <b className="min-w-10">{codeWord(said.code)}</b> {said.seen}
            </label>
          ))}
          <button
            className="btn btn-primary mt-2"
            disabled={chosen.length === 0}
            onClick={() => setEditing(fresh(chosen, open))}
          >
            One task of {chosen.length || "them"}
          </button>
        </section>
      )}
    </>
  );
}

function fresh(chosen: readonly string[], findings: readonly StandingFinding[]): TaskSaid {
  const mine = findings.filter((each) => chosen.includes(each.said.finding));
  const touched = mine.flatMap(({ said: { spot } }) =>
    spot.circuit ? [{ circuit: spot.circuit, point: spot.of === "point" ? spot.id : null }] : [],
  );
  return {
    record: "task",
    task: newRecordId(),
    findings: [...chosen],
    what: "",
    parts: [],
    status: "proposed",
    agreed_by: "",
    day: null,
    by: "",
    touched,
    proof: null,
  };
}

/** Where the drawing of what a task touches is changed: its tests are wanted again then, and nothing else is. */
function OnTheDrawing({ job, task }: { job: JobView; task: TaskSaid }) {
  const touched = new Set(task.touched.map((each) => each.circuit));
  const circuits = job.circuits.filter((each) => touched.has(each.id.replaceAll("-", "")));
  if (task.status === "done" || task.status === "refused" || circuits.length === 0) return null;
  return (
    <p className="flex flex-wrap gap-x-4 text-sm">
      Change it on the drawing:
      {circuits.map((each) => (
        <Link key={each.id} className="link" to={`/jobs/${job.id}/circuits/${each.id}`}>
          {each.number}, {each.name}
        </Link>
      ))}
    </p>
  );
}

interface FormProps {
  start: TaskSaid;
  findings: readonly StandingFinding[];
  onDone: (said: TaskSaid) => void;
  onClose: () => void;
}

function TaskForm({ start, findings, onDone, onClose }: FormProps) {
  const prices = usePrices().data?.lines ?? [];
  const [said, setSaid] = useState(start);
  const set = (more: Partial<TaskSaid>) => setSaid((before) => ({ ...before, ...more }));
  const proof = said.proof ?? { before: "", after: "", old_part: "", new_part: "" };
  const missing = !said.what.trim()
    ? "what is done"
    : said.parts.some((part) => !part.what.trim())
      ? "what each part is"
      : said.status === "agreed" && !said.agreed_by
        ? "who agreed"
        : said.status === "done" && !proof.after
          ? "what was read or seen after it"
          : "";
  const setProof = (more: Partial<typeof proof>) => set({ proof: { ...proof, ...more } });
  const setPart = (at: number, more: Partial<TaskSaid["parts"][number]>) =>
    set({ parts: said.parts.map((each, other) => (other === at ? { ...each, ...more } : each)) });
  return (
    <form
      className="mb-4 grid gap-3 border-2 border-accent bg-base-200 p-3"
      aria-label="Task"
      onSubmit={(event) => {
        event.preventDefault();
        if (!missing) onDone({ ...said, proof: said.status === "done" ? proof : said.proof });
      }}
    >
      <ul className="list-disc pl-6">
        {findings.map(({ said: each }) => (
          <li key={each.finding}>
            <b>{codeWord(each.code)}</b> {each.seen}
          </li>
        ))}
      </ul>
      <Line label="What is done" most={400} value={said.what} onValue={(what) => set({ what })} />
      <fieldset className="grid gap-2">
        <legend className="font-semibold">Materials and work</legend>
        {said.parts.map((part, at) => (
          <div key={at} className="grid grid-cols-[1fr_5rem_7rem_auto] items-end gap-2">
            <input
              className="input w-full"
              aria-label={`Part ${String(at + 1)}`}
              list="prices"
              value={part.what}
              maxLength={80}
              onChange={(event) => {
                const what = event.target.value;
                const priced = prices.find((line) => line.name === what || line.code === what);
                setPart(at, priced ? { what: priced.name, price: String(priced.price) } : { what });
              }}
            />
            <Figure
              name={`Count ${String(at + 1)}`}
              unit="×"
              value={part.count}
              required
              onCommit={(count) => setPart(at, { count: count ?? 1 })}
            />
            <Figure
              name={`Price ${String(at + 1)}`}
              unit="each"
              value={Number(part.price)}
              required
              onCommit={(price) => setPart(at, { price: String(price ?? 0) })}
            />
            <button
              type="button"
              className="btn btn-ghost"
              aria-label={`Take part ${String(at + 1)} away`}
              onClick={() => set({ parts: said.parts.filter((_, other) => other !== at) })}
            >
              ✕
            </button>
          </div>
        ))}
        <datalist id="prices">
          {prices.map((line) => (
            <option key={line.code} value={line.name}>
              {line.price} {line.unit}
            </option>
          ))}
        </datalist>
        <p className="flex items-center gap-3">
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => set({ parts: [...said.parts, { what: "", count: 1, price: "0" }] })}
          >
            Add a part
          </button>
          {said.parts.length > 0 && <b>{priceOf(said)} together</b>}
        </p>
      </fieldset>
      <div className="grid gap-3 md:grid-cols-4">
        <Labelled label="It is">
          <select
            className="select w-full"
            name="Task is"
            value={said.status}
            onChange={(event) => set({ status: event.target.value as TaskSaid["status"] })}
          >
            {Object.entries(STATUS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </Labelled>
        <Line label="Agreed by" value={said.agreed_by} onValue={(agreed_by) => set({ agreed_by })} />
        <Line
          label="Day"
          name="Task day"
          type="date"
          value={said.day ?? ""}
          onValue={(words) => set({ day: words || null })}
        />
        <Line label="By whom" value={said.by} onValue={(by) => set({ by })} />
      </div>
      {[...new Set(said.touched.map((each) => each.circuit))].map((circuit) => (
        <TaskMends key={circuit} circuit={circuit} onMade={(change) => set({ what: said.what.trim() || change })} />
      ))}
      {said.status === "done" && (
        <div className="grid gap-3 md:grid-cols-2">
          <Line
            label="Before, read or seen"
            most={400}
            value={proof.before}
            onValue={(before) => setProof({ before })}
          />
          <Line label="After, read or seen" most={400} value={proof.after} onValue={(after) => setProof({ after })} />
          <Line label="Old part" value={proof.old_part} onValue={(old_part) => setProof({ old_part })} />
          <Line label="New part" value={proof.new_part} onValue={(new_part) => setProof({ new_part })} />
          <p className="md:col-span-2">The tests of what was touched are wanted again, and nothing else is.</p>
        </div>
      )}
      <KeepOrNot words="Keep the task" missing={missing} onClose={onClose} />
    </form>
  );
}
