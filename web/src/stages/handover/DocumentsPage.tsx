import { useState } from "react";
import { Link } from "react-router-dom";
import { asRefused, type JobView, type Paper, type PaperKind } from "../../api/client";
import { usePaper, usePaperKinds } from "../../data/useDocuments";
import { useJob } from "../../data/useJob";
import { MakePdf } from "../../parts/MakePdf";
import { PaperView } from "../../parts/PaperView";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";
import { IssueButton, IssuedList } from "./IssuedList";
import { placeOf, usualKind } from "./papers";

/** What is handed over: the paper in hand with what it still wants, what was issued, every document there is. */
export function DocumentsPage() {
  const job = useJob();
  const kinds = (usePaperKinds().data ?? []).filter(
    (each) => each.of === "job" && (each.rulebooks.length === 0 || each.rulebooks.includes(job.head.rulebook)),
  );
  const [chosen, setChosen] = useState<string>();
  const kind = kinds.find((each) => each.id === (chosen ?? usualKind(job.head)));
  return (
    <main className="min-w-0 p-4">
      <label className="flex flex-wrap items-center gap-2 pb-3">
        <span className="font-semibold">Paper</span>
        <select
          className="select w-80 max-w-full"
          name="Document shown"
          value={kind?.id ?? ""}
          onChange={(event) => setChosen(event.target.value)}
        >
          <optgroup label="Issued: numbered and signed">{kinds.filter((each) => each.issued).map(asOption)}</optgroup>
          <optgroup label="Handed over as they are">{kinds.filter((each) => !each.issued).map(asOption)}</optgroup>
        </select>
      </label>
      {kind && <InHand key={kind.id} job={job} kind={kind} />}
      <Downloads job={job} kinds={kinds} />
    </main>
  );
}

function asOption(kind: PaperKind) {
  return (
    <option key={kind.id} value={kind.id}>
      {kind.title}
    </option>
  );
}

/** The paper in hand: how it stands, where what it wants is said, and how it looks. */
function InHand({ job, kind }: { job: JobView; kind: PaperKind }) {
  const query = usePaper(job, kind.id);
  if (query.isError) return <RefusalNote refused={asRefused(query.error)} />;
  const paper = query.data;
  if (!paper) return <p className="py-3">Opening…</p>;
  return (
    <>
      <Standing job={job} kind={kind} paper={paper} />
      <IssuedList jobId={job.id} />
      <details open className="pb-4">
        <summary className="min-h-11 cursor-pointer font-semibold">The paper as it stands</summary>
        <h2 className="text-2xl font-bold">{paper.title}</h2>
        <p className="quiet pb-3">
          {[paper.job, paper.client, paper.address, paper.rulebook].filter(Boolean).join(" · ")}
        </p>
        <PaperView paper={paper} />
      </details>
    </>
  );
}

function Standing({ job, kind, paper }: { job: JobView; kind: PaperKind; paper: Paper }) {
  const base = `/api/jobs/${job.id}/papers/${kind.id}`;
  const takeAway = (
    <MakePdf href={`${base}.pdf`} words={kind.issued ? "PDF to look at" : "PDF"} name={`${kind.id}-in-hand`} />
  );
  if (!paper.draft) {
    return (
      <div className="mb-4 flex flex-wrap items-center gap-3">
        <h1 className="flex grow items-center gap-2 text-xl font-bold text-success">
          <VerdictMark state="pass" /> {paper.claim || `${kind.title}: ready to hand over.`}
        </h1>
        {takeAway}
        <IssueButton jobId={job.id} kind={kind} />
      </div>
    );
  }
  const places = new Map(paper.wants.map((want) => [want.words, want.at]));
  return (
    <section className="mb-4 border-l-6 border-error bg-base-200 px-4 py-3" data-missing={paper.missing.length}>
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="flex grow items-center gap-2 text-xl font-bold">
          <VerdictMark state="fail" /> {kind.title}: draft, {paper.missing.length} wanted
        </h1>
        {takeAway}
      </div>
      <ul className="mt-1 columns-1 list-disc pl-6 md:columns-2">
        {paper.missing.map((reason) => {
          const at = places.get(reason);
          return (
            <li key={reason} className="break-inside-avoid py-1 md:py-0">
              {at ? (
                <Link className="link" to={placeOf(job.id, at)}>
                  {reason}
                </Link>
              ) : (
                reason
              )}
            </li>
          );
        })}
      </ul>
    </section>
  );
}

function Downloads({ job, kinds }: { job: JobView; kinds: readonly PaperKind[] }) {
  const base = `/api/jobs/${job.id}`;
  return (
    <details open className="mb-5 border-y border-base-content/60 py-2">
      <summary className="min-h-11 cursor-pointer font-semibold">Take away: every paper, and the job file</summary>
      <ul className="grid gap-x-8 gap-y-2 md:grid-cols-2">
        {kinds.map((kind) => (
          <li key={kind.id} className="flex flex-wrap items-center gap-2" data-kind={kind.id}>
            <span className="grow">
              <b>{kind.title}</b> <span className="quiet block text-sm">for {kind.reader}</span>
            </span>
            <MakePdf
              href={`${base}/papers/${kind.id}.pdf`}
              words={kind.issued ? "PDF to look at" : "PDF"}
              name={`${kind.id}-pdf`}
            />
            {kind.forms.includes("csv") && (
              <a
                className="btn"
                href={`${base}/papers/${kind.id}.csv`}
                download
                data-download={`${kind.id}-csv`}
                aria-label={`${kind.title}, CSV`}
              >
                CSV
              </a>
            )}
          </li>
        ))}
        <li className="flex items-center gap-2">
          <span className="grow">
            <b>Job file</b> <span className="quiet block text-sm">for another Lumbek, and for keeping</span>
          </span>
          <a className="btn" href={`${base}/file`} download data-download="job" aria-label="Job file, JSON">
            JSON
          </a>
        </li>
      </ul>
    </details>
  );
}
