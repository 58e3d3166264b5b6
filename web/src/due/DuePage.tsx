import { useState } from "react";
import { Link, useNavigate } from "react-router-dom";
import { asRefused, type Refused } from "../api/client";
import { Header } from "../app/Header";
import { useDue, useNextInspection } from "../data/useDue";
import { RefusalNote } from "../parts/RefusalNote";

const WITHIN = [
  ["all", "all"],
  ["overdue", "overdue"],
  ["90", "within 90 days"],
  ["365", "within a year"],
] as const;

/** What falls due over all jobs of the firm, by date; one press starts the next inspection from the last. */
export function DuePage() {
  const query = useDue();
  const start = useNextInspection();
  const go = useNavigate();
  const [within, setWithin] = useState<string>("all");
  const [refused, setRefused] = useState<Refused>();
  const lines = (query.data ?? []).filter((line) => isWithin(line.day, line.overdue, within));
  return (
    <>
      <Header needs={undefined}>
        <h1 className="truncate text-lg font-bold">Due</h1>
      </Header>
      <main className="mx-auto max-w-5xl p-4">
        {query.isError && <RefusalNote refused={asRefused(query.error)} />}
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        <label className="flex items-center gap-2 pb-3">
          <span className="font-semibold">Shown</span>
          <select
            className="select w-52"
            name="Within"
            value={within}
            onChange={(event) => setWithin(event.target.value)}
          >
            {WITHIN.map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {query.data && lines.length === 0 && <p className="quiet">Nothing falls due here.</p>}
        <ul data-due={lines.length}>
          {lines.map((line) => (
            <li key={line.job_id} className="flex flex-wrap items-center gap-3 border-b border-base-300 py-2">
              <span className={`w-32 text-xl font-bold tabular-nums ${line.overdue ? "text-error" : ""}`}>
                {line.day}
                {line.overdue && <span className="block text-sm">OVERDUE</span>}
              </span>
              <span className="min-w-48 grow">
                <Link className="link font-semibold" to={`/jobs/${line.job_id}/inspection`}>
                  {line.name}
                </Link>
                <span className="quiet block text-sm">
                  {[line.client, line.address, line.why].filter(Boolean).join(" · ")}
                </span>
              </span>
              <a
                className="btn"
                href={`/api/jobs/${line.job_id}/due.ics`}
                download
                aria-label={`Calendar of ${line.name}`}
              >
                Calendar
              </a>
              <button
                className="btn btn-primary"
                aria-label={`Start the next inspection of ${line.name}`}
                onClick={() => {
                  setRefused(undefined);
                  start(line.job_id)
                    .then((job) => go(`/jobs/${job.id}/inspection`))
                    .catch((error: unknown) => setRefused(asRefused(error)));
                }}
              >
                Start the next
              </button>
            </li>
          ))}
        </ul>
      </main>
    </>
  );
}

function isWithin(day: string, overdue: boolean, within: string): boolean {
  if (within === "all") return true;
  if (within === "overdue") return overdue;
  return (new Date(day).getTime() - Date.now()) / 86_400_000 <= Number(within);
}
