import { useState } from "react";
import { asRefused, type Refused } from "../api/client";
import { Header } from "../app/Header";
import { useMe } from "../data/me";
import { usePrices, usePutPrices } from "../data/usePrices";
import { RefusalNote } from "../parts/RefusalNote";

/** The firm's prices: looked up by a word of them, handed out as CSV, and taken in from one. */
export function PricesPage() {
  const query = usePrices();
  const put = usePutPrices();
  const mayPut = useMe().rights.includes("design");
  const [sought, setSought] = useState("");
  const [refused, setRefused] = useState<Refused>();
  const lines = query.data?.lines ?? [];
  const word = sought.trim().toLowerCase();
  const shown = lines.filter((line) => `${line.code} ${line.name} ${line.supplier}`.toLowerCase().includes(word));
  return (
    <>
      <Header needs={undefined}>
        <h1 className="truncate text-lg font-bold">Prices</h1>
      </Header>
      <main className="mx-auto max-w-5xl p-4">
        {query.isError && <RefusalNote refused={asRefused(query.error)} />}
        {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
        <div className="flex flex-wrap items-center gap-3 pb-3">
          <input
            className="input w-64"
            type="search"
            aria-label="Look for a price"
            placeholder="Code, name or supplier"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
          />
          <span className="grow">
            <b className="text-xl tabular-nums">{lines.length}</b> prices
          </span>
          {lines.length > 0 && (
            <a className="btn" href="/api/prices.csv" download>
              CSV
            </a>
          )}
          {mayPut && (
            <label className="btn btn-primary focus-within:outline-2">
              Take in a CSV
              <input
                className="sr-only"
                type="file"
                name="prices"
                aria-label="Take in a CSV of prices"
                accept=".csv,text/csv,text/plain"
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  event.target.value = "";
                  setRefused(undefined);
                  file
                    ?.text()
                    .then(put)
                    .catch((error: unknown) => setRefused(asRefused(error)));
                }}
              />
            </label>
          )}
        </div>
        {query.data && lines.length === 0 && (
          <p className="max-w-prose">
            None yet. Take in a file with a first line of <b className="font-mono">code, name, unit, price, supplier</b>
            ; what tasks and quotes are made of is chosen from it.
          </p>
        )}
        {shown.length > 0 && (
          <table className="w-full border-collapse" data-prices={shown.length}>
            <thead>
              <tr className="border-b-2 border-base-content/60 text-left text-sm">
                <th className="p-1">Code</th>
                <th className="p-1">Name</th>
                <th className="p-1 text-right">Price</th>
                <th className="p-1">Unit</th>
                <th className="p-1">Supplier</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((line) => (
                <tr key={line.code} className="border-b border-base-300">
                  <td className="p-1 font-mono text-sm">{line.code}</td>
                  <td className="p-1">{line.name}</td>
                  <td className="p-1 text-right text-lg font-bold tabular-nums">{line.price}</td>
                  <td className="p-1">{line.unit}</td>
                  <td className="p-1">{line.supplier}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
    </>
  );
}
