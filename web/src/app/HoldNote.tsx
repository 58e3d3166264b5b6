import { Link } from "react-router-dom";
import { standingSteps, useWork } from "../data/useWork";

/** What is to be tested of a circuit before walls and floors are closed over it; nothing once it is, or where none is. */
export function HoldNote({ jobId, circuitId }: { jobId: string; circuitId: string }) {
  const { query, waiting } = useWork(jobId);
  const key = `half-way/${circuitId.replaceAll("-", "")}`;
  const step = standingSteps(query.data?.work.steps ?? [], waiting).find((each) => each.key === key);
  if (!step || step.stands.status === "done") return null;
  return (
    // On a phone it comes after the keys: a reading fits the screen.
    <p className="my-2 max-md:order-last border-l-4 border-warning bg-base-200 px-3 py-2" data-hold={step.key}>
      <b>Before it is closed in:</b> {step.told.join(" ")}{" "}
      <Link className="link" to={`/jobs/${jobId}/work`}>
        The work
      </Link>
    </p>
  );
}
