import { useState } from "react";
import { asRefused, type Refused } from "../../api/client";
import { useMe } from "../../data/me";
import { useNotifying } from "../../data/useNotifying";
import { RefusalNote } from "../../parts/RefusalNote";
import type { PartProps } from "./part";
import { YesNoAsk } from "./YesNoAsk";

const HANDED_IN = {
  waits: "Waits: the office does not answer; it is sent again by itself.",
  received: "Handed in. Receipt",
  refused: "Refused by the office:",
};

/** Whether the work has to be notified, as questions; the drawing answers what it is sure of. */
export function NotifyPart({ job, inspection, view }: PartProps) {
  const { notify, notify_answers: answers } = view.whole;
  const word = { yes: "Has to be notified", no: "Need not be notified", open: "Not decided yet" }[notify.word];
  return (
    <section data-notify={notify.word}>
      <h2 className="pb-1 text-xl font-bold">Notifying the work: {word}</h2>
      <p>{notify.why}.</p>
      <div className="grid gap-2 pt-1">
        {notify.asks.map((ask) => {
          const said = answers.find((each) => each.id === ask.id)?.answer;
          return (
            <YesNoAsk
              key={ask.id}
              words={ask.asks}
              beside={ask.model && !said ? `The drawing says ${ask.model}.` : ""}
              value={said ?? (ask.model || undefined)}
              onAnswer={(answer) =>
                inspection.say({
                  record: "notify",
                  answers: [...answers.filter((each) => each.id !== ask.id), { id: ask.id, answer }],
                })
              }
            />
          );
        })}
      </div>
      {notify.word === "yes" && <HandIn job={job} />}
    </section>
  );
}

/** Handing the work in to the office: what is missing for it, what it answered, and what waits to be sent. */
function HandIn({ job }: Pick<PartProps, "job">) {
  const { query, handIn } = useNotifying(job.id);
  const rights = useMe().rights;
  const [refused, setRefused] = useState<Refused>();
  const [sending, setSending] = useState(false);
  if (!query.data) return null;
  const { office, missing, lines } = query.data;
  if (!office) return <p className="pt-2">No office is set up here: hand the notification in yourselves.</p>;
  const isDone = lines.some((line) => line.state !== "refused");
  return (
    <div className="grid gap-2 pt-3" data-notifications={lines.length}>
      {lines.map((line) => (
        <p key={line.id} className="border-l-4 border-accent pl-3" data-handed-in={line.state}>
          <b className="text-lg">{HANDED_IN[line.state]}</b>{" "}
          {line.state === "received" ? <b className="font-mono text-lg">{line.receipt}</b> : line.said}
          <span className="quiet block text-sm">
            {line.by}, {line.at.slice(0, 10)}
          </span>
        </p>
      ))}
      {missing.length > 0 ? (
        <div>
          <h3 className="font-semibold">Wanted before it is handed in</h3>
          <ul className="list-disc pl-6">
            {missing.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </div>
      ) : (
        !isDone && (
          <button
            className="btn btn-primary justify-self-start"
            disabled={sending || !rights.includes("issue")}
            onClick={() => {
              setSending(true);
              setRefused(undefined);
              handIn()
                .catch((error: unknown) => setRefused(asRefused(error)))
                .finally(() => setSending(false));
            }}
          >
            {sending ? "Handing in…" : "Hand it in to the office"}
          </button>
        )
      )}
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
    </div>
  );
}
