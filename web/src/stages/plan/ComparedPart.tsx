import { useState } from "react";
import type { DesignCompared, QuoteTerms } from "../../api/client";
import { useJob } from "../../data/useJob";
import { useCompared, type OfTerms } from "../../data/useQuote";
import { Choice } from "../../parts/fields";
import { Opened } from "../../parts/Opened";
import { VerdictMark } from "../../parts/verdict";

interface Props {
  terms: QuoteTerms;
  say: OfTerms;
}

/** A circuit designed several ways: what each holds, takes and costs, and offering one of them to choose from. */
export function ComparedPart({ terms, say }: Props) {
  const { circuits } = useJob();
  const [chosen, setChosen] = useState("");
  const compared = useCompared(chosen);
  const circuit = circuits.find((each) => each.id === chosen);
  return (
    <section className="pt-4">
      <h2 className="font-bold">Designs compared</h2>
      <p className="quiet text-sm">
        Loop at the light or at the switch; one ring or radials: what each takes, laid by the ways of the plan.
      </p>
      <Choice
        name="Circuit to compare"
        blank="which circuit?"
        value={chosen}
        options={circuits.map((each) => [each.id, `${String(each.number)} ${each.name}`] as const)}
        onCommit={setChosen}
      />
      {circuit && (
        <Opened query={compared}>
          {(designs) =>
            designs.length < 2 ? (
              <p className="pt-2">
                Nothing to compare: sockets are, and lighting of which somebody has said what switches what; nothing
                that is there already.
              </p>
            ) : (
              <ul className="grid gap-2 pt-2">
                {designs.map((each) => (
                  <Compared
                    key={each.name}
                    design={each}
                    isOffered={terms.options.some((one) => one.name === nameOf(circuit.number, each))}
                    offer={() =>
                      say(({ options }) => ({
                        options: [
                          ...options,
                          { name: nameOf(circuit.number, each), what: wordsOf(each), price: each.more ?? "0" },
                        ],
                      }))
                    }
                  />
                ))}
              </ul>
            )
          }
        </Opened>
      )}
    </section>
  );
}

function Compared(props: { design: DesignCompared; isOffered: boolean; offer: () => void }) {
  const { design, isOffered, offer } = props;
  if (design.why_not) {
    return (
      <li className="border-b border-base-300 pb-2" data-design={design.name}>
        <b>{design.name}</b>: {design.why_not}
      </li>
    );
  }
  return (
    <li
      className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-base-300 pb-2"
      data-design={design.name}
      data-more={design.more ?? ""}
    >
      <span className="grow basis-64">
        <b className="flex items-center gap-2">
          <VerdictMark state={design.verdict} /> {design.name}
        </b>
        <span className="block text-sm">{design.tightest}</span>
        <span className="quiet block text-sm">{wordsOf(design)}</span>
      </span>
      <span className="text-right text-2xl font-bold tabular-nums">
        {moreOf(design)}
        <span className="quiet block text-xs font-normal">{design.more == null ? "the job, net" : "net"}</span>
      </span>
      {design.more != null && (
        <button className="btn btn-sm" disabled={isOffered || design.verdict === "fail"} onClick={offer}>
          {isOffered ? "Offered" : "Offer it"}
        </button>
      )}
    </li>
  );
}

function nameOf(circuit: number, design: DesignCompared): string {
  return `Circuit ${String(circuit)}: ${design.name}`;
}

function wordsOf(design: DesignCompared): string {
  const metres = design.cable_mm == null ? "length not known" : `${(design.cable_mm / 1000).toFixed(1)} m of cable`;
  return [
    metres,
    `${String(design.legs)} cable runs`,
    design.joist_holes > 0 && `${String(design.joist_holes)} joists drilled`,
    `${(design.chased_mm / 1000).toFixed(1)} m in walls`,
    `${String(design.hours)} h for the job`,
  ]
    .filter(Boolean)
    .join(", ");
}

/** What it costs more or less than how it is drawn; what keeps that from being said. */
function moreOf(design: DesignCompared): string {
  if (design.more != null) return `${Number(design.more) > 0 ? "+" : ""}${design.more}`;
  if (design.net != null) return String(design.net);
  return design.unpriced.length > 0 ? `${String(design.unpriced.length)} without a price` : "no price";
}
