import { NavLink, useParams } from "react-router-dom";
import { asRefused } from "../../api/client";
import { Refused } from "../../app/Refused";
import { useInspection } from "../../data/useInspection";
import { useJob } from "../../data/useJob";
import { RefusalNote } from "../../parts/RefusalNote";
import { VerdictMark } from "../../parts/verdict";
import { FindingsPart } from "./FindingsPart";
import { LastTimePart } from "./LastTimePart";
import { ParticularsPart } from "./ParticularsPart";
import { PutRightPart } from "./PutRightPart";
import { SamplePart } from "./SamplePart";
import { SignPart } from "./SignPart";
import { WalkPart } from "./WalkPart";

const PARTS = [
  ["walk", "Walk"],
  ["findings", "Findings"],
  ["sample", "Opened"],
  ["particulars", "Particulars"],
  ["remedials", "Put right"],
  ["last", "Last time"],
  ["sign", "Sign"],
] as const;

const OUTCOME = {
  satisfactory: ["pass", "Satisfactory"],
  unsatisfactory: ["fail", "UNSATISFACTORY"],
  open: ["cannot-tell", "Not judged yet"],
} as const;

/** An inspection: the walk through the house, what was found on it, and all that its papers ask besides. */
export function InspectionPage() {
  const job = useJob();
  const { part = "walk", about } = useParams();
  const inspection = useInspection(job.id);
  const { view, query, waiting } = inspection;
  if (!view) return query.isError ? <RefusalNote refused={asRefused(query.error)} /> : <p className="p-4">Opening…</p>;
  const whole = view.whole;
  const [state, words] = OUTCOME[whole.outcome.word];
  const open = whole.areas.reduce((sum, area) => sum + area.items.filter((item) => !item.standing).length, 0);
  const counts = Object.entries(whole.outcome.counts).filter(([, count]) => count > 0);
  const props = { job, inspection, view };
  return (
    <main className="mx-auto w-full max-w-6xl min-w-0 p-3 md:p-4">
      <h1 className="flex flex-wrap items-center gap-x-3 gap-y-1 text-xl font-bold" data-outcome={whole.outcome.word}>
        <VerdictMark state={state} /> {words}
        <span className="text-base font-normal">
          {counts.map(([code, count]) => `${String(count)} ${code}`).join(", ") || "nothing coded"}
          {open > 0 && ` · ${String(open)} to look at`}
          {whole.offers.length > 0 && ` · ${String(whole.offers.length)} offered`}
        </span>
      </h1>
      {waiting.length > 0 && (
        <p className="pt-1 font-semibold text-warning" data-waiting={waiting.length}>
          {waiting.length} kept on this device, not sent yet.
        </p>
      )}
      {waiting.map((each) => (
        <Refused key={each.id} waiting={each} />
      ))}
      <nav aria-label="Parts of the inspection" className="my-3 flex flex-wrap gap-1">
        {PARTS.map(([path, name]) => (
          <NavLink
            key={path}
            to={`/jobs/${job.id}/inspection/${path}`}
            className={`btn btn-sm min-h-11 md:min-h-9 ${part === path ? "btn-primary" : ""}`}
            aria-current={part === path ? "page" : undefined}
          >
            {name}
            {path === "findings" && whole.offers.length > 0 && <b>{whole.offers.length}</b>}
          </NavLink>
        ))}
      </nav>
      {part === "findings" || part === "offers" ? (
        <FindingsPart {...props} about={about} />
      ) : part === "sample" ? (
        <SamplePart {...props} />
      ) : part === "particulars" ? (
        <ParticularsPart {...props} />
      ) : part === "remedials" ? (
        <PutRightPart {...props} />
      ) : part === "last" ? (
        <LastTimePart {...props} />
      ) : part === "sign" ? (
        <SignPart {...props} />
      ) : (
        <WalkPart {...props} area={part === "walk" ? about : part} />
      )}
    </main>
  );
}
