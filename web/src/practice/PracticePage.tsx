import { useState } from "react";
import { Link, useNavigate } from "react-router-dom";
import {
  asRefused,
  type ExerciseAsked,
  type ExerciseKind,
  type PracticeHome,
  type PracticeRung,
  type Refused,
  type RunLine,
  type School,
  type SetDocument,
  type SetLine,
} from "../api/client";
import { Header } from "../app/Header";
import { useMe } from "../data/me";
import { useLearners, usePractice } from "../data/usePractice";
import { Choice, Line } from "../parts/fields";
import { Opened } from "../parts/Opened";
import { RefusalNote } from "../parts/RefusalNote";
import { KIND_WORDS, useSchool } from "./school";

const LEVELS = ["1", "2", "3", "4", "5"].map((each) => [each, `level ${each}`] as const);

/** The practice house: what comes next in each kind, what was set, one's own record, and how the others get on. */
export function PracticePage() {
  const me = useMe();
  const practice = usePractice();
  const [school, setSchool] = useSchool();
  const [refused, setRefused] = useState<Refused>();
  const go = useNavigate();
  const begin = (asked: ExerciseAsked, more: { set_id?: string } = {}) => {
    setRefused(undefined);
    practice
      .start(asked, more)
      .then((run) => go(`/practice/runs/${run.id}`))
      .catch((error: unknown) => setRefused(asRefused(error)));
  };
  const maySet = me.rights.includes("issue");
  return (
    <>
      <Header needs={["read"]}>
        <h1 className="truncate text-lg font-bold">Practice</h1>
      </Header>
      <main className="mx-auto max-w-6xl p-3 md:p-4" data-practice>
        <p className="quiet pb-2">
          A house that can bite, and says why. Nothing here is live; what you learn is for what is. A figure that is
          foretold never replaces a test.
        </p>
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        <Opened query={practice.query}>
          {(home) => (
            <div className="grid gap-6 lg:grid-cols-[minmax(0,1fr)_22rem]">
              <div className="min-w-0">
                <Sets sets={home.sets} begin={begin} />
                <ul className="grid gap-2">
                  {home.rungs.map((rung) => (
                    <RungLine
                      key={rung.kind}
                      rung={rung}
                      begin={(level, seed) => begin(askedOf(rung.kind, level, seed, school))}
                    />
                  ))}
                </ul>
                <SchoolFields school={school} onSchool={setSchool} />
              </div>
              <aside className="min-w-0">
                <Record runs={home.runs} />
                {maySet && <SetForm rungs={home.rungs} school={school} set={practice.set} onRefused={setRefused} />}
                {maySet && <Learners />}
              </aside>
            </div>
          )}
        </Opened>
      </main>
    </>
  );
}

function askedOf(kind: ExerciseKind, level: number, seed: number | null, school: School): ExerciseAsked {
  return { kind, level, school, ...(seed === null ? {} : { seed }) };
}

function RungLine({ rung, begin }: { rung: PracticeRung; begin: (level: number, seed: number | null) => void }) {
  const [level, setLevel] = useState(String(rung.level));
  return (
    <li
      className="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1 border-b border-base-300 pb-2"
      data-rung={rung.kind}
    >
      <span className="min-w-0">
        <b className="text-lg">{rung.title}</b>
        <span className="block text-sm">{KIND_WORDS[rung.kind]}</span>
        <span className="quiet block text-sm">
          {rung.why}
          {rung.done > 0 && `; ${String(rung.done)} done`}
          {rung.best > 0 && `, best at this level ${String(rung.best)}`}
        </span>
      </span>
      <span className="flex items-center gap-2">
        <Choice name={`Level of ${rung.title}`} value={level} options={LEVELS} onCommit={setLevel} className="w-28" />
        <button
          className="btn btn-primary min-h-11"
          data-begin={rung.kind}
          onClick={() => begin(Number(level), Number(level) === rung.level ? rung.seed : null)}
        >
          {rung.seed === null ? "Begin" : "Once more"}
        </button>
      </span>
    </li>
  );
}

function Sets({
  sets,
  begin,
}: {
  sets: readonly SetLine[];
  begin: (asked: ExerciseAsked, more: { set_id?: string }) => void;
}) {
  const open = sets.filter((each) => each.marks === null);
  if (open.length === 0) return null;
  return (
    <section className="mb-4 border-2 border-accent bg-base-200 p-3" aria-label="Set for you">
      <h2 className="font-bold">Set for everybody</h2>
      {open.map((each) => (
        <p key={each.id} className="flex flex-wrap items-center gap-3 py-1" data-set={each.id}>
          <span className="grow">
            <b>{each.title}</b>, level {each.level}, number {each.seed}
            <span className="quiet block text-sm">
              {each.note && `${each.note}: `}
              {each.by}, {each.at.slice(0, 10)}
            </span>
          </span>
          {each.run_id ? (
            <Link className="btn" to={`/practice/runs/${each.run_id}`}>
              Go on
            </Link>
          ) : (
            <button
              className="btn btn-primary"
              onClick={() => begin({ kind: each.kind, level: each.level }, { set_id: each.id })}
            >
              Begin
            </button>
          )}
        </p>
      ))}
    </section>
  );
}

function SchoolFields({ school, onSchool }: { school: School; onSchool: (school: School) => void }) {
  return (
    <fieldset className="grid gap-2 pt-4 sm:grid-cols-3">
      <legend className="font-bold">By which school</legend>
      <Choice
        name="Rulebook"
        caption="Rules"
        value={school.rulebook}
        options={[
          ["bs7671", "BS 7671"],
          ["iec60364", "IEC 60364"],
        ]}
        onCommit={(rulebook) => onSchool({ ...school, rulebook })}
      />
      <Choice
        name="Colours"
        caption="Colours in the wall"
        value={school.colours}
        options={[
          ["harmonised", "brown and blue"],
          ["uk-before-2004", "red and black"],
          ["north-america", "black and white"],
          ["australia-new-zealand", "Australia, New Zealand"],
        ]}
        onCommit={(colours) => onSchool({ ...school, colours })}
      />
      <Choice
        name="Loop"
        caption="The feed is looped"
        value={school.loop}
        options={[
          ["at-switch", "at the switch"],
          ["at-light", "at the light"],
        ]}
        onCommit={(loop) => onSchool({ ...school, loop })}
      />
    </fieldset>
  );
}

function Record({ runs }: { runs: readonly RunLine[] }) {
  return (
    <section aria-label="Your record">
      <h2 className="font-bold">Your record</h2>
      {runs.length === 0 && <p className="quiet">Nothing yet: begin with the first.</p>}
      <ul data-record={runs.length}>
        {runs.slice(0, 12).map((run) => (
          <li key={run.id} className="border-b border-base-300">
            <Link className="flex min-h-11 items-center gap-3 py-1" to={`/practice/runs/${run.id}`}>
              <span className="grow">
                {run.title}{" "}
                <span className="quiet text-sm">
                  level {run.level}, number {run.seed}
                </span>
              </span>
              <b className={run.marks && !run.marks.safe ? "text-error" : ""}>
                {run.marks ? (run.marks.safe ? run.marks.marks : "✕ unsafe") : "open"}
              </b>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface SetFormProps {
  rungs: PracticeHome["rungs"];
  school: School;
  set: (exercise: SetDocument) => Promise<void>;
  onRefused: (refused: Refused | undefined) => void;
}

function SetForm({ rungs, school, set, onRefused }: SetFormProps) {
  const [kind, setKind] = useState<string>("isolation");
  const [level, setLevel] = useState("1");
  const [seed, setSeed] = useState("1");
  const [note, setNote] = useState("");
  const isNumber = /^\d{1,9}$/.test(seed.trim());
  return (
    <form
      className="grid grid-cols-2 gap-2 pt-4"
      aria-label="Set an exercise to everybody"
      onSubmit={(event) => {
        event.preventDefault();
        onRefused(undefined);
        set({ kind: kind as ExerciseKind, level: Number(level), seed: Number(seed), school, note: note.trim() })
          .then(() => setNote(""))
          .catch((error: unknown) => onRefused(asRefused(error)));
      }}
    >
      <h2 className="col-span-2 font-bold">Set one to everybody</h2>
      <Choice
        name="Kind to set"
        caption="Which"
        value={kind}
        options={rungs.map((rung) => [rung.kind, rung.title] as const)}
        onCommit={setKind}
      />
      <Choice name="Level to set" caption="Level" value={level} options={LEVELS} onCommit={setLevel} />
      <Line label="Number" name="Number to set" value={seed} onValue={setSeed} />
      <Line label="A word to it" name="Word to it" value={note} onValue={setNote} />
      <button className="btn min-h-11" disabled={!isNumber}>
        Set it
      </button>
    </form>
  );
}

function Learners() {
  const learners = useLearners(true);
  return (
    <Opened query={learners}>
      {(lines) => (
        <section className="pt-4" aria-label="How the others get on" data-learners={lines.length}>
          <h2 className="font-bold">How they get on</h2>
          {lines.length === 0 && <p className="quiet">Nobody has practised yet.</p>}
          {lines.map((line) => (
            <details key={line.id} className="border-b border-base-300">
              <summary className="min-h-11 cursor-pointer py-2">
                <b>{line.name}</b>: {line.ended} ended
                {line.unsafe > 0 && <b className="text-error">, {line.unsafe} unsafe</b>}
              </summary>
              <p className="text-sm">
                {line.rungs
                  .filter((rung) => rung.done > 0)
                  .map((rung) => `${rung.title}: level ${String(rung.level)}`)
                  .join("; ")}
              </p>
              <ul className="pb-2 text-sm">
                {line.erred.slice(0, 8).map((each, at) => (
                  <li key={at}>
                    ✕ {each.did} <span className="quiet">{each.clause}</span>
                  </li>
                ))}
              </ul>
            </details>
          ))}
        </section>
      )}
    </Opened>
  );
}
