import { useState } from "react";
import { NavLink } from "react-router-dom";
import type { WalkArea, WalkItem } from "../../api/client";
import { Labelled } from "../../parts/fields";
import { useFindingKinds } from "../../data/useInspection";
import { FindingForm, emptyFinding } from "./FindingForm";
import type { PartProps } from "./part";

type Outcome = NonNullable<WalkItem["standing"]>["line"]["outcome"];

const OUTCOMES: Record<Outcome, string> = {
  sound: "sound",
  finding: "finding",
  "not-verified": "not looked at",
  limited: "limited",
  "not-applicable": "does not apply",
};

/** The walk: place by place, one item at a time; what the drawing knows is offered, to be confirmed. */
export function WalkPart({ job, inspection, view, area: asked }: PartProps & { area: string | undefined }) {
  const areas = view.whole.areas;
  const area = areas.find((each) => each.key === asked) ?? areas.find(openOf) ?? areas[0];
  if (!area) return null;
  return (
    <div className="grid gap-4 md:grid-cols-[15rem_1fr]">
      <nav aria-label="Places of the walk" className="flex gap-1 overflow-x-auto md:flex-col md:overflow-visible">
        {areas.map((each) => (
          <NavLink
            key={each.key}
            to={`/jobs/${job.id}/inspection/walk/${encodeURIComponent(each.key)}`}
            className={`flex min-h-11 shrink-0 items-center justify-between gap-2 border px-3 ${each.key === area.key ? "border-2 border-accent font-bold" : "border-base-300"}`}
            data-area={each.key}
          >
            <span className="whitespace-nowrap md:whitespace-normal">{each.title}</span>
            <span className={openOf(each) ? "font-semibold text-warning" : "text-success"}>{openOf(each) || "✓"}</span>
          </NavLink>
        ))}
      </nav>
      <Area key={area.key} job={job} area={area} say={inspection.say} />
    </div>
  );
}

function openOf(area: WalkArea): number {
  return area.items.filter((item) => !item.standing).length;
}

function Area({ job, area, say }: { job: PartProps["job"]; area: WalkArea; say: PartProps["inspection"]["say"] }) {
  const [chosen, setChosen] = useState<string>();
  const [finding, setFinding] = useState<WalkItem>();
  const [all, setAll] = useState(false);
  const open = area.items.filter((item) => !item.standing);
  const current = area.items.find((item) => item.kind.id === chosen) ?? open[0];
  const kinds = useFindingKinds().data ?? [];
  function answer(items: readonly WalkItem[], outcome: Outcome, why = "") {
    say({ record: "items", area: area.key, lines: items.map((item) => ({ item: item.kind.id, outcome, why })) });
    setChosen(undefined);
    setAll(false);
  }
  return (
    <section aria-label={area.title}>
      <div className="flex flex-wrap items-center justify-between gap-2 pb-2">
        <h2 className="text-xl font-bold">{area.title}</h2>
        {open.length > 1 && !all && (
          <button className="btn" onClick={() => setAll(true)}>
            All sound here
          </button>
        )}
      </div>
      {all && (
        <div className="mb-3 border-2 border-accent p-3" role="group" aria-label="All sound here">
          <p className="font-semibold">You say that these {open.length} were looked at and are sound:</p>
          <ul className="list-disc pl-6">
            {open.map((item) => (
              <li key={item.kind.id} className={item.model?.outcome === "finding" ? "font-semibold text-error" : ""}>
                {item.kind.asks}
                {item.model?.outcome === "finding" && `. The drawing says otherwise: ${item.model.words}`}
              </li>
            ))}
          </ul>
          <div className="flex gap-2 pt-2">
            <button className="btn btn-primary" onClick={() => answer(open, "sound")}>
              All sound
            </button>
            <button className="btn" onClick={() => setAll(false)}>
              Not yet
            </button>
          </div>
        </div>
      )}
      {finding && (
        <FindingForm
          jobId={job.id}
          rulebook={job.head.rulebook}
          kinds={kinds}
          offered={finding.kind.kinds}
          start={emptyFinding(finding.kind.kinds[0] ?? "other", spotOf(area), finding.kind.clause)}
          onDone={(said) => {
            say(said);
            answer([finding], "finding");
            setFinding(undefined);
          }}
          onClose={() => setFinding(undefined)}
        />
      )}
      <ul>
        {area.items.map((item) => (
          <li key={item.kind.id} className="border-b border-base-300" data-item={item.kind.id}>
            {item === current && !finding ? (
              <Current
                item={item}
                onAnswer={(outcome, why) => answer([item], outcome, why)}
                onFinding={() => setFinding(item)}
              />
            ) : (
              <button
                className="flex min-h-11 w-full items-center justify-between gap-3 py-1 text-left"
                onClick={() => setChosen(item.kind.id)}
              >
                <span className={item.standing ? "" : "font-semibold"}>{item.kind.asks}</span>
                <Said item={item} />
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Said({ item }: { item: WalkItem }) {
  const stands = item.standing;
  if (!stands) return <span className="shrink-0 text-warning">open</span>;
  const outcome = stands.line.outcome;
  const colour = outcome === "sound" ? "text-success" : outcome === "finding" ? "text-error" : "quiet";
  return (
    <span className={`shrink-0 font-semibold ${colour}`} title={`${stands.last.by}, ${stands.last.at.slice(0, 16)}`}>
      {OUTCOMES[outcome]}
    </span>
  );
}

/** The item in hand: large, with what the drawing knows of it, and one press for each answer. */
function Current({
  item,
  onAnswer,
  onFinding,
}: {
  item: WalkItem;
  onAnswer: (outcome: Outcome, why?: string) => void;
  onFinding: () => void;
}) {
  const [aside, setAside] = useState<"not-verified" | "limited">();
  const [why, setWhy] = useState("");
  return (
    <div className="my-2 border-2 border-accent bg-base-200 p-3" data-current>
      <p className="text-lg font-bold">{item.kind.asks}</p>
      <p className="quiet text-sm">clause {item.kind.clause}</p>
      {item.model && (
        <p className={item.model.outcome === "finding" ? "pt-1 font-semibold text-error" : "pt-1"}>
          The drawing says: {item.model.words}
        </p>
      )}
      {item.standing && (
        <p className="pt-1">
          So far: <b>{OUTCOMES[item.standing.line.outcome]}</b> {item.standing.line.why}
        </p>
      )}
      <div className="grid grid-cols-2 gap-2 pt-2 sm:flex sm:flex-wrap">
        <button className="btn h-14 btn-success sm:h-11" onClick={() => onAnswer("sound")}>
          Sound
        </button>
        <button className="btn h-14 border-2 border-error sm:h-11" onClick={onFinding}>
          Finding
        </button>
        <button
          className="btn h-14 border border-base-content/60 bg-base-100 sm:h-11"
          onClick={() => onAnswer("not-applicable")}
        >
          Does not apply
        </button>
        <button
          className="btn h-14 border border-base-content/60 bg-base-100 sm:h-11"
          onClick={() => setAside("not-verified")}
        >
          Not looked at
        </button>
      </div>
      {aside && (
        <form
          className="flex flex-wrap items-end gap-2 pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (why.trim()) onAnswer(aside, why.trim());
          }}
        >
          <Labelled label="Why not">
            <input
              className="input"
              autoFocus
              value={why}
              onChange={(event) => setWhy(event.target.value)}
              maxLength={400}
            />
          </Labelled>
          <label className="flex items-center gap-2 pb-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={aside === "limited"}
              onChange={(event) => setAside(event.target.checked ? "limited" : "not-verified")}
            />
            agreed as a limit
          </label>
          <button className="btn btn-primary" disabled={!why.trim()}>
            Keep
          </button>
        </form>
      )}
    </div>
  );
}

/** Where a finding of an area is: the supply, its board, its room. */
function spotOf(area: WalkArea) {
  const id = area.key.split(":")[1] ?? "";
  const of =
    area.kind === "intake"
      ? "supply"
      : area.kind === "board"
        ? "board"
        : area.kind === "room" || area.kind === "bath"
          ? "room"
          : "job";
  return { of, id: of === "supply" ? "" : id === "all" ? "" : id, circuit: null, words: area.title } as const;
}
