import { useState } from "react";
import type { WorkView } from "../../api/client";
import type { Work } from "../../data/useWork";

/** What was used of each thing against what was planned: said as it is taken from the van. */
export function UsedPart({ view, work }: { view: WorkView; work: Work }) {
  return (
    <table className="table w-full">
      <thead>
        <tr>
          <th>What</th>
          <th className="text-right">Planned</th>
          <th className="text-right">Used</th>
          <th>More was used</th>
        </tr>
      </thead>
      <tbody>
        {view.work.used.map((each) => {
          const waits = work.waiting
            .flatMap(({ said }) => (said.record === "used" && said.item === each.key ? [Number(said.count)] : []))
            .reduce((sum, count) => sum + count, 0);
          const used = Number(each.used) + waits;
          const over = used > Number(each.planned);
          return (
            <tr key={each.key} data-used={each.key}>
              <td className="font-semibold">{each.what}</td>
              <td className="text-right tabular-nums">{amount(Number(each.planned), each.unit)}</td>
              <td className={`text-right tabular-nums ${over ? "font-bold text-warning" : ""}`}>
                {amount(used, each.unit)}
                {over && " more than planned"}
              </td>
              <td>
                <More
                  what={each.what}
                  onUsed={(count) => work.say({ record: "used", item: each.key, count, note: "" })}
                />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function amount(count: number, unit: string): string {
  return unit === "m" ? `${count.toFixed(1)} m` : String(count);
}

function More({ what, onUsed }: { what: string; onUsed: (count: number) => void }) {
  const [typed, setTyped] = useState("");
  const count = Number(typed.replace(",", "."));
  const good = typed.trim() !== "" && Number.isFinite(count) && count !== 0 && Math.abs(count) <= 100_000;
  return (
    <form
      className="flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!good) return;
        onUsed(Math.round(count * 1000) / 1000);
        setTyped("");
      }}
    >
      <input
        className="input input-sm w-20"
        aria-label={`Used of ${what}`}
        inputMode="decimal"
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
      />
      <button className="btn btn-sm" disabled={!good}>
        Used
      </button>
    </form>
  );
}
