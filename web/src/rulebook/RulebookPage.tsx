import { Link, useParams } from "react-router-dom";
import { asRefused } from "../api/client";
import { Header } from "../app/Header";
import { useRulebook } from "../data/useChoices";
import { RefusalNote } from "../parts/RefusalNote";

/** A rulebook laid open: what it asks in our own words, its tables, and where the two differ. */
export function RulebookPage() {
  const { rulebook } = useParams();
  const id = rulebook === "iec60364" ? "iec60364" : "bs7671";
  const query = useRulebook(id);
  const page = query.data;
  return (
    <>
      <Header>
        <nav className="flex" aria-label="Rulebooks">
          {(["bs7671", "iec60364"] as const).map((each) => (
            <Link
              key={each}
              to={`/rulebooks/${each}`}
              className={`-mb-2 border-b-4 px-3 py-2 font-semibold ${each === id ? "border-accent" : "quiet border-transparent"}`}
            >
              {each === "bs7671" ? "BS 7671" : "IEC 60364"}
            </Link>
          ))}
        </nav>
      </Header>
      <main className="mx-auto max-w-6xl px-4 pb-12">
        {query.isError && <RefusalNote refused={asRefused(query.error)} />}
        {page && (
          <>
            <h1 className="pt-4 text-2xl font-bold">{page.title}</h1>
            <p className="pb-3">
              Edition {page.edition}. <b>{page.advice}</b>
            </p>
            <h2 className="border-b-2 border-base-content/70 pb-1 text-xl font-bold">Where the two differ</h2>
            <table className="mb-6 w-full text-left" data-differences>
              <thead>
                <tr>
                  <th className="w-1/4 py-1 pr-3">On</th>
                  <th className="w-3/8 pr-3">BS 7671</th>
                  <th>IEC 60364</th>
                </tr>
              </thead>
              <tbody>
                {page.differences.map((each) => (
                  <tr key={each.topic} className="border-t border-base-300 align-top">
                    <td className="py-1.5 pr-3 font-semibold">{each.topic}</td>
                    <td className="py-1.5 pr-3">{each.bs7671}</td>
                    <td className="py-1.5">{each.iec60364}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <h2 className="border-b-2 border-base-content/70 pb-1 text-xl font-bold">What it asks, in our own words</h2>
            <dl className="mb-6 grid gap-x-8 md:grid-cols-2">
              {[...page.clauses, ...page.guidance].map((clause) => (
                <div key={clause.topic} className="border-b border-base-300 py-2">
                  <dt className="flex justify-between gap-3 font-semibold">
                    <span className="first-letter:uppercase">{clause.topic}</span>
                    <span className="quiet text-sm">{clause.ref}</span>
                  </dt>
                  <dd>{clause.text}</dd>
                </div>
              ))}
            </dl>
            <h2 className="border-b-2 border-base-content/70 pb-1 text-xl font-bold">Tables</h2>
            {page.tables.map((table) => (
              <details key={table.title} className="border-b border-base-300 py-2">
                <summary className="cursor-pointer font-semibold">
                  {table.title} <span className="quiet text-sm">{table.rows.length} entries</span>
                </summary>
                <div className="max-h-96 overflow-auto">
                  <table className="mt-2 text-sm">
                    <thead className="sticky top-0 bg-base-200">
                      <tr>
                        {table.columns.map((column) => (
                          <th key={column} className="px-3 py-1 text-left">
                            {column.replaceAll("_", " ")}
                          </th>
                        ))}
                      </tr>
                    </thead>
                    <tbody>
                      {table.rows.map((row, index) => (
                        <tr key={index} className="border-t border-base-300">
                          {row.map((cell, place) => (
                            <td key={place} className="px-3 py-0.5">
                              {cell}
                            </td>
                          ))}
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </div>
              </details>
            ))}
          </>
        )}
      </main>
    </>
  );
}
