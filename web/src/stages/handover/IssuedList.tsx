import { useState } from "react";
import { asRefused, type Refused } from "../../api/client";
import { useMe } from "../../data/me";
import { useIssued } from "../../data/useDocuments";
import { RefusalNote } from "../../parts/RefusalNote";

/** Issuing the schedule, and every issue there was: what was handed over is kept as it was. */
export function IssuedList({ jobId, inOrder }: { jobId: string; inOrder: boolean }) {
  const { query, issue } = useIssued(jobId);
  const may = useMe().rights.includes("issue");
  const [making, setMaking] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  const issued = query.data ?? [];
  // What stands as it was issued is not issued again.
  const due = inOrder && may && !issued.some((each) => each.stands);
  if (issued.length === 0 && !due) return null;
  return (
    <section className="mb-4" data-issued={issued.length}>
      {due && (
        <button
          className="btn btn-primary"
          disabled={making || query.data === undefined}
          onClick={() => {
            setMaking(true);
            setRefused(undefined);
            issue("schedule")
              .catch((error: unknown) => setRefused(asRefused(error)))
              .finally(() => setMaking(false));
          }}
        >
          {making
            ? "Issuing…"
            : issued.length
              ? `Issue the schedule again, issue ${String(issued.length + 1)}`
              : "Issue the schedule"}
        </button>
      )}
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      {issued.length > 0 && (
        <table className="mt-3 w-full max-w-4xl text-left">
          <thead>
            <tr className="border-b-2 border-base-content/70">
              <th className="py-1">Issued</th>
              <th>By</th>
              <th className="max-sm:hidden">SHA-256 of the file</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {[...issued].reverse().map((each) => (
              <tr key={each.id} className="border-b border-base-300">
                <td className="py-1.5 pr-3">
                  <b>Schedule, issue {each.number}</b>
                  <span className={`block text-sm ${each.stands ? "quiet" : "font-semibold text-warning"}`}>
                    {each.stands ? "as the job stands" : "the job has changed since"}
                  </span>
                </td>
                <td>
                  {each.by}
                  <span className="quiet block text-sm">{each.at.slice(0, 16).replace("T", " ")}</span>
                </td>
                <td className="font-mono text-sm max-sm:hidden" title={each.sha256}>
                  {each.sha256.slice(0, 16)}…
                </td>
                <td className="text-right">
                  <a
                    className="btn"
                    href={`/api/issued/${each.id}/file`}
                    download
                    data-download={`issue-${String(each.number)}`}
                    aria-label={`PDF of issue ${String(each.number)}`}
                  >
                    PDF
                  </a>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
