import { useState } from "react";
import type { Code, FindingKind, FindingSaid } from "../../api/client";
import { Photos } from "../../app/Photos";
import { newRecordId, stampNow } from "../../data/useInspection";
import { Labelled, Line } from "../../parts/fields";
import { CODES, questionsOf, suggested } from "./codes";
import { KeepOrNot } from "./KeepOrNot";
import { YesNoAsk } from "./YesNoAsk";

export function emptyFinding(kind: string, spot: FindingSaid["spot"], clause: string): FindingSaid {
  return {
    record: "finding",
    finding: newRecordId(),
    kind,
    spot,
    seen: "",
    clause,
    code: "",
    suggested: "",
    why: "",
    departs: "",
    answers: [],
    since: "",
    status: "open",
    danger: null,
    offer: null,
  };
}

const STATUS = [
  ["open", "open"],
  ["made-safe", "made safe"],
  ["done", "put right"],
  ["refused", "refused"],
  ["outside", "outside the extent"],
] as const;

interface Props {
  jobId: string;
  rulebook: string;
  kinds: readonly FindingKind[];
  /** The sorts that are likely here, first. */
  offered: readonly string[];
  start: FindingSaid;
  onDone: (said: FindingSaid) => void;
  onClose: () => void;
}

/** A finding: what was seen, what its code turns on, the code a person gives it, and what was done about a danger. */
export function FindingForm({ jobId, rulebook, kinds, offered, start, onDone, onClose }: Props) {
  const [said, setSaid] = useState(start);
  const set = (more: Partial<FindingSaid>) => setSaid((before) => ({ ...before, ...more }));
  const kind = kinds.find((each) => each.id === said.kind);
  // What offered it may know more than its sort does.
  const usual =
    said.kind === "other" ? { code: start.suggested, why: start.why, open: [] } : suggested(kind, said.answers);
  const departs = said.code !== "" && usual.code !== "" && said.code !== usual.code;
  const missing = !said.seen.trim() ? "what was seen" : departs && !said.departs.trim() ? "why another code" : "";
  const likely = kinds.filter((each) => offered.includes(each.id));
  const rest = kinds.filter((each) => !offered.includes(each.id));
  return (
    <form
      className="my-3 grid gap-3 border-2 border-accent bg-base-200 p-3"
      aria-label="Finding"
      onSubmit={(event) => {
        event.preventDefault();
        if (!missing) onDone({ ...said, suggested: usual.code, why: usual.why, seen: said.seen.trim() });
      }}
    >
      <div className="grid gap-3 md:grid-cols-2">
        <Labelled label="What sort of thing">
          <select
            className="select w-full"
            name="Sort"
            value={said.kind}
            onChange={(event) => {
              const next = kinds.find((each) => each.id === event.target.value);
              set({ kind: event.target.value, answers: [], clause: next?.clauses[rulebook] ?? said.clause });
            }}
          >
            {likely.map((each) => (
              <option key={each.id} value={each.id}>
                {each.title}
              </option>
            ))}
            <optgroup label="Anything else">
              {rest.map((each) => (
                <option key={each.id} value={each.id}>
                  {each.title}
                </option>
              ))}
            </optgroup>
          </select>
        </Labelled>
        <Line label="Where" value={said.spot.words} onValue={(words) => set({ spot: { ...said.spot, words } })} />
      </div>
      <Labelled label="What was seen">
        <textarea
          className="textarea w-full"
          name="Seen"
          rows={2}
          autoFocus
          maxLength={2000}
          value={said.seen}
          onChange={(event) => set({ seen: event.target.value })}
        />
      </Labelled>
      {questionsOf(kind).map((ask) => (
        <YesNoAsk
          key={ask.id}
          words={ask.asks}
          value={said.answers.find((each) => each.id === ask.id)?.answer}
          onAnswer={(answer) =>
            set({ answers: [...said.answers.filter((each) => each.id !== ask.id), { id: ask.id, answer }] })
          }
        />
      ))}
      <div>
        <p className="pb-1">
          {usual.code ? (
            <>
              Usually <b data-suggested={usual.code}>{usual.code === "none" ? "no code" : usual.code}</b>: {usual.why}.
              {usual.open.length > 0 && " It turns on what is not answered above."}
            </>
          ) : (
            "No usual code: you decide."
          )}
        </p>
        <div className="grid grid-cols-2 gap-1 sm:flex" role="radiogroup" aria-label="Code">
          {CODES.map(([code, words]) => (
            <button
              key={code}
              type="button"
              role="radio"
              aria-checked={said.code === code}
              className={`btn h-12 ${said.code === code ? "btn-primary" : "border border-base-content/60 bg-base-100"}`}
              onClick={() => set({ code })}
            >
              {words}
            </button>
          ))}
        </div>
      </div>
      {departs && (
        <Labelled label={`Why not ${usual.code === "none" ? "no code" : usual.code}`}>
          <input
            className="input w-full"
            name="Departs"
            value={said.departs}
            maxLength={400}
            onChange={(event) => set({ departs: event.target.value })}
          />
        </Labelled>
      )}
      {said.code === "C1" && <DangerFields said={said} set={set} />}
      <div className="flex flex-wrap items-end gap-3">
        <Line
          label="Since when, as far as known"
          name="Since"
          value={said.since}
          onValue={(words) => set({ since: words })}
        />
        <Labelled label="It is">
          <select
            className="select"
            name="Status"
            value={said.status}
            onChange={(event) => {
              const status = STATUS.find(([id]) => id === event.target.value);
              if (status) set({ status: status[0] });
            }}
          >
            {STATUS.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </Labelled>
      </div>
      <Photos jobId={jobId} of="the finding" shown={{ shows: "finding", of: said.finding }} />
      <KeepOrNot words="Keep the finding" missing={missing} onClose={onClose} />
    </form>
  );
}

const NOTHING = { made_safe: "", lock: "", told: "", told_at: null, refused: false, distributor: "" };

/** What was done at once about a danger: it cannot be put off. */
function DangerFields({ said, set }: { said: FindingSaid; set: (more: Partial<FindingSaid>) => void }) {
  const dealt = said.danger ?? NOTHING;
  const say = (more: Partial<typeof dealt>) => {
    const next = { ...dealt, ...more };
    set({ danger: next, status: next.refused ? "refused" : next.made_safe ? "made-safe" : "open" });
  };
  return (
    <fieldset className="grid gap-2 border-2 border-error p-3">
      <legend className="px-1 font-bold text-error">Danger: at once</legend>
      <p className="font-semibold">
        Keep people away. Isolate it safely, prove it dead, lock it off; only who is competent does so.
      </p>
      <div className="grid gap-2 md:grid-cols-2">
        <Line
          label="Made safe how"
          name="Made safe"
          most={400}
          value={dealt.made_safe}
          onValue={(words) => say({ made_safe: words })}
        />
        <Line label="Lock" value={dealt.lock} onValue={(words) => say({ lock: words })} />
        <Line
          label="Who was told"
          name="Told"
          value={dealt.told}
          onValue={(words) => say({ told: words, told_at: words ? (dealt.told_at ?? stampNow()) : null })}
        />
        <Line
          label="Distributor called, when it is theirs"
          name="Distributor"
          value={dealt.distributor}
          onValue={(words) => say({ distributor: words })}
        />
      </div>
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={dealt.refused}
          onChange={(event) => say({ refused: event.target.checked })}
        />
        They would not have it made safe
      </label>
    </fieldset>
  );
}

export function codeWord(code: Code): string {
  return code === "" ? "no code yet" : code === "none" ? "noted" : code;
}
