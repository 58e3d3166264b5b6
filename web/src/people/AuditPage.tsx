import { useState } from "react";
import { asRefused } from "../api/client";
import { Header } from "../app/Header";
import { useAudit, type AuditAsked } from "../data/usePeople";
import { RefusalNote } from "../parts/RefusalNote";

/** What was done in the firm: who, what, when, from where; the newest first. */
export function AuditPage() {
  const [asked, setAsked] = useState<AuditAsked>({ action: "", by: "", job: "", day: "" });
  const [job, setJob] = useState("");
  const query = useAudit(asked);
  const only = (more: Partial<AuditAsked>) => setAsked({ ...asked, ...more });
  const pages = query.data?.pages ?? [];
  return (
    <>
      <Header>
        <h1 className="truncate text-lg font-bold">What was done</h1>
      </Header>
      <main className="mx-auto max-w-6xl p-4">
        {query.isError && <RefusalNote refused={asRefused(query.error)} />}
        <div className="flex flex-wrap items-end gap-3 pb-3">
          <Only
            words="What"
            name="action"
            value={asked.action}
            any="everything"
            options={pages[0]?.actions.map((each) => [each, each.replaceAll("-", " ")] as const)}
            onChoose={(action) => only({ action })}
          />
          <Only
            words="By"
            name="by"
            value={asked.by}
            any="anybody"
            options={pages[0]?.people.map((each) => [each.id, each.name] as const)}
            onChoose={(by) => only({ by })}
          />
          <label className="flex flex-col">
            <span className="font-semibold">Day</span>
            <input
              className="input w-44"
              type="date"
              name="day"
              value={asked.day}
              onChange={(event) => only({ day: event.target.value })}
            />
          </label>
          {asked.job && (
            <button className="btn" onClick={() => only({ job: "" })}>
              Only {job} ✕
            </button>
          )}
        </div>
        <div className="overflow-x-auto">
          <table className="w-full border-collapse" data-audit>
            <thead>
              <tr className="border-b-2 border-base-content/70 text-left">
                {["When", "Who", "Did what", "To what", "Address"].map((each) => (
                  <th key={each} className="px-2 py-1 whitespace-nowrap">
                    {each}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {pages.flatMap((page) =>
                page.lines.map((line) => (
                  <tr key={line.id} className="border-b border-base-300 align-top">
                    <td className="px-2 py-1 whitespace-nowrap tabular-nums">
                      {line.at.slice(0, 19).replace("T", " ")}
                    </td>
                    <td className="px-2 py-1 font-semibold whitespace-nowrap">{line.by}</td>
                    <td
                      className={`px-2 py-1 whitespace-nowrap ${line.action === "sign-in-failed" ? "font-semibold text-error" : ""}`}
                    >
                      {line.action.replaceAll("-", " ")}
                    </td>
                    <td className="px-2 py-1 wrap-anywhere">
                      {line.job_id ? (
                        <button
                          className="cursor-pointer text-left underline underline-offset-2"
                          title="Only what was done to this job"
                          onClick={() => {
                            setJob(line.about.split(", ").at(-1) ?? line.about);
                            only({ job: line.job_id ?? "" });
                          }}
                        >
                          {line.about}
                        </button>
                      ) : (
                        <span className="quiet">{line.about}</span>
                      )}
                      {line.detail && line.detail !== line.about && <p className="font-semibold">{line.detail}</p>}
                    </td>
                    <td className="px-2 py-1 whitespace-nowrap">{line.address}</td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
        </div>
        {query.hasNextPage && (
          <button className="btn mt-4" onClick={() => void query.fetchNextPage()}>
            Earlier
          </button>
        )}
        <p className="quiet mt-4 text-sm">
          Times are UTC. Lines and all records are only ever added and are chained: <code>lumbek admin verify</code>{" "}
          finds any that was changed.
        </p>
      </main>
    </>
  );
}

/** One of several, or any of them: to have only its lines. */
function Only({
  words,
  name,
  value,
  any,
  options = [],
  onChoose,
}: {
  words: string;
  name: string;
  value: string;
  any: string;
  options: readonly (readonly [string, string])[] | undefined;
  onChoose: (value: string) => void;
}) {
  return (
    <label className="flex flex-col">
      <span className="font-semibold">{words}</span>
      <select className="select w-56" name={name} value={value} onChange={(event) => onChoose(event.target.value)}>
        <option value="">{any}</option>
        {options.map(([id, shown]) => (
          <option key={id} value={id}>
            {shown}
          </option>
        ))}
      </select>
    </label>
  );
}
