import { useState } from "react";
import { asRefused, type CircuitView, type Refused } from "../../api/client";
import { Photos } from "../../app/Photos";
import { useRecords } from "../../data/useSwitching";
import { clockOf } from "../../numbers";
import { RefusalNote } from "../../parts/RefusalNote";

/** How it was connected before it was taken apart, with photos; and back again. */
export function RecordsPanel({ view }: { view: CircuitView }) {
  const records = useRecords(view.id);
  const [note, setNote] = useState("");
  const [refused, setRefused] = useState<Refused>();
  async function doing(act: () => Promise<unknown>) {
    try {
      await act();
      setRefused(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <div className="flex flex-col gap-3 px-3 py-2">
      <p>Before anything is taken apart: keep how it is connected, with photos of the boxes.</p>
      {refused && <RefusalNote refused={refused} onClose={() => setRefused(undefined)} />}
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          void doing(() => records.keep(note, view.version)).then(() => setNote(""));
        }}
      >
        <input
          className="input grow"
          name="record-note"
          aria-label="What is recorded"
          placeholder="what, why"
          maxLength={400}
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
        <button className="btn btn-primary">Keep it</button>
      </form>
      <ul className="flex flex-col gap-3">
        {records.list.data?.map((record) => (
          <li key={record.id} className="border-l-4 border-accent bg-base-200 px-3 py-2" data-record={record.id}>
            <p className="font-semibold">{record.note || "As it was connected"}</p>
            <p className="quiet text-sm">
              {record.by}, {new Date(record.taken_at).toLocaleDateString("en-GB")} {clockOf(record.taken_at)}
            </p>
            <Photos
              jobId={view.job_id}
              shown={{ shows: "record", of: record.id.replaceAll("-", "") }}
              of="a box, as it was"
            />
            <div className="flex flex-wrap gap-2">
              <button className="btn btn-sm" onClick={() => void doing(() => records.putBack(record.id, view.version))}>
                Connect it as then
              </button>
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
