import { useState } from "react";
import { Link } from "react-router-dom";
import type { StepSaid, WorkStep } from "../../api/client";
import { useJob } from "../../data/useJob";
import type { Work } from "../../data/useWork";
import { Photos } from "../../app/Photos";

interface Props {
  step: WorkStep;
  work: Work;
  name: (room: string) => string;
}

/** A step: ticked with a thumb, or said to be left or missing; its cables, and what to mind. */
export function StepLine({ step, work, name }: Props) {
  const job = useJob();
  const [open, setOpen] = useState(false);
  const { status, note, by } = step.stands;
  const say = (said: StepSaid["status"], why = "") =>
    work.say({ record: "step", step: step.key, status: said, note: why });
  return (
    <li className="border-b border-base-300 py-1" data-step={step.key} data-status={status}>
      <div className="flex min-h-11 items-center gap-3">
        {step.follows ? (
          <span className="w-6 text-center text-xl" aria-hidden="true">
            {status === "done" ? "✓" : "○"}
          </span>
        ) : (
          <input
            type="checkbox"
            className="checkbox"
            aria-label={`Done: ${step.what}`}
            checked={status === "done"}
            onChange={(event) => say(event.target.checked ? "done" : "to-do")}
          />
        )}
        <span className="min-w-0 grow">
          <span className={status === "done" ? "" : "font-semibold"}>{step.what}</span>
          {(status === "left" || status === "missing") && (
            <span className="block font-semibold text-warning">
              {status}: {note}
            </span>
          )}
          {status === "done" && by && <span className="quiet block text-sm">done, {by}</span>}
        </span>
        {step.follows ? (
          <Link className="btn btn-sm" to={`/jobs/${job.id}/tests/${circuitOf(step, job.circuits)}`}>
            Readings
          </Link>
        ) : (
          <button className="btn btn-sm min-h-11" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? "Less" : "More"}
          </button>
        )}
      </div>
      {step.cables.length > 0 && (
        <ul className="pl-9 text-sm">
          {step.cables.map((cable) => (
            <li key={`${String(cable.circuit)}/${cable.leg}`} className="tabular-nums">
              <b>
                {cable.circuit}/{cable.leg}
              </b>{" "}
              to {cable.to}
              {cable.mm != null && `, ${(cable.mm / 1000).toFixed(2)} m`}
              {cable.is_found && ", there already"}
              {cable.is_long && ", long tail"}
            </li>
          ))}
        </ul>
      )}
      {step.told.length > 0 && (open || step.phase === "hold") && (
        <p className="quiet pl-9 text-sm">{step.told.join(" ")}</p>
      )}
      {step.wants_photo && (
        <div className="pl-9">
          <Photos jobId={job.id} shown={{ shows: "room", of: step.room }} of={`${name(step.room)}, open`} small />
        </div>
      )}
      {open && <NotDone onSay={say} onClose={() => setOpen(false)} />}
    </li>
  );
}

/** Why a step is not done: left for another day, or something is missing for it. */
function NotDone({
  onSay,
  onClose,
}: {
  onSay: (status: StepSaid["status"], why: string) => void;
  onClose: () => void;
}) {
  const [why, setWhy] = useState("");
  return (
    <form className="flex flex-wrap items-center gap-2 py-2 pl-9" onSubmit={(event) => event.preventDefault()}>
      <input
        className="input min-h-11 w-56 grow"
        name="Why not"
        aria-label="Why it is left, or what is missing"
        placeholder="why, or what"
        maxLength={400}
        value={why}
        onChange={(event) => setWhy(event.target.value)}
      />
      {(["left", "missing"] as const).map((status) => (
        <button
          key={status}
          className="btn min-h-11"
          type="button"
          disabled={!why.trim()}
          onClick={() => {
            onSay(status, why.trim());
            onClose();
          }}
        >
          {status === "left" ? "Left" : "Missing"}
        </button>
      ))}
    </form>
  );
}

function circuitOf(step: WorkStep, circuits: readonly { id: string }[]): string {
  const key = step.key.split("/")[1] ?? "";
  return circuits.find((each) => each.id.replaceAll("-", "") === key)?.id ?? "";
}
