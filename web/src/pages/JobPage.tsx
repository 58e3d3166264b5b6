import { useQuery } from "@tanstack/react-query";
import { NavLink, Outlet, useOutletContext, useParams } from "react-router-dom";
import { api, ask, asRefused, type JobView } from "../api/client";
import { Header } from "../app/Header";
import { RefusalNote } from "../parts/RefusalNote";
import { VerdictMark } from "../parts/verdict";

const STAGES = [
  ["survey", "Survey"],
  ["circuits", "Circuits"],
  ["tests", "Tests"],
  ["documents", "Documents"],
] as const;

export function useJob(): JobView {
  return useOutletContext<JobView>();
}

export function useJobQuery(jobId: string | undefined) {
  return useQuery({
    queryKey: ["job", jobId],
    queryFn: () => ask(api.GET("/api/jobs/{job_id}", { params: { path: { job_id: jobId ?? "" } } })),
    enabled: jobId !== undefined,
  });
}

/** A job open: its name and the stages of the work, above the stage in hand. */
export function JobPage() {
  const { jobId } = useParams();
  const job = useJobQuery(jobId);
  const stages = (
    <>
      {STAGES.map(([path, words]) => (
        <NavLink
          key={path}
          to={`/jobs/${jobId ?? ""}/${path}`}
          className={({ isActive }) =>
            `grow px-3 py-2 text-center font-semibold whitespace-nowrap md:grow-0 ${isActive ? "border-b-4 border-accent md:-mb-2" : "border-b-4 border-transparent quiet md:-mb-2"}`
          }
        >
          {words}
        </NavLink>
      ))}
    </>
  );
  return (
    <div className="flex min-h-dvh flex-col pb-14 md:pb-0">
      <Header>
        <span className="truncate text-lg font-semibold">{job.data?.head.name}</span>
        <nav aria-label="Stages of the work" className="hidden md:flex">
          {stages}
        </nav>
      </Header>
      {job.isError && (
        <div className="p-6">
          <RefusalNote refused={asRefused(job.error)} />
        </div>
      )}
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
          <span className="grow truncate" title={line.name}>
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
