import { useEffect, useState, type ComponentProps } from "react";
import type { ExerciseAct, ExerciseAsk, ExerciseChoice, ExerciseTogether } from "../api/client";
import { withOrWithout } from "../lists";
import { parseFigure } from "../numbers";
import { Line } from "../parts/fields";
import { PictureView } from "./PictureView";
import { WiringForm } from "./WiringForm";

interface Props {
  ask: ExerciseAsk;
  busy: boolean;
  onAct: (act: ExerciseAct) => void;
}

/** What is asked now, and how it is answered: by one press, by several, by a figure, or by wiring. */
export function AskPart({ ask, busy, onAct }: Props) {
  useDigits(ask, busy, onAct);
  const plain = ask.choices.filter((each) => each.group === "");
  const groups = [...new Set([...ask.choices, ...ask.together].map((each) => each.group))].filter(Boolean);
  return (
    <section aria-label="What is asked">
      <h2 className="pb-2 text-lg font-bold" data-ask>
        {ask.words}
      </h2>
      {ask.picture && <PictureView picture={ask.picture} onChoice={busy ? undefined : (choice) => onAct({ choice })} />}
      {ask.unit && <FigureAsk unit={ask.unit} busy={busy} onAct={onAct} />}
      {ask.several ? (
        <Several choices={ask.choices} busy={busy} onAct={onAct} />
      ) : (
        <Choices choices={plain} busy={busy} onAct={onAct} />
      )}
      {groups.length > 0 && <Grouped key={groups.length} ask={ask} groups={groups} busy={busy} onAct={onAct} />}
      {ask.boxes.length > 0 && <WiringForm boxes={ask.boxes} busy={busy} onAct={onAct} />}
    </section>
  );
}

/** A digit presses the choice of that number, where nothing is being typed. */
function useDigits(ask: ExerciseAsk, busy: boolean, onAct: (act: ExerciseAct) => void) {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (busy || ask.several || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLSelectElement) return;
      const choice = ask.choices.filter((each) => each.group === "")[Number(event.key) - 1];
      if (choice) onAct({ choice: choice.id });
    }
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [ask, busy, onAct]);
}

/** What doing something takes, in words. */
function costOf({ minutes, dust }: Pick<ExerciseChoice, "minutes" | "dust">): string {
  return [minutes > 0 && `${String(minutes)} min`, dust > 0 && `dust ${String(dust)}`].filter(Boolean).join(", ");
}

interface ChoicesProps {
  choices: readonly ExerciseChoice[];
  busy: boolean;
  onAct: (act: ExerciseAct) => void;
}

function Choices({ choices, busy, onAct }: ChoicesProps) {
  return (
    <ul className="grid gap-2 py-1 sm:grid-cols-2">
      {choices.map((each, at) => (
        <li key={each.id} className="grid">
          <WideButton
            data-choice={each.id}
            disabled={busy}
            cost={costOf(each)}
            onClick={() => onAct({ choice: each.id })}
          >
            {each.group === "" && at < 9 && <span className="quiet mr-2 font-normal max-sm:hidden">{at + 1}</span>}
            {each.words}
          </WideButton>
        </li>
      ))}
    </ul>
  );
}

/** A button as wide as it gets, with what pressing it takes at its end. */
function WideButton({ cost, children, ...rest }: ComponentProps<"button"> & { cost: string }) {
  return (
    <button
      className="btn h-auto min-h-12 justify-between px-3 py-2 text-left text-base font-semibold whitespace-normal"
      {...rest}
    >
      <span>{children}</span>
      <span className="quiet text-sm font-normal whitespace-nowrap">{cost}</span>
    </button>
  );
}

interface TickProps {
  id: string;
  name: string;
  chosen: readonly string[];
  onChosen: (chosen: readonly string[]) => void;
}

/** A box to tick, to have it among what is chosen. */
function Tick({ id, name, chosen, onChosen }: TickProps) {
  return (
    <input
      type="checkbox"
      className="checkbox"
      name={name}
      checked={chosen.includes(id)}
      onChange={(event) => onChosen(withOrWithout(chosen, id, event.target.checked))}
    />
  );
}

function Several({ choices, busy, onAct }: ChoicesProps) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  return (
    <div className="grid gap-1 py-1">
      {choices.map((each) => (
        <label key={each.id} className="flex min-h-11 items-center gap-3 border-b border-base-300">
          <Tick id={each.id} name={each.id} chosen={chosen} onChosen={setChosen} />
          {each.words}
        </label>
      ))}
      <button
        className="btn btn-primary mt-2 min-h-11 justify-self-start"
        data-several
        disabled={busy || chosen.length === 0}
        onClick={() => onAct({ choices: [...chosen] })}
      >
        These
      </button>
    </div>
  );
}

function FigureAsk({ unit, busy, onAct }: { unit: string; busy: boolean; onAct: (act: ExerciseAct) => void }) {
  const [typed, setTyped] = useState("");
  const figure = parseFigure(typed);
  return (
    <form
      className="flex items-end gap-2 py-1"
      onSubmit={(event) => {
        event.preventDefault();
        if (figure == null) return;
        setTyped("");
        onAct({ figure });
      }}
    >
      <Line label={`Your figure, ${unit}`} name="Figure" value={typed} onValue={setTyped} />
      <button className="btn btn-primary min-h-11" disabled={busy || figure == null}>
        Say it
      </button>
    </form>
  );
}

interface GroupedProps {
  ask: ExerciseAsk;
  groups: readonly string[];
  busy: boolean;
  onAct: (act: ExerciseAct) => void;
}

/** Many choices: first of which sort, then which, narrowed by what is typed. */
function Grouped({ ask, groups, busy, onAct }: GroupedProps) {
  const [group, setGroup] = useState("");
  const [typed, setTyped] = useState("");
  const together = ask.together.filter((each) => each.group === group);
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const here = ask.choices.filter(
    (each) => each.group === group && words.every((word) => each.words.toLowerCase().includes(word)),
  );
  return (
    <div className="pt-2">
      <div className="grid gap-2 sm:grid-cols-2">
        <label className="flex flex-col gap-0.5">
          <span className="text-sm font-semibold">
            {ask.boxes.length > 0 ? "Before it is wired" : "Measure, or say what it is"}
          </span>
          <select
            className="select min-h-11 w-full"
            name="Sort"
            value={group}
            onChange={(event) => setGroup(event.target.value)}
          >
            <option value="">choose</option>
            {groups.map((each) => (
              <option key={each} value={each}>
                {each}
              </option>
            ))}
          </select>
        </label>
        {here.length + typed.length > 0 && <Line label="Narrow it" name="Narrow" value={typed} onValue={setTyped} />}
      </div>
      {group !== "" && (
        <div className="max-h-96 overflow-y-auto">
          <Choices choices={here} busy={busy} onAct={onAct} />
        </div>
      )}
      {together.length > 0 && <TogetherForm together={together} busy={busy} onAct={onAct} />}
    </div>
  );
}

interface TogetherProps {
  together: readonly ExerciseTogether[];
  busy: boolean;
  onAct: (act: ExerciseAct) => void;
}

/** Something done to several at once: which of them, and then what. */
function TogetherForm({ together, busy, onAct }: TogetherProps) {
  const [chosen, setChosen] = useState<readonly string[]>([]);
  const of = together[0]?.of ?? [];
  const ids = of.filter((each) => chosen.includes(each.id)).map((each) => each.id);
  return (
    <div className="pt-1" data-together>
      <ul className="grid grid-cols-2 sm:grid-cols-3">
        {of.map((each) => (
          <li key={each.id}>
            <label className="flex min-h-11 items-center gap-3">
              <Tick id={each.id} name={`together ${each.id}`} chosen={chosen} onChosen={setChosen} />
              {each.words}
            </label>
          </li>
        ))}
      </ul>
      <ul className="grid gap-2 py-1 sm:grid-cols-2">
        {together.map((each) => (
          <li key={each.id} className="grid">
            <WideButton
              data-do={each.id}
              disabled={busy || ids.length === 0}
              cost={costOf({ minutes: each.minutes, dust: 0 })}
              onClick={() => onAct({ choice: each.id + ids.join("+") })}
            >
              {each.words}
            </WideButton>
          </li>
        ))}
      </ul>
    </div>
  );
}
