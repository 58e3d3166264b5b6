import { useState } from "react";
import type { Visit, VisitMade } from "../../api/client";
import { Figure } from "../../parts/fields";

interface Props {
  visit: Visit | undefined;
  expired: readonly string[];
  onBegin: (made: VisitMade) => Promise<void>;
}

const today = () => new Date().toLocaleDateString("sv-SE");

/** Asked once a visit: the instrument with its calibration, the leads, how warm it is. */
export function VisitBar({ visit, expired, onBegin }: Props) {
  const current = visit?.day === today() ? visit : undefined;
  const [open, setOpen] = useState(false);
  const instrument = current?.instruments[0];
  return (
    <div className="border-b border-base-300 py-1 text-sm" data-visit={current ? "begun" : "none"}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        {current ? (
          <>
            <b>{instrument?.name || "No instrument named"}</b>
            {instrument?.calibrated_until && (
              <span className="hidden md:inline">calibrated until {instrument.calibrated_until}</span>
            )}
            <span className="whitespace-nowrap">{current.leads_nulled ? "leads nulled" : "leads not nulled"}</span>
            <span className="whitespace-nowrap">{current.ambient_c} °C</span>
          </>
        ) : (
          <b className="min-w-0 flex-1">New visit: instrument, leads, temperature?</b>
        )}
        {expired.length > 0 && <b className="text-error">Calibration has run out: {expired.join(", ")}</b>}
        <button className="btn btn-sm ml-auto" aria-expanded={open} onClick={() => setOpen(!open)}>
          {current ? "Change" : "Begin the visit"}
        </button>
      </div>
      {open && (
        <VisitForm
          visit={visit}
          onBegin={async (made) => {
            await onBegin(made);
            setOpen(false);
          }}
        />
      )}
    </div>
  );
}

function VisitForm({ visit, onBegin }: { visit: Visit | undefined; onBegin: (made: VisitMade) => Promise<void> }) {
  const last = visit?.instruments[0];
  const [name, setName] = useState(last?.name ?? "");
  const [serial, setSerial] = useState(last?.serial ?? "");
  const [until, setUntil] = useState(last?.calibrated_until ?? "");
  const [ambient, setAmbient] = useState(20);
  const [lead, setLead] = useState<number | null>(null);
  const [nulled, setNulled] = useState(false);
  return (
    <form
      className="flex flex-wrap items-end gap-3 pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void onBegin({
          day: today(),
          ambient_c: ambient,
          lead_ohm: lead,
          leads_nulled: nulled,
          instruments: name.trim()
            ? [{ name: name.trim(), serial: serial.trim(), calibrated_until: until === "" ? null : until }]
            : [],
        });
      }}
    >
      <Field label="Instrument">
        <input
          name="Instrument"
          className="input w-44"
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Field>
      <Field label="Serial no.">
        <input
          name="Serial number"
          className="input w-32"
          maxLength={80}
          value={serial}
          onChange={(event) => setSerial(event.target.value)}
        />
      </Field>
      <Field label="Calibrated until">
        <input
          name="Calibrated until"
          type="date"
          className="input w-40"
          value={until}
          onChange={(event) => setUntil(event.target.value)}
        />
      </Field>
      <Figure
        name="Ambient temperature"
        caption="Copper at"
        unit="°C"
        className="w-24"
        value={ambient}
        required
        onCommit={(value) => setAmbient(value ?? 20)}
        onTyping={(value) => setAmbient(value ?? 20)}
      />
      <Figure
        name="Lead resistance"
        caption="Leads read"
        unit="Ω"
        className="w-24"
        value={lead}
        onCommit={setLead}
        onTyping={setLead}
      />
      <label className="flex h-10 items-center gap-2">
        <input
          type="checkbox"
          className="checkbox"
          checked={nulled}
          onChange={(event) => setNulled(event.target.checked)}
        />
        Leads nulled
      </label>
      <button className="btn btn-primary">Keep for this visit</button>
    </form>
  );
}

function Field({ label, children }: { label: string; children: React.ReactNode }) {
  return (
    <label className="flex flex-col gap-0.5">
      <span className="quiet text-xs leading-none font-semibold">{label}</span>
      {children}
    </label>
  );
}
