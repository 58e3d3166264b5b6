import { NavLink } from "react-router-dom";
import type { JobView } from "../api/client";
import { VerdictMark } from "./verdict";

/** The circuits of the job, with how each stands: down the side at a desk, a list to pick from on a phone. */
export function CircuitStrip({ job, base, chosen }: { job: JobView; base: "circuits" | "tests"; chosen: string | undefined }) {
  return (
    <nav aria-label="Circuits" className="flex flex-col">
      {job.circuits.map((line) => (
        <NavLink
          key={line.id}
          to={`/jobs/${job.id}/${base}/${line.id}`}
          className={`flex items-center gap-2 border-b border-l-4 border-b-base-300 px-2 py-2 hover:bg-base-200 ${
            line.id === chosen ? "border-l-accent bg-base-200 font-semibold" : "border-l-transparent"
          }`}
        >
          <VerdictMark
            state={
              base === "circuits"
                ? line.verdict
                : line.taken === 0
                  ? "not-applicable"
                  : line.tests === "pass" && line.cautions > 0
                    ? "mind"
                    : line.tests
            }
            size={18}
          />
          <span className="w-5 text-right">{line.number}</span>
          <span className="min-w-0 grow leading-tight break-words">
            {line.name}
          </span>
          {base === "tests" && (
            <span className="quiet text-sm">
              {line.taken}/{line.total}
            </span>
          )}
        </NavLink>
      ))}
    </nav>
  );
}
