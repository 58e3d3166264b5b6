import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router-dom";
import {
  asRefused,
  type ExerciseAct,
  type ExerciseSeen,
  type ExerciseView,
  type Reckoning,
  type Refused,
} from "../api/client";
import { Header } from "../app/Header";
import { usePractice, usePracticeRun } from "../data/usePractice";
import { Opened } from "../parts/Opened";
import { RefusalNote } from "../parts/RefusalNote";
import { AskPart } from "./AskPart";
import { PictureView } from "./PictureView";

/** An exercise: what is seen, what is asked, what came of what was done, and how it went. */
export function ExercisePage() {
  const { runId = "" } = useParams();
  const run = usePracticeRun(runId);
  return (
    <>
      <Header needs={["read"]}>
        <h1 className="truncate text-lg font-bold">
          <Link className="link" to="/practice">
            Practice
          </Link>
        </h1>
      </Header>
      <Opened query={run.query}>
        {(view) => <Running key={view.id} runId={view.id} exercise={view.exercise} act={run.act} />}
      </Opened>
    </>
  );
}

interface RunningProps {
  runId: string;
  exercise: ExerciseView;
  act: (act: ExerciseAct) => Promise<void>;
}

function Running({ runId, exercise, act }: RunningProps) {
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  const done = (one: ExerciseAct) => {
    setBusy(true);
    setRefused(undefined);
    act(one)
      .catch((error: unknown) => setRefused(asRefused(error)))
      .finally(() => setBusy(false));
  };
  const { ask, reckoning } = exercise;
  return (
    <main
      className="mx-auto grid max-w-6xl gap-4 p-3 md:p-4 lg:grid-cols-[minmax(0,1fr)_24rem]"
      data-exercise={exercise.kind}
      data-seed={exercise.seed}
    >
      <div className="min-w-0">
        <p className="flex flex-wrap items-baseline gap-x-4">
          <b className="text-xl">{exercise.title}</b>
          <span className="quiet text-sm">
            level {exercise.level}, number {exercise.seed}, {exercise.minutes} min so far
            {exercise.dust > 0 && `, dust ${String(exercise.dust)}`}
          </span>
        </p>
        {exercise.story && (
          <p className="border-l-4 border-accent bg-base-200 px-3 py-2 my-2 text-lg whitespace-pre-line">
            {exercise.story}
          </p>
        )}
        {exercise.picture && <PictureView picture={exercise.picture} />}
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        {reckoning && <Reckoned runId={runId} exercise={exercise} reckoning={reckoning} onRefused={setRefused} />}
        {ask && (
          <>
            <AskPart key={exercise.kind === "switching" ? "" : ask.words} ask={ask} busy={busy} onAct={done} />
            <p className="flex flex-wrap items-center gap-3 pt-3">
              {exercise.hints_left > 0 && (
                <button className="btn" data-hint disabled={busy} onClick={() => done({ hint: true })}>
                  A hint (costs 10 marks)
                </button>
              )}
            </p>
          </>
        )}
        {exercise.hints.map((hint) => (
          <p key={hint} className="border-l-4 border-warning px-3 py-1" data-hinted>
            {hint}
          </p>
        ))}
      </div>
      <section aria-label="What was done" className="min-w-0">
        <h2 className="font-bold">What you did</h2>
        {exercise.seen.length === 0 && <p className="quiet">Nothing yet.</p>}
        <ol className="grid gap-2" data-seen={exercise.seen.length}>
          {[...exercise.seen].reverse().map((each, at) => (
            <SeenLine key={exercise.seen.length - at} seen={each} />
          ))}
        </ol>
      </section>
    </main>
  );
}

function SeenLine({ seen }: { seen: ExerciseSeen }) {
  const parts = seen.came.split("; ");
  const mark = seen.unsafe ? "✕ " : seen.good === true ? "✓ " : seen.good === false ? "✕ " : "";
  const tone = seen.unsafe || seen.good === false ? "text-error" : seen.good === true ? "text-success" : "";
  return (
    <li className="border-b border-base-300 pb-2">
      <span className="quiet block text-sm">{seen.did}</span>
      {parts.length > 3 ? (
        <ul className="grid grid-cols-2 gap-x-4 text-sm tabular-nums">
          {parts.map((part) => (
            <li key={part}>{part}</li>
          ))}
        </ul>
      ) : (
        <b className={tone}>
          {mark}
          {seen.came}
        </b>
      )}
      {seen.why && <span className="block text-sm">{seen.why}</span>}
      {seen.clause && <span className="quiet block text-xs">{seen.clause}</span>}
    </li>
  );
}

interface ReckonedProps {
  runId: string;
  exercise: ExerciseView;
  reckoning: Reckoning;
  onRefused: (refused: Refused) => void;
}

function Reckoned({ runId, exercise, reckoning, onRefused }: ReckonedProps) {
  const { start } = usePractice();
  const go = useNavigate();
  const again = (seed?: number) => {
    const { kind, level, school } = exercise;
    start({ kind, level, school, ...(seed === undefined ? {} : { seed }) }, { like: runId })
      .then((run) => go(`/practice/runs/${run.id}`))
      .catch((error: unknown) => onRefused(asRefused(error)));
  };
  return (
    <section
      className="my-2 border-2 border-accent bg-base-200 p-3"
      data-marks={reckoning.marks}
      aria-label="How it went"
    >
      <p className="flex flex-wrap items-baseline gap-x-4">
        <b className="text-4xl tabular-nums">{reckoning.marks}</b>
        <span className="font-semibold">of 100 marks</span>
        {!reckoning.safe && <b className="text-error">✕ Not safe: nothing else counts</b>}
      </p>
      <p>
        {reckoning.right} of {reckoning.asked} right, {reckoning.minutes} min, {reckoning.least_minutes} min by one who
        knows
        {reckoning.dust + reckoning.least_dust > 0 &&
          `; dust ${String(reckoning.dust)}, ${String(reckoning.least_dust)} by the same (a box off is 1, a wall opened 5)`}
        {reckoning.hints > 0 && `, ${String(reckoning.hints)} hints`}.
      </p>
      {reckoning.said.map((each) => (
        <p key={each}>{each}</p>
      ))}
      {reckoning.debrief.length > 0 && (
        <ol className="mt-2 grid gap-1 border-t border-base-300 pt-2" data-debrief={reckoning.debrief.length}>
          {reckoning.debrief.map((each, at) => (
            <li key={at}>
              <span className="quiet text-sm">{each.did}</span>
              <span className="block">{each.came}</span>
            </li>
          ))}
        </ol>
      )}
      <p className="flex flex-wrap gap-2 pt-3">
        <button className="btn btn-primary" data-another onClick={() => again()}>
          Another one
        </button>
        <button className="btn" onClick={() => again(exercise.seed)}>
          The same again
        </button>
        <Link className="btn btn-ghost" to="/practice">
          All of them
        </Link>
      </p>
    </section>
  );
}
