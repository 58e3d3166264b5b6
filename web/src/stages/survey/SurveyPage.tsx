import type { ReactNode } from "react";
import type { Check, JobCommand } from "../../api/client";
import { Photos } from "../../app/Photos";
import { useChoices } from "../../data/useChoices";
import { useJob, useJobWork } from "../../data/useJob";
import { IntakeDrawing } from "../../drawing/IntakeDrawing";
import { timeOf } from "../../numbers";
import { CheckRow } from "../../parts/CheckRow";
import { ConflictNote } from "../../parts/ConflictNote";
import { Choice, Figure, Labelled, Words } from "../../parts/fields";
import { ORIGIN } from "../../parts/origin";
import { Pick } from "../../parts/Pick";
import { RefusalNote } from "../../parts/RefusalNote";
import { UndoBar } from "../../parts/UndoBar";
import { useUndoKeys } from "../../parts/useUndoKeys";
import { VerdictMark } from "../../parts/verdict";

type Of<Op extends JobCommand["op"]> = Extract<JobCommand, { op: Op }>;

const PHASES = [
  ["1", "one line"],
  ["3", "three lines"],
] as const;
const WORKS = [
  ["whole", "the installation"],
  ["change", "a change, and what it relies on"],
] as const;
const STATES = [
  ["new", "new work"],
  ["altered", "new and old together"],
  ["as-found", "what is there already"],
] as const;
const SAMPLINGS = [
  ["every", "every point"],
  ["ends", "the end of each run and branch"],
  ["share", "ends, and one point of five"],
] as const;
const FUSES = [
  ["bs88-3", "BS 88-3"],
  ["bs88-2", "BS 88-2"],
  ["bs1361", "BS 1361"],
  ["iec60269", "gG (D, D0)"],
  ["unknown", "not known"],
] as const;
const SURGE = [
  ["fitted", "fitted"],
  ["declined", "declined by the owner"],
  ["unknown", "not decided"],
] as const;
const SCHOOLS = [
  ["rcbo-each", "one RCBO a circuit"],
  ["shared-rcds", "two RCDs with breakers"],
] as const;
const SERVICES = [
  ["water", "Water"],
  ["gas", "Gas"],
  ["oil", "Oil"],
  ["steel", "Structural steel"],
  ["lightning", "Lightning protection"],
  ["other", "Other"],
] as const;
const MATERIALS = [
  ["metal", "metal"],
  ["plastic", "plastic"],
  ["unknown", "not seen"],
] as const;
const BONDED = [
  ["yes", "bonded"],
  ["no", "not bonded"],
  ["unknown", "not seen"],
] as const;

export function SurveyPage() {
  const job = useJob();
  const work = useJobWork(job);
  useUndoKeys(work);
  const choices = useChoices(job.head);
  const supply = job.supply;
  // What fails stands first and in view, else what is not known.
  const first =
    job.survey.checks.find((each) => each.verdict === "fail") ??
    job.survey.checks.find((each) => each.verdict === "cannot-tell");
  const extent = (changes: Omit<Of<"extent">, "op">) => set({ op: "extent", ...changes });
  const check = (id: string) => job.survey.checks.find((each) => each.id === id);
  const set = (mine: JobCommand) => void work.command(mine);
  const commit = (changes: Omit<Of<"supply">, "op">) => set({ op: "supply", ...changes });
  const setService = (index: number, changes: Omit<Of<"service">, "op" | "index">) =>
    set({ op: "service", index, ...changes });

  return (
    <main className="mx-auto grid w-full max-w-7xl gap-6 p-4 md:grid-cols-[19rem_1fr]">
      <div className="md:sticky md:top-4 md:self-start">
        <div className="flex items-center gap-3 pb-3">
          <VerdictMark state={job.survey.verdict} size={34} />
          <div>
            <h1 className="text-2xl leading-tight font-bold">
              {job.survey.verdict === "pass"
                ? "Supply is sound"
                : job.survey.verdict === "fail"
                  ? "Supply needs work first"
                  : "Survey not finished"}
            </h1>
            <p className="quiet text-sm">{`Changed by ${job.changed_by}, ${timeOf(job.changed_at)}`}</p>
          </div>
        </div>
        {first && (
          <p
            className={`mb-3 border-l-6 px-3 py-2 ${first.verdict === "fail" ? "border-error" : "border-warning"} bg-base-200`}
            data-first={first.id}
          >
            <span className="text-sm font-semibold">{first.title}</span>
            <br />
            <span className="text-xl leading-tight font-bold">{first.answer}</span>
          </p>
        )}
        <div className="hidden md:block">
          <IntakeDrawing supply={supply} />
        </div>
        <p className="border-l-4 border-warning bg-base-200 px-3 py-2 text-sm">
          Isolate and prove dead before you touch tails or board. The cut-out is the distributor’s. For competent
          persons; local rules come first.
        </p>
      </div>
      <div className="flex flex-col">
        <div className="mb-2 flex items-center gap-3">
          <UndoBar work={work} canUndo={job.can_undo} canRedo={job.can_redo} savedAt={job.changed_at} />
        </div>
        <ConflictNote work={work} />
        {work.refused && <RefusalNote refused={work.refused} onClose={work.dismiss} />}
        <Finding check={check("earthing")}>
          <Pick
            name="Lines of the supply"
            value={String(supply.phases) as "1" | "3"}
            options={PHASES}
            onCommit={(phases) => commit({ phases: phases === "3" ? 3 : 1 })}
          />
          <Pick
            name="Earthing system"
            value={supply.earthing ?? ""}
            options={(choices.data?.earthing_systems ?? []).map((each) => [each.id, each.name] as const)}
            onCommit={(earthing) => commit({ earthing })}
          />
        </Finding>
        <Finding check={check("ze")}>
          <Figure
            name="Ze"
            unit="Ω"
            className="input-lg w-40 text-xl"
            value={supply.ze_ohm}
            onCommit={(ze_ohm) =>
              void work.command(({ supply: now }) => [{ op: "supply", ze_ohm, ze_origin: now.ze_origin ?? "measured" }])
            }
          />
          <Choice
            name="Ze origin"
            className="w-36"
            value={supply.ze_origin ?? ""}
            blank="not said"
            options={ORIGIN}
            onCommit={(ze_origin) => commit({ ze_origin })}
          />
        </Finding>
        <Finding check={check("fault-current")}>
          <Figure
            name="Prospective fault current"
            unit="kA"
            className="input-lg w-40 text-xl"
            value={supply.fault_current_ka}
            onCommit={(fault_current_ka) =>
              void work.command(({ supply: now }) => [
                { op: "supply", fault_current_ka, fault_current_origin: now.fault_current_origin ?? "measured" },
              ])
            }
          />
          <Choice
            name="Fault current origin"
            className="w-36"
            value={supply.fault_current_origin ?? ""}
            blank="not said"
            options={ORIGIN}
            onCommit={(fault_current_origin) => commit({ fault_current_origin })}
          />
        </Finding>
        <Finding check={check("main-fuse")}>
          <Figure
            name="Main fuse"
            unit="A"
            className="input-lg w-40 text-xl"
            value={supply.main_fuse.rating_a}
            onCommit={(rating_a) => set({ op: "main-fuse", rating_a })}
          />
          <Choice
            name="Main fuse standard"
            className="w-36"
            value={supply.main_fuse.standard}
            options={FUSES}
            onCommit={(standard) => set({ op: "main-fuse", standard })}
          />
          <Figure
            name="Conditional rating of the board"
            caption="Board’s conditional rating"
            unit="kA"
            placeholder="not said"
            className="w-40"
            value={supply.board_conditional_ka}
            onCommit={(board_conditional_ka) => commit({ board_conditional_ka })}
          />
          <Figure
            name="Declared limit of the supply"
            caption="Supply may draw"
            unit="A"
            placeholder="as the fuse"
            className="w-40"
            value={supply.declared_limit_a}
            onCommit={(declared_limit_a) => commit({ declared_limit_a })}
          />
        </Finding>
        <Finding check={check("tails")}>
          <Figure
            name="Tails size"
            unit="mm²"
            className="input-lg w-40 text-xl"
            value={supply.tails.csa_mm2}
            onCommit={(csa_mm2) => set({ op: "tails", csa_mm2 })}
          />
          <Figure
            name="Tails length"
            unit="m"
            className="w-28"
            placeholder="length"
            value={supply.tails.length_m}
            onCommit={(length_m) => set({ op: "tails", length_m })}
          />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox"
              checked={supply.tails.own_device}
              onChange={(event) => set({ op: "tails", own_device: event.target.checked })}
            />
            switch-fuse at the origin
          </label>
        </Finding>
        <Finding check={check("earthing-conductor")}>
          <Figure
            name="Earthing conductor"
            unit="mm²"
            className="input-lg w-40 text-xl"
            value={supply.earthing_conductor_mm2}
            onCommit={(earthing_conductor_mm2) => commit({ earthing_conductor_mm2 })}
          />
        </Finding>
        <Finding check={check("surge")}>
          <Pick
            name="Surge protection"
            value={supply.surge_protection}
            options={SURGE}
            onCommit={(surge_protection) => commit({ surge_protection })}
          />
        </Finding>
        {supply.services.length === 0 && <Finding check={check("bonding")}>{null}</Finding>}
        {supply.services.map((service, index) => (
          <Finding key={index} check={check(`bonding-${index}`)}>
            <Choice
              name={`Service ${index + 1}`}
              className="w-44"
              value={service.what}
              options={SERVICES}
              onCommit={(what) => setService(index, { what })}
            />
            <Pick
              name={`Service ${index + 1} material`}
              value={service.material}
              options={MATERIALS}
              onCommit={(material) => setService(index, { material })}
            />
            {service.material === "metal" && (
              <>
                <Choice
                  name={`Service ${index + 1} bonded`}
                  className="w-36"
                  value={service.bonded}
                  options={BONDED}
                  onCommit={(bonded) => setService(index, { bonded })}
                />
                {service.bonded === "yes" && (
                  <>
                    <Figure
                      name={`Service ${index + 1} bonding size`}
                      unit="mm²"
                      className="w-28"
                      value={service.bonding_mm2}
                      onCommit={(bonding_mm2) => setService(index, { bonding_mm2 })}
                    />
                    <label className="flex items-center gap-2">
                      <input
                        type="checkbox"
                        className="checkbox"
                        checked={service.within_600mm ?? false}
                        onChange={(event) => setService(index, { within_600mm: event.target.checked })}
                      />
                      within 600 mm, before any branch
                    </label>
                  </>
                )}
              </>
            )}
            <button className="btn btn-ghost btn-sm" onClick={() => set({ op: "drop-service", index })}>
              Take off
            </button>
          </Finding>
        ))}
        <div className="py-3">
          <button className="btn" onClick={() => set({ op: "add-service", what: "water" })}>
            Add an incoming service
          </button>
        </div>
        <div className="grid gap-4 pt-3 md:grid-cols-2">
          <Labelled label="This job covers">
            <Choice
              name="Work"
              className="w-full"
              value={job.head.extent.work}
              options={WORKS}
              onCommit={(work) => extent({ work })}
            />
          </Labelled>
          <Labelled label="What is drawn is">
            <Choice
              name="State of the job"
              className="w-full"
              value={job.head.extent.state}
              options={STATES}
              onCommit={(state) => extent({ state })}
            />
          </Labelled>
          <Labelled label="Zs and R1+R2 are read at">
            <Choice
              name="Sampling"
              className="w-full"
              value={job.head.extent.sampling}
              options={SAMPLINGS}
              onCommit={(sampling) => extent({ sampling })}
            />
          </Labelled>
          <Labelled label="Put in, as far as known">
            <Figure
              name="Year of the installation"
              unit=""
              placeholder="year?"
              className="w-full"
              value={job.head.extent.year}
              onCommit={(year) => extent({ year })}
            />
          </Labelled>
          <Labelled label="Limits agreed, and with whom">
            <Words
              name="Limits"
              className="w-full"
              maxLength={2000}
              value={job.head.extent.limits}
              onCommit={(limits) => extent({ limits })}
            />
          </Labelled>
          <Labelled label="Where the board is">
            <Words name="Board" className="w-full" value={supply.board} onCommit={(board) => commit({ board })} />
          </Labelled>
          <Labelled label="Protection in this house">
            <Choice
              name="Protection school"
              className="w-full"
              value={job.head.protection_school}
              options={SCHOOLS}
              onCommit={(protection_school) => set({ op: "head", protection_school })}
            />
          </Labelled>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox"
              checked={supply.higher_risk}
              onChange={(event) => commit({ higher_risk: event.target.checked })}
            />
            high-rise, shared, student or care home
          </label>
          <Labelled label="Found on the day">
            <Words
              name="Notes"
              className="w-full"
              maxLength={2000}
              value={supply.notes}
              onCommit={(notes) => commit({ notes })}
            />
          </Labelled>
          <Photos jobId={job.id} shown={{ shows: "job" }} of="the intake" />
        </div>
      </div>
    </main>
  );
}

function Finding({ check, children }: { check: Check | undefined; children: ReactNode }) {
  if (!check) return null;
  return (
    <section data-finding={check.id} className="grid gap-x-4 border-b border-base-300 py-2 lg:grid-cols-[1fr_21rem]">
      <div>
        <h2 className="font-semibold">{check.title}</h2>
        <div className="flex flex-wrap items-start gap-x-3 gap-y-2 py-1">{children}</div>
      </div>
      <ul className="[&>li]:border-b-0">
        <CheckRow check={check} untitled />
      </ul>
    </section>
  );
}
