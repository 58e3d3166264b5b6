import { useState, type ReactNode, type SyntheticEvent } from "react";
import { useNavigate } from "react-router-dom";
import { asRefused, type Quick, type Refused } from "../api/client";
import { useNewJob } from "../data/useJobs";
import { parseFigure } from "../numbers";
import { Pick } from "../parts/Pick";
import { RefusalNote } from "../parts/RefusalNote";
import type { Small } from "./small";

type What = Quick["what"];

const EARTHINGS = [
  ["TN-C-S", "TN-C-S"],
  ["TN-S", "TN-S"],
  ["TT", "TT"],
] as const;
const BONDINGS = [
  ["10", "10 mm²"],
  ["6", "6 mm²"],
  ["16", "16 mm²"],
  ["plastic", "plastic pipes"],
  ["none", "missing"],
] as const;
const RCDS = [
  ["30-A", "30 mA, A"],
  ["30-AC", "30 mA, AC"],
  ["30", "30 mA, type?"],
  ["none", "none"],
] as const;
const DEVICES = [
  ["bs-en-60898", "MCB"],
  ["bs-en-61009", "RCBO"],
  ["bs3036", "rewirable"],
  ["bs1361", "BS 1361"],
  ["iec60269", "gG (D, D0)"],
] as const;
const RATINGS: Record<What, readonly string[]> = {
  light: ["5", "6", "10"],
  socket: ["16", "20", "30", "32"],
  breaker: ["6", "10", "16", "20", "32", "40"],
};
const SIZES: Record<What, readonly string[]> = {
  light: ["1", "1.5"],
  socket: ["2.5", "4"],
  breaker: ["1", "1.5", "2.5", "4", "6", "10"],
};
const KINDS = [
  ["sockets", "sockets"],
  ["lighting", "lights"],
  ["cooker", "cooker"],
  ["shower", "shower"],
  ["water-heater", "water heater"],
] as const;
const KA = ["6", "10"] as const;

/** A small job, asked in one go: what is changed, and what that relies on. The readings come after it. */
export function QuickJob({ small, onCancel }: { small: Small; onCancel: () => void }) {
  const { what } = small;
  const [quick, setQuick] = useState<Partial<Quick>>(small.begins ?? {});
  const [fault, setFault] = useState("");
  const [refused, setRefused] = useState<Refused>();
  const navigate = useNavigate();
  const newJob = useNewJob();
  const set = (changes: Partial<Quick>) => setQuick({ ...quick, ...changes });
  const amperes = RATINGS[what].map((each) => [each, `${each} A`] as const);
  const sizes = SIZES[what].map((each) => [each, `${each} mm²`] as const);

  async function start(event: SyntheticEvent) {
    event.preventDefault();
    try {
      const fault_current_ka = parseFigure(fault);
      const job = await newJob.quick({ ...quick, what, ...(fault_current_ka != null && { fault_current_ka }) });
      void navigate(`/jobs/${job.id}/tests/${job.circuits[0]?.id ?? ""}`);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }

  return (
    <form
      className="flex flex-col gap-4 border-l-6 border-accent bg-base-200 p-4"
      data-quick={small.id}
      onSubmit={(event) => void start(event)}
    >
      <h2 className="text-2xl font-bold">{small.title}</h2>
      <p>
        It covers this and what it relies on; the rest of the house is asked of nobody. What you do not know, leave.
      </p>
      {what === "breaker" && (
        <Asked question="The circuit feeds">
          <Pick
            name="What it feeds"
            value={(quick.kind ?? "") as (typeof KINDS)[number][0] | ""}
            options={KINDS}
            onCommit={(kind) => set({ kind })}
          />
        </Asked>
      )}
      <Asked question="Earthing">
        <Pick
          name="Earthing"
          value={quick.earthing ?? ""}
          options={EARTHINGS}
          onCommit={(earthing) => set({ earthing })}
        />
      </Asked>
      <Asked question="Main bonding">
        <Pick
          name="Main bonding"
          value={(quick.bonding ?? "") as (typeof BONDINGS)[number][0] | ""}
          options={BONDINGS}
          onCommit={(bonding) => set({ bonding })}
        />
      </Asked>
      <Asked question={what === "breaker" ? "The new device" : "The circuit’s device"}>
        <Pick
          name="Device"
          value={(quick.standard ?? "bs-en-60898") as (typeof DEVICES)[number][0]}
          options={DEVICES}
          onCommit={(standard) => set({ standard })}
        />
        <Pick
          name="Rating"
          value={quick.rating_a === undefined ? "" : String(quick.rating_a)}
          options={amperes}
          onCommit={(rating) => set({ rating_a: Number(rating) })}
        />
      </Asked>
      {what === "breaker" && (
        <Asked question="It breaks">
          <Pick
            name="Breaking capacity"
            value={quick.breaking_ka == null ? "" : String(quick.breaking_ka)}
            options={KA.map((each) => [each, `${each} kA`] as const)}
            onCommit={(ka) => set({ breaking_ka: Number(ka) })}
          />
        </Asked>
      )}
      <Asked question="RCD">
        <Pick
          name="RCD"
          value={(quick.rcd ?? "") as (typeof RCDS)[number][0] | ""}
          options={RCDS}
          onCommit={(rcd) => set({ rcd })}
        />
      </Asked>
      <Asked question="Its cable">
        <Pick
          name="Cable"
          value={quick.csa_mm2 == null ? "" : String(quick.csa_mm2)}
          options={sizes}
          onCommit={(csa) => set({ csa_mm2: Number(csa) })}
        />
      </Asked>
      {what !== "light" && (
        <Asked question="Fault current at the board">
          <label className="input input-lg flex w-44 items-center gap-1">
            <input
              name="Fault current"
              inputMode="decimal"
              autoComplete="off"
              className="min-w-0 grow font-semibold"
              placeholder="not read"
              value={fault}
              onChange={(event) => setFault(event.target.value)}
            />
            <span className="quiet">kA</span>
          </label>
        </Asked>
      )}
      <Asked question="Where, as you call it">
        <input
          name="Small job name"
          className="input w-full max-w-md"
          maxLength={80}
          placeholder={small.title}
          value={quick.name ?? ""}
          onChange={(event) => set({ name: event.target.value })}
        />
      </Asked>
      {refused && <RefusalNote refused={refused} />}
      <div className="flex flex-wrap gap-2">
        <button
          className="btn btn-primary btn-lg grow md:grow-0"
          disabled={quick.rating_a === undefined}
          title={quick.rating_a === undefined ? "Say the rating of its device first" : undefined}
        >
          Go on to the readings
        </button>
        <button type="button" className="btn btn-ghost" onClick={onCancel}>
          Not now
        </button>
      </div>
    </form>
  );
}

function Asked({ question, children }: { question: string; children: ReactNode }) {
  return (
    <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <legend className="pb-1 text-sm font-semibold">{question}</legend>
      {children}
    </fieldset>
  );
}
