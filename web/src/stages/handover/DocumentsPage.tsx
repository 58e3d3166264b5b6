import { useState } from "react";
import { asRefused, type JobView, type PaperKind } from "../../api/client";
import { usePaper, usePaperKinds } from "../../data/useDocuments";
import { useJob } from "../../data/useJob";
import { MakePdf } from "../../parts/MakePdf";
import { PaperView } from "../../parts/PaperView";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";
import { IssuedList } from "./IssuedList";

/** What is handed over: what is issued first, then every document there is of the job, to be looked at and taken away. */
export function DocumentsPage() {
  const job = useJob();
  const kinds = usePaperKinds();
  // Labels are looked at where they belong: at the board.
  const shown = (kinds.data ?? []).filter((each) => each.of === "job" && each.forms.includes("csv"));
  const [kind, setKind] = useState("schedule");
  return (
    <main className="min-w-0 p-4">
      <Standing job={job} />
      <Downloads job={job} kinds={(kinds.data ?? []).filter((each) => each.of === "job")} />
      <div className="pb-3">
        <Pick
          name="Document shown"
          value={kind}
          options={shown.map((each) => [each.id, each.title] as const)}
          onCommit={setKind}
        />
      </div>
      <Shown job={job} kind={kind} />
    </main>
  );
}

/** Whether the schedule is in order, and if not, all that stands against it. */
function Standing({ job }: { job: JobView }) {
  const query = usePaper(job, "schedule");
  if (query.isError) return <RefusalNote refused={asRefused(query.error)} />;
  const schedule = query.data;
  if (!schedule) return <p className="py-3">Opening…</p>;
  return (
    <>
      {schedule.draft ? (
        <section className="mb-4 border-l-6 border-error bg-base-200 px-4 py-3">
          <h1 className="flex items-center gap-2 text-xl font-bold">
            <VerdictMark state="fail" /> Schedule: draft, not to be issued
          </h1>
          <ul className="mt-1 columns-1 list-disc pl-6 md:columns-2">
            {schedule.missing.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </section>
      ) : (
        <h1 className="mb-4 flex items-center gap-2 text-xl font-bold text-success">
          <VerdictMark state="pass" /> {schedule.claim}
        </h1>
      )}
      <IssuedList jobId={job.id} inOrder={!schedule.draft} />
    </>
  );
}

function Downloads({ job, kinds }: { job: JobView; kinds: PaperKind[] }) {
  const base = `/api/jobs/${job.id}`;
  return (
    <ul className="mb-5 grid gap-x-8 gap-y-2 border-y border-base-content/60 py-2 md:grid-cols-2">
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
  );
}

function Shown({ job, kind }: { job: JobView; kind: string }) {
  const query = usePaper(job, kind);
  if (query.isError) return <RefusalNote refused={asRefused(query.error)} />;
  if (!query.data) return <p className="py-3">Opening…</p>;
  return (
    <>
      <h2 className="text-2xl font-bold">{query.data.title}</h2>
      <p className="quiet pb-3">
        {[query.data.job, query.data.client, query.data.address, query.data.rulebook].filter(Boolean).join(" · ")}
      </p>
      <PaperView paper={query.data} />
    </>
  );
}
