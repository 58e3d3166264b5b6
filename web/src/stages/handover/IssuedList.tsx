import { useState } from "react";
import { asRefused, type Issued, type PaperKind, type Refused } from "../../api/client";
import { useMe } from "../../data/me";
import { useIssued } from "../../data/useDocuments";
import { HandOver } from "./HandOver";
import { RefusalNote } from "../../parts/RefusalNote";

/** Every paper that was issued of a job: what was handed over is kept as it was. */
export function IssuedList({ jobId }: { jobId: string }) {
  const issued = useIssued(jobId).query.data ?? [];
  const may = useMe().rights.includes("issue");
  if (issued.length === 0) return null;
  return (
    <section className="mb-4" data-issued={issued.length}>
      <h2 className="text-xl font-bold">Issued</h2>
      <table className="w-full max-w-5xl text-left">
        <thead>
          <tr className="border-b-2 border-base-content/70">
            <th className="py-1">Paper</th>
            <th>By</th>
            <th className="max-sm:hidden">SHA-256 of the file</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {[...issued].reverse().map((each) => (
            <tr key={each.id} className="border-b border-base-300">
              <td className="py-1.5 pr-3">
                <b>
                  {each.title}, number {each.firm_number}
                </b>
                <Since issued={each} />
              </td>
              <td>
                {each.by}
                <span className="quiet block text-sm">{each.at.slice(0, 16).replace("T", " ")}</span>
              </td>
              <td className="font-mono text-sm max-sm:hidden" title={each.sha256}>
                {each.sha256.slice(0, 16)}…
              </td>
              <td className="text-right whitespace-nowrap">
                <a
                  className="btn"
                  href={`/api/issued/${each.id}/file`}
                  download
                  data-download={`${each.kind}-issue-${String(each.number)}`}
                  aria-label={`PDF of ${each.title}, number ${String(each.firm_number)}`}
                >
                  PDF
                </a>{" "}
                <a
                  className="btn"
                  href={`/verify/${each.code}`}
                  aria-label={`Verify ${each.title}, number ${String(each.firm_number)}`}
                >
                  Verify
                </a>{" "}
                {may && <HandOver issued={each} />}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Since({ issued }: { issued: Issued }) {
  if (issued.corrected_by !== null && issued.corrected_by !== undefined)
    return <span className="block text-sm font-semibold text-error">number {issued.corrected_by} stands instead</span>;
  return (
    <span className={`block text-sm ${issued.stands ? "quiet" : "font-semibold text-warning"}`}>
      {issued.stands ? "as the job stands" : "the job has changed since"}
    </span>
  );
}

/** Issuing a paper that is in order: first, or instead of the one before it. */
export function IssueButton({ jobId, kind }: { jobId: string; kind: PaperKind }) {
  const { query, issue } = useIssued(jobId);
  const may = useMe().rights.includes("issue");
  const [making, setMaking] = useState(false);
  const [refused, setRefused] = useState<Refused>();
  if (!kind.issued || !may || query.data === undefined) return null;
  const mine = query.data.filter((each) => each.kind === kind.id);
  // What stands as it was issued is not issued again.
  if (mine.some((each) => each.stands)) return null;
  const before = mine.at(-1);
  const run = (corrects: string | undefined) => {
    setMaking(true);
    setRefused(undefined);
    issue(kind.id, corrects)
      .catch((error: unknown) => setRefused(asRefused(error)))
      .finally(() => setMaking(false));
  };
  return (
    <>
      <button className="btn btn-primary" disabled={making} onClick={() => run(undefined)}>
        {making
          ? "Issuing…"
          : before
            ? `Issue anew: ${kind.title.toLowerCase()}`
            : `Issue: ${kind.title.toLowerCase()}`}
      </button>
      {before && !making && (
        <button className="btn" onClick={() => run(before.id)}>
          Issue it to correct number {before.firm_number}
        </button>
      )}
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
    </>
  );
}
