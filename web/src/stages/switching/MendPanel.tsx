import { asRefused, type CircuitView, type Command, type SwitchingView } from "../../api/client";
import { useMending } from "../../data/useSwitching";
import { onlyOn, type ToDo } from "../../data/useWriting";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";

interface Props {
  view: CircuitView;
  bench: SwitchingView;
  onCommand: (...commands: ToDo<CircuitView, Command>[]) => Promise<unknown>;
}

/** The fewest ends to move with the cables that are there; and for unknown ends the next continuity test. */
export function MendPanel({ view, bench, onCommand }: Props) {
  const soon = useMending(view.id, view.version, true);
  const mending = useMending(view.id, view.version, false);
  // Something in a moment; what is proved least as soon as it is known.
  const mended = (mending.data ?? soon.data)?.mended;
  return (
    <div className="flex flex-col gap-3 px-3 py-2">
      <Unknown bench={bench} onCommand={onCommand} />
      {mending.isError && <RefusalNote refused={asRefused(mending.error)} />}
      {mending.isPending && (
        <p>{mended ? (mended.exact ? "" : "Looking for fewer ends to move…") : "Trying one end after another…"}</p>
      )}
      {mending.data && !mended && (
        <p className="flex items-center gap-2 font-semibold">
          <VerdictMark state={bench.proof.verdict === "pass" ? "pass" : "cannot-tell"} />
          {bench.proof.verdict === "pass"
            ? "Nothing to put right."
            : (view.design.scheme?.controls.length ?? 0) === 0
              ? "Say under Plan what is to switch what; then it can be put right."
              : "With the cables that are there it cannot be put right by moving ends. See Plan for what is missing."}
        </p>
      )}
      {mended && (
        <div data-mended={mended.moves.length}>
          {mended.named.length > 0 && (
            <ul className="pb-2">
              {mended.named.map((words) => (
                <li key={words} className="flex items-center gap-2 text-lg font-bold">
                  <VerdictMark state="fail" size={20} /> {words}
                </li>
              ))}
            </ul>
          )}
          <h2 className="text-lg font-bold">
            {mended.moves.length === 1 ? "One end to move" : `${mended.moves.length} ends to move`}
            {mended.changes.length > 0 &&
              `, ${mended.changes.length} other change${mended.changes.length > 1 ? "s" : ""}`}
          </h2>
          <ol className="list-decimal pl-6">
            {[...mended.moves.map((move) => move.words), ...mended.changes].map((words) => (
              <li key={words} className="py-0.5">
                {words}
              </li>
            ))}
          </ol>
          <p className="quiet py-1 text-sm">
            {mended.exact
              ? "No smaller change does it: every one has been tried."
              : `The nearest of all usual ways of wiring it with these cables${mended.tried ? "; no change of one or two ends does it" : ""}.`}
          </p>
          {mended.left.length > 0 && (
            <ul className="text-warning">
              {mended.left.map((words) => (
                <li key={words}>Still: {words}</li>
              ))}
            </ul>
          )}
          <button
            className="btn btn-primary"
            onClick={() => void onCommand(onlyOn(view.version, { op: "take", design: mended.design }))}
          >
            Connect it so
          </button>
        </div>
      )}
    </div>
  );
}

function Unknown({ bench, onCommand }: { bench: SwitchingView; onCommand: Props["onCommand"] }) {
  const test = bench.next_test;
  if (bench.loose.length === 0) return null;
  const answer = (same: boolean) =>
    test && onCommand({ op: "same-cable", leg: test.join.leg, other: test.read.leg, same });
  return (
    <section className="border-l-6 border-warning bg-base-200 px-3 py-2" data-loose={bench.loose.length}>
      <h2 className="text-lg font-bold">{bench.loose.length} cable ends lead nobody knows where</h2>
      {test ? (
        <>
          <p className="py-1 font-semibold">{test.words}.</p>
          <p className="quiet pb-1 text-sm">
            Of {test.worlds} ways the ends can belong together {test.closed} read closed here: no other test tells more.
          </p>
          <div className="flex gap-2">
            <button className="btn btn-primary btn-sm" onClick={() => void answer(true)}>
              Reads closed
            </button>
            <button className="btn btn-sm" onClick={() => void answer(false)}>
              Reads open
            </button>
          </div>
        </>
      ) : (
        <p>No two of them can be one cable: look for more ends, or for a joint that is covered up.</p>
      )}
    </section>
  );
}
