import { useState } from "react";
import type { FindingSaid, Offer, StandingFinding } from "../../api/client";
import { isDanger } from "../../data/dangers";
import { newRecordId, useFindingKinds } from "../../data/useInspection";
import { Labelled } from "../../parts/fields";
import { codeWord, emptyFinding, FindingForm } from "./FindingForm";
import { CODE_COLOUR } from "./codes";
import type { PartProps } from "./part";

const ORDER = ["", "C1", "C2", "FI", "C3", "none"];
const STATUS = {
  open: "open",
  "made-safe": "made safe",
  done: "put right",
  refused: "refused",
  outside: "outside the extent",
};

/** What was found, the gravest first, and what is offered by all that is known of the house. */
export function FindingsPart({ job, inspection, view, about }: PartProps & { about: string | undefined }) {
  const [editing, setEditing] = useState<FindingSaid>();
  const kinds = useFindingKinds().data ?? [];
  const { findings, offers, dismissed } = view.whole;
  const sorted = [...findings].sort((a, b) => ORDER.indexOf(a.said.code) - ORDER.indexOf(b.said.code));
  return (
    <>
      {editing && (
        <FindingForm
          key={editing.finding}
          jobId={job.id}
          rulebook={job.head.rulebook}
          kinds={kinds}
          offered={[editing.kind]}
          start={editing}
          onDone={(said) => {
            inspection.say(said);
            setEditing(undefined);
          }}
          onClose={() => setEditing(undefined)}
        />
      )}
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2 className="text-xl font-bold">Found</h2>
        <button
          className="btn btn-primary"
          onClick={() => setEditing(emptyFinding("damage", { of: "job", id: "", circuit: null, words: "" }, ""))}
        >
          New finding
        </button>
      </div>
      {sorted.length === 0 && <p className="quiet py-2">Nothing is on record yet.</p>}
      <ul>
        {sorted.map((each) => (
          <FindingRow
            key={each.said.finding}
            found={each}
            open={each.said.finding === about}
            onEdit={() => setEditing(each.said)}
          />
        ))}
      </ul>
      {offers.length > 0 && (
        <section className="pt-5">
          <h2 className="text-xl font-bold">Offered by what is known of the house</h2>
          <ul>
            {offers.map((each) => (
              <OfferRow
                key={each.key}
                offer={each}
                onTake={(said) => inspection.say(said)}
                onChange={(said) => setEditing(said)}
                onDismiss={(why) => inspection.say({ record: "dismissed", offer: each.key, why })}
              />
            ))}
          </ul>
        </section>
      )}
      {dismissed.length > 0 && (
        <details className="pt-4">
          <summary className="min-h-11 cursor-pointer font-semibold">{dismissed.length} dismissed</summary>
          <ul className="list-disc pl-6">
            {dismissed.map((each) => (
              <li key={each.offer}>
                {each.title}: {each.why} <span className="quiet">({each.by})</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </>
  );
}

function Badge({ code }: { code: FindingSaid["code"] }) {
  return (
    <span className={`inline-block min-w-14 border-2 px-2 py-0.5 text-center font-bold ${CODE_COLOUR[code]}`}>
      {codeWord(code)}
    </span>
  );
}

function FindingRow({ found, open, onEdit }: { found: StandingFinding; open: boolean; onEdit: () => void }) {
  const { said } = found;
  const danger = isDanger(said);
  return (
    <li className={`border-b border-base-300 py-2 ${open ? "bg-base-200" : ""}`} data-finding={said.finding}>
      <div className="flex items-start gap-3">
        <Badge code={said.code} />
        <div className="min-w-0 grow">
          <p className="font-semibold">{said.seen}</p>
          <p className="quiet text-sm">
            {[
              said.spot.words,
              said.clause,
              STATUS[said.status],
              `${found.last.by}, ${found.last.at.slice(0, 16).replace("T", " ")}`,
            ]
              .filter(Boolean)
              .join(" · ")}
          </p>
          {danger && <p className="font-bold text-error">Not dealt with: made safe how, and who was told?</p>}
          {said.departs && (
            <p className="text-sm">
              Usually {codeWord(said.suggested)}; not so because: {said.departs}
            </p>
          )}
          {found.earlier.length > 0 && (
            <details className="text-sm">
              <summary className="cursor-pointer py-1">Said before, {found.earlier.length}</summary>
              <ul className="list-disc pl-5">
                {found.earlier.map((each, at) => (
                  <li key={at}>
                    {codeWord(each.code)}, {STATUS[each.status]}: {each.seen}{" "}
                    <span className="quiet">
                      ({found.earlier_by[at]?.by}, {found.earlier_by[at]?.at.slice(0, 16).replace("T", " ")})
                    </span>
                  </li>
                ))}
              </ul>
            </details>
          )}
        </div>
        <button className={`btn ${danger ? "btn-error" : ""}`} onClick={onEdit}>
          {danger ? "Deal with it" : "Correct"}
        </button>
      </div>
    </li>
  );
}

interface OfferProps {
  offer: Offer;
  onTake: (said: FindingSaid) => void;
  onChange: (said: FindingSaid) => void;
  onDismiss: (why: string) => void;
}

function OfferRow({ offer, onTake, onChange, onDismiss }: OfferProps) {
  const [dismissing, setDismissing] = useState(false);
  const [why, setWhy] = useState("");
  const filled = (): FindingSaid => ({
    ...emptyFinding(offer.kind, { ...offer.spot, words: offer.spot.words || offer.where }, offer.clause),
    finding: newRecordId(),
    seen: offer.seen,
    suggested: offer.suggestion.code,
    why: offer.suggestion.why,
    answers: offer.answers,
    offer: offer.key,
  });
  const open = offer.suggestion.open;
  return (
    <li className="border-b border-base-300 py-2" data-offer={offer.key}>
      <div className="flex flex-wrap items-start gap-3">
        <Badge code={offer.suggestion.code} />
        <div className="min-w-56 grow basis-60">
          <p className="font-semibold">{offer.title}</p>
          <p>{offer.where}</p>
          {offer.because.map((each) => (
            <p key={each} className="quiet text-sm">
              {each}
            </p>
          ))}
          <p className="text-sm">
            {offer.suggestion.why}
            {open.length > 0 && <b> Turns on: {open.map((each) => each.asks).join(" ")}</b>}
          </p>
        </div>
        <div className="flex gap-2">
          {offer.suggestion.code !== "" && (
            <button className="btn btn-primary" onClick={() => onTake({ ...filled(), code: offer.suggestion.code })}>
              Record as {codeWord(offer.suggestion.code)}
            </button>
          )}
          <button className="btn" onClick={() => onChange(filled())}>
            Look at it
          </button>
          <button className="btn" onClick={() => setDismissing(!dismissing)}>
            Dismiss
          </button>
        </div>
      </div>
      {dismissing && (
        <form
          className="flex flex-wrap items-end gap-2 pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            if (why.trim()) onDismiss(why.trim());
          }}
        >
          <Labelled label="Why it is no finding">
            <input
              className="input w-80 max-w-full"
              autoFocus
              value={why}
              maxLength={400}
              onChange={(event) => setWhy(event.target.value)}
            />
          </Labelled>
          <button className="btn" disabled={!why.trim()}>
            Dismiss it
          </button>
        </form>
      )}
    </li>
  );
}
