import { Link, useSearchParams } from "react-router-dom";
import type { JobView } from "../../api/client";
import { useDangers, useFindingKinds } from "../../data/useInspection";
import { emptyFinding, FindingForm } from "./FindingForm";

/** On every page of a job: a danger that nobody has dealt with, and recording one at once, without a signal too. */
export function DangerBar({ job }: { job: JobView }) {
  const { dangers, say } = useDangers(job.id);
  const kinds = useFindingKinds().data ?? [];
  const [asked, setAsked] = useSearchParams();
  const recording = asked.has("danger");
  const first = dangers[0];
  return (
    <>
      {first && (
        <div
          role="alert"
          className="flex flex-wrap items-center gap-2 bg-error px-3 py-2 text-error-content"
          data-danger={dangers.length}
        >
          <b className="grow">
            DANGER not dealt with: {first.seen}
            {dangers.length > 1 && ` and ${String(dangers.length - 1)} more`}
          </b>
          <Link className="btn" to={`/jobs/${job.id}/inspection/findings/${first.finding}`}>
            Made safe? Who was told?
          </Link>
        </div>
      )}
      {recording ? (
        <div className="px-3">
          <FindingForm
            jobId={job.id}
            rulebook={job.head.rulebook}
            kinds={kinds}
            offered={["live-parts", "metal-live", "damage", "board-open", "supply-reversed", "no-earthing"]}
            start={{
              ...emptyFinding("live-parts", { of: "job", id: "", circuit: null, words: "" }, "416.2"),
              code: "C1",
            }}
            onDone={(said) => {
              say(said);
              setAsked({});
            }}
            onClose={() => setAsked({})}
          />
        </div>
      ) : null}
    </>
  );
}
