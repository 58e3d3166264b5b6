import { Link } from "react-router-dom";
import { asRefused, type Circuit, type CircuitView, type Proposals } from "../../api/client";
import { useProposals } from "../../data/useCircuits";
import { plain } from "../../numbers";
import { RefusalNote } from "../../parts/RefusalNote";

type Try = (design: Circuit) => void;

/** What may be done with the circuit, all of it computed: repairs, sizes, protection, reach. */
export function ProposalPanel({ view, onTry }: { view: CircuitView; onTry: Try }) {
  const query = useProposals(view);
  if (query.isError) return <RefusalNote refused={asRefused(query.error)} />;
  if (!query.data) return <p className="px-3 py-3">Trying everything…</p>;
  const { mends, rebalances, sizes, protection, reach } = query.data;
  const shares = (circuit: Circuit) => {
    const rcd = circuit.device.rcd;
    return rcd !== null && rcd !== "unknown" && rcd.shared;
  };
  const behindRccb = view.design.ahead.some((each) => each.device?.standard === "bs-en-61008");
  const wantsGroup = shares(protection.design) && !shares(view.design) && !behindRccb;
  return (
    <div data-proposals className="flex flex-col gap-4 px-3 py-3">
      {(mends.length > 0 || rebalances.length > 0) && (
        <section>
          <h3 className="font-bold">What would mend it</h3>
          <ul>
            {mends.map((mend) => (
              <Line
                key={mend.change}
                words={mend.change}
                under={mend.leaves.length > 0 ? `leaves: ${mend.leaves.join(", ")}` : "then it complies"}
                onTry={mend.elsewhere ? undefined : () => onTry(mend.design)}
                note="ahead of it: on the board"
              />
            ))}
            {rebalances.map((each) => (
              <Line
                key={each.change}
                words={each.change}
                under="shares the ring better"
                onTry={() => onTry(each.design)}
              />
            ))}
          </ul>
        </section>
      )}
      <ReachPicture reach={reach} />
      <section>
        <h3 className="font-bold">Sizes that work, cheapest first</h3>
        {sizes.sizes.length === 0 && (
          <p>
            None of {sizes.tried} pairs: most fall at: {sizes.nearest}.
          </p>
        )}
        <ul>
          {sizes.sizes.slice(0, 9).map((size) => (
            <Line
              key={`${size.csa_mm2}/${size.rating_a}`}
              words={`${plain(size.csa_mm2)}${size.cpc_mm2 ? `/${plain(size.cpc_mm2)}` : ""} mm², ${plain(size.rating_a)} A`}
              under={`${size.tightest}: ${size.answer}${size.left ? `, ${size.left}` : ""}`}
              onTry={size.in_force ? undefined : () => onTry(size.design)}
              note={size.in_force ? "as drawn" : ""}
            />
          ))}
        </ul>
      </section>
      <section>
        <h3 className="font-bold">Protect it</h3>
        <p className="text-xl leading-tight font-bold">{protection.device}</p>
        <ul className="mt-1">
          {protection.advice.map((point) => (
            <li key={point.what} className="border-b border-base-300 py-1.5">
              <span className="font-semibold">
                {point.has ? "✓ " : "→ "}
                {point.what}
              </span>
              <span className="quiet block text-sm">
                {point.why} [{point.clause}]
              </span>
            </li>
          ))}
        </ul>
        <p className="mt-2 text-sm">
          <b>{protection.school}.</b> {protection.gives_up}
        </p>
        {wantsGroup ? (
          <Link className="btn btn-sm mt-2" to={`/jobs/${view.job_id}/board`}>
            Its RCD is shared: put it into a group on the board
          </Link>
        ) : (
          <button className="btn btn-sm mt-2" onClick={() => onTry(protection.design)}>
            Try this protection
          </button>
        )}
      </section>
    </div>
  );
}

function Line({
  words,
  under,
  onTry,
  note,
}: {
  words: string;
  under: string;
  onTry: (() => void) | undefined;
  note?: string;
}) {
  return (
    <li className="flex items-center gap-2 border-b border-base-300 py-1.5">
      <span className="min-w-0 grow leading-tight">
        <span className="font-semibold">{words}</span>
        <span className="quiet block text-sm">{under}</span>
      </span>
      {onTry ? (
        <button className="btn btn-sm" onClick={onTry}>
          Try
        </button>
      ) : (
        <span className="quiet text-sm">{note}</span>
      )}
    </li>
  );
}

/** How far one may go before what fails: the run as drawn against the length each limit allows. */
function ReachPicture({ reach }: { reach: Proposals["reach"] }) {
  if (reach.missing.length > 0) return <p className="text-sm">How far it may go needs the {reach.missing[0]}.</p>;
  if (reach.limits.length === 0 && reach.any_length.length === 0) return null;
  const longest = Math.max(
    reach.length_m,
    ...reach.limits.map((limit) => Math.min(limit.length_m, reach.length_m * 4)),
  );
  const at = (metres: number) => `${Math.min(100, (100 * metres) / longest)}%`;
  return (
    <section data-reach>
      <h3 className="font-bold">How far it may go</h3>
      <Bar label="As drawn" value={reach.shown} width={at(reach.length_m)} tone="bg-base-content" />
      {reach.limits.map((limit) => (
        <Bar
          key={limit.check}
          label={limit.title}
          value={limit.shown}
          width={at(limit.length_m)}
          tone={limit.factor < 1 ? "bg-error" : "bg-success"}
          over={limit.factor < 1}
        />
      ))}
      {reach.any_length.map((title) => (
        <Bar key={title} label={title} value="any length" width="100%" tone="bg-success" />
      ))}
    </section>
  );
}

function Bar({
  label,
  value,
  width,
  tone,
  over,
}: {
  label: string;
  value: string;
  width: string;
  tone: string;
  over?: boolean;
}) {
  return (
    <div className="py-1">
      <div className="flex justify-between text-sm">
        <span>
          {label}
          {over && <b className="text-error"> is passed</b>}
        </span>
        <b>{value}</b>
      </div>
      <div className="h-3 bg-base-200">
        <div className={`h-3 ${tone}`} style={{ width }} />
      </div>
    </div>
  );
}
