import { useState } from "react";
import type { Particulars } from "../../api/client";
import { Figure, Labelled, Line, Words, YesNo } from "../../parts/fields";
import type { PartProps } from "./part";
import { NotifyPart } from "./NotifyPart";

const BLANK = {
  record: "particulars",
  reason: null,
  occupier: null,
  is_let: null,
  age: null,
  alterations: null,
  last_papers: null,
  covers: null,
  share_percent: null,
  limitations: null,
  customers_changes: null,
  not_isolated: null,
  kept_on: null,
  summary: null,
  work: null,
  finished: null,
  departures: null,
  departures_accepted_by: null,
  comments: null,
  electrode: null,
  earthing_material: null,
  bonding_material: null,
  next_day: null,
  next_why: null,
} satisfies Particulars;

type Key = Exclude<keyof Particulars, "record" | "is_let" | "share_percent" | "limitations" | "last_papers">;

const GROUPS: readonly (readonly [string, readonly (readonly [Key, string])[]])[] = [
  [
    "The inspection",
    [
      ["reason", "Reason for the report"],
      ["occupier", "Occupier"],
      ["age", "Age, and by what"],
      ["alterations", "Additions and alterations"],
      ["covers", "Extent"],
      ["customers_changes", "The customer's own changes"],
      ["not_isolated", "Could not be isolated"],
      ["kept_on", "Kept on"],
      ["summary", "Summary of its condition"],
    ],
  ],
  [
    "The work",
    [
      ["work", "Description and place"],
      ["finished", "Finished on"],
      ["departures", "Departures from the rules"],
      ["departures_accepted_by", "Departures accepted by"],
      ["comments", "Comments on what existed"],
    ],
  ],
  [
    "Earthing",
    [
      ["electrode", "Electrode: type and place"],
      ["earthing_material", "Earthing conductor of"],
      ["bonding_material", "Bonding conductors of"],
    ],
  ],
];

/** What papers ask that no drawing holds: each asked once, said where it is known. */
export function ParticularsPart({ job, inspection, view }: PartProps) {
  const said = view.whole.particulars;
  const say = (more: Partial<Particulars>) => inspection.say({ ...BLANK, ...more });
  const proposed = view.whole.next_proposed;
  return (
    <div className="grid gap-6">
      {GROUPS.map(([title, fields]) => (
        <section key={title}>
          <h2 className="pb-1 text-xl font-bold">{title}</h2>
          <div className="grid gap-3 md:grid-cols-2">
            {fields.map(([key, label]) =>
              key === "finished" ? (
                <Day key={key} label={label} value={said.finished ?? null} onDay={(finished) => say({ finished })} />
              ) : (
                <Labelled key={key} label={label}>
                  <Words
                    name={label}
                    className="w-full"
                    value={said[key] ?? ""}
                    maxLength={key === "occupier" ? 80 : 400}
                    onCommit={(words) => say({ [key]: words })}
                  />
                </Labelled>
              ),
            )}
            {title === "The inspection" && (
              <>
                <Labelled label="Share looked at and tested">
                  <Figure
                    name="Share"
                    unit="%"
                    value={said.share_percent}
                    onCommit={(share_percent) => say({ share_percent })}
                  />
                </Labelled>
                <Labelled label="Let to somebody">
                  <YesNo name="Let" value={said.is_let} onCommit={(is_let) => say({ is_let: is_let ?? false })} />
                </Labelled>
              </>
            )}
          </div>
        </section>
      ))}
      <Limits said={said} say={say} />
      <section>
        <h2 className="pb-1 text-xl font-bold">Next inspection</h2>
        {proposed && (
          <p className="pb-2">
            Proposed: <b>{proposed.day}</b>, {proposed.why}.{" "}
            {said.next_day !== proposed.day && (
              <button className="btn btn-sm" onClick={() => say({ next_day: proposed.day, next_why: proposed.why })}>
                Take that
              </button>
            )}
          </p>
        )}
        <div className="grid gap-3 md:grid-cols-2">
          <Day label="Next inspection by" value={said.next_day ?? null} onDay={(next_day) => say({ next_day })} />
          <Labelled label="Why then">
            <Words
              name="Why then"
              className="w-full"
              value={said.next_why ?? ""}
              maxLength={400}
              onCommit={(next_why) => say({ next_why })}
            />
          </Labelled>
        </div>
      </section>
      <NotifyPart job={job} inspection={inspection} view={view} />
    </div>
  );
}

function Day({ label, value, onDay }: { label: string; value: string | null; onDay: (day: string) => void }) {
  return <Line label={label} type="date" value={value ?? ""} onValue={(day) => day && onDay(day)} />;
}

function Limits({ said, say }: { said: Particulars; say: (more: Partial<Particulars>) => void }) {
  const [what, setWhat] = useState("");
  const [why, setWhy] = useState("");
  const [agreed, setAgreed] = useState("");
  const limits = said.limitations ?? [];
  return (
    <section>
      <h2 className="pb-1 text-xl font-bold">Not looked at</h2>
      <ul className="list-disc pl-6">
        {limits.map((each, at) => (
          <li key={`${each.what} ${String(at)}`}>
            {each.what}
            {each.why && `: ${each.why}`}
            {each.agreed_with ? `, agreed with ${each.agreed_with}` : ", met on site"}{" "}
            <button
              className="btn btn-ghost btn-sm"
              aria-label={`Take away: ${each.what}`}
              onClick={() => say({ limitations: limits.filter((_, other) => other !== at) })}
            >
              ✕
            </button>
          </li>
        ))}
      </ul>
      <form
        className="grid items-end gap-2 pt-1 md:grid-cols-[2fr_2fr_1fr_auto]"
        onSubmit={(event) => {
          event.preventDefault();
          if (!what.trim()) return;
          say({ limitations: [...limits, { what: what.trim(), why: why.trim(), agreed_with: agreed.trim() }] });
          setWhat("");
          setWhy("");
          setAgreed("");
        }}
      >
        {(
          [
            ["What", what, setWhat],
            ["Why", why, setWhy],
            ["Agreed with", agreed, setAgreed],
          ] as const
        ).map(([label, value, set]) => (
          <Line key={label} label={label} name={`Limit: ${label}`} value={value} onValue={set} />
        ))}
        <button className="btn" disabled={!what.trim()}>
          Add
        </button>
      </form>
    </section>
  );
}
