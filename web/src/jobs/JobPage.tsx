import type { ComponentType } from "react";
import { Link, NavLink, Outlet, useLocation, useParams } from "react-router-dom";
import { asRefused, type JobView } from "../api/client";
import { useJobQuery } from "../data/useJob";
import { Header } from "../app/Header";
import { RefusalNote } from "../parts/RefusalNote";

const STAGES = [
  ["survey", "Survey"],
  ["plan", "Plan"],
  ["board", "Board"],
  ["circuits", "Circuits"],
  ["switching", "Switching"],
  ["tests", "Tests"],
  ["inspection", "Inspect"],
  ["documents", "Documents"],
] as const;

const OF_CIRCUITS: readonly string[] = ["circuits", "switching", "tests"];

/** A job open: its name and the stages of the work, above the stage in hand; what is above every stage is given. */
export function JobPage({ above: Above }: { above: ComponentType<{ job: JobView }> }) {
  const { jobId } = useParams();
  const [, , , stage, here] = useLocation().pathname.split("/");
  // The circuit one is in stays in hand from stage to stage.
  const circuit = here && /^[0-9a-f-]{36}$/.test(here) ? here : undefined;
  const job = useJobQuery(jobId);
  const stages = (
    <>
      {STAGES.map(([path, words]) => (
        <NavLink
          key={path}
          to={`/jobs/${jobId ?? ""}/${path}${circuit && OF_CIRCUITS.includes(path) ? `/${circuit}` : ""}`}
          className={({ isActive }) =>
            `grow px-1 py-2 max-sm:text-xs md:px-3 text-center font-semibold whitespace-nowrap md:grow-0 ${isActive ? "border-b-4 border-accent md:-mb-2" : "border-b-4 border-transparent quiet md:-mb-2"}`
          }
        >
          {words}
        </NavLink>
      ))}
    </>
  );
  return (
    <div className="flex min-h-dvh flex-col pb-14 md:pb-0">
      <Header
        needs={
          stage === "tests"
            ? ["test"]
            : stage === "inspection"
              ? ["design", "test"]
              : stage === "documents"
                ? undefined
                : ["design"]
        }
      >
        <span className="truncate text-lg font-semibold">{job.data?.head.name}</span>
        <nav aria-label="Stages of the work" className="hidden md:flex">
          {stages}
        </nav>
        <Link
          to="?danger"
          className="btn btn-sm ml-auto border-2 border-error bg-base-100 font-bold text-error"
          title="A danger was found: record it at once"
        >
          Danger
        </Link>
      </Header>
      {job.isError && (
        <div className="p-6">
          <RefusalNote refused={asRefused(job.error)} />
        </div>
      )}
      {job.data && <Above job={job.data} />}
      {job.data && <Outlet context={job.data} />}
      <nav
        aria-label="Stages of the work"
        className="fixed inset-x-0 bottom-0 z-10 flex border-t-2 border-base-content/80 bg-base-100 md:hidden"
      >
        {stages}
      </nav>
    </div>
  );
}
