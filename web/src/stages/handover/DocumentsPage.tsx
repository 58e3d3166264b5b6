import { asRefused } from "../../api/client";
import { useSchedule } from "../../data/useDocuments";
import { useJob } from "../../data/useJob";
import { MakePdf } from "../../parts/MakePdf";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";
import { IssuedList } from "./IssuedList";

export function DocumentsPage() {
  const job = useJob();
  const query = useSchedule(job);
  if (query.isError)
    return (
      <div className="p-6">
        <RefusalNote refused={asRefused(query.error)} />
      </div>
    );
  const schedule = query.data;
  if (!schedule) return <p className="p-6">Opening…</p>;
  const base = `/api/jobs/${job.id}`;
  const groups: { name: string; span: number }[] = [];
  for (const column of schedule.columns) {
    const last = groups.at(-1);
    if (last?.name === column.group) last.span += 1;
    else groups.push({ name: column.group, span: 1 });
  }
  return (
    <main className="min-w-0 p-4">
      <div className="flex flex-wrap items-center gap-x-2 gap-y-3 pb-3">
        <div className="basis-full">
          <h1 className="text-2xl font-bold">Schedule of circuit details and test results</h1>
          <p className="quiet">{[schedule.job, schedule.client, schedule.address, schedule.rulebook].filter(Boolean).join(" · ")}</p>
        </div>
        <MakePdf href={`${base}/schedule.pdf`} words="PDF to look at" name="pdf" />
        <a className="btn" href={`${base}/schedule.csv`} download data-download="csv">
          CSV
        </a>
        <MakePdf href={`${base}/results.pdf`} words="Test results, PDF" name="results-pdf" />
        <a className="btn" href={`${base}/results.csv`} download data-download="results-csv">
          Test results, CSV
        </a>
        <a className="btn" href={`${base}/file`} download data-download="job">
          Job file
        </a>
      </div>
      {schedule.draft ? (
        <section className="mb-4 border-l-6 border-error bg-base-200 px-4 py-3">
          <p className="flex items-center gap-2 text-lg font-bold">
            <VerdictMark state="fail" /> Draft, not to be issued: compliance is not shown.
          </p>
          <ul className="mt-1 columns-1 list-disc pl-6 md:columns-2">
            {schedule.draft_reasons.map((reason) => (
              <li key={reason}>{reason}</li>
            ))}
          </ul>
        </section>
      ) : (
        <p className="mb-4 flex items-center gap-2 text-lg font-bold text-success">
          <VerdictMark state="pass" /> In order: every circuit complies and is tested.
        </p>
      )}
      <IssuedList jobId={job.id} inOrder={!schedule.draft} />
      <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2 border-y border-base-content/60 py-2">
        {schedule.supply.map((pair) => (
          <div key={String(pair[0])}>
            <dt className="quiet text-sm">{String(pair[0])}</dt>
            <dd className="text-xl font-bold">{String(pair[1])}</dd>
          </div>
        ))}
      </dl>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-center text-sm" data-schedule>
          <thead>
            <tr>
              {groups.map((group) => (
                <th key={group.name} colSpan={group.span} className="border border-base-300 bg-base-200 px-1 py-1">
                  {group.name}
                </th>
              ))}
            </tr>
            <tr>
              {schedule.columns.map((column) => (
                <th key={column.key} className="border border-base-300 px-1 py-1 align-bottom text-xs font-semibold">
                  {column.heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {schedule.rows.map((row, index) => (
              <tr key={index} className="hover:bg-base-200">
                {schedule.columns.map((column) => {
                  const cell = row.cells[column.key] ?? "";
                  const bad = cell === "FAILS" || cell === "✗";
                  return (
                    <td
                      key={column.key}
                      className={`border border-base-300 px-1 py-1.5 ${column.key === "name" ? "min-w-36 text-left font-semibold" : ""} ${bad ? "font-bold text-error" : ""}`}
                    >
                      {cell}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="quiet pt-3 text-sm">
        R1+R2 and Zs are the highest reading of the circuit. Predicted values are not shown here and never replace a test. {schedule.advice}
      </p>
    </main>
  );
}
