import { useState } from "react";
import { asRefused, type ReadFile, type Refused } from "../../api/client";
import { useImport } from "../../data/useSheet";
import { plain } from "../../numbers";
import { RefusalNote } from "../../parts/RefusalNote";

/** Readings from a file: what is understood of each line is shown before any is kept. */
export function ImportPanel({ circuitId, jobId, onDone }: { circuitId: string; jobId: string; onDone: () => void }) {
  const importing = useImport(circuitId, jobId);
  const [found, setFound] = useState<ReadFile>();
  const [refused, setRefused] = useState<Refused>();

  async function look(file: File | undefined) {
    if (!file) return;
    try {
      setFound(await importing.look(await file.text()));
      setRefused(undefined);
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  async function keep() {
    const readings = (found?.lines ?? []).flatMap((line) => (line.reading ? [line.reading] : []));
    try {
      await importing.keep(readings);
      onDone();
    } catch (error) {
      setRefused(asRefused(error));
    }
  }
  return (
    <div className="my-2 border-l-4 border-accent bg-base-200 px-3 py-2" data-import>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">
          A file of readings (CSV): columns test, point, value; unit and note if there are any
        </span>
        <input
          type="file"
          name="Readings file"
          accept=".csv,text/csv,text/plain"
          className="file-input w-full max-w-md"
          onChange={(event) => void look(event.target.files?.[0])}
        />
      </label>
      {refused && <RefusalNote refused={refused} />}
      {found && (
        <>
          <table className="mt-2 w-full text-left">
            <thead>
              <tr className="border-b-2 border-base-content/70">
                <th className="pr-2">Line</th>
                <th className="pr-2">In the file</th>
                <th>Understood as</th>
              </tr>
            </thead>
            <tbody>
              {found.lines.map((line) => (
                <tr
                  key={line.line}
                  className="border-b border-base-300 align-top"
                  data-line={line.reading ? "ready" : "not"}
                >
                  <td className="pr-2">{line.line}</td>
                  <td className="pr-2 break-all">{line.text}</td>
                  <td>
                    {line.reading ? (
                      <b>
                        {line.reading.quantity} {line.reading.point ?? ""} {line.reading.beyond ? ">" : ""}
                        {line.reading.value === null || line.reading.value === undefined
                          ? line.reading.correct
                            ? "right"
                            : "wrong"
                          : plain(line.reading.value)}
                      </b>
                    ) : (
                      <span className="text-error">{line.why}</span>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <button className="btn btn-primary mt-2" disabled={found.ready === 0} onClick={() => void keep()}>
            Keep {found.ready} readings
          </button>
        </>
      )}
    </div>
  );
}
