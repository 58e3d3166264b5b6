import { useState } from "react";
import type { FoundMade, InstallationView } from "../../api/client";
import { useBoardsQuery } from "../../data/useBoards";
import { useKeepFound } from "../../data/useSheet";
import { Refused } from "../../app/Refused";

/** Keep what was found with the job: who found it and when goes with it. */
export function KeepFound({
  jobId,
  made,
}: {
  jobId: string;
  made: Partial<FoundMade> & Pick<FoundMade, "kind" | "title">;
}) {
  const { keep, stateOf } = useKeepFound(jobId);
  const whole = JSON.stringify(made);
  const [kept, setKept] = useState<{ whole: string; id: string }>();
  const [trouble, setTrouble] = useState("");
  const waiting = kept?.whole === whole ? stateOf(kept.id) : undefined;
  return (
    <div className="pt-2 print:hidden">
      {kept?.whole !== whole ? (
        <button
          className="btn"
          onClick={() => {
            try {
              setKept({ whole, id: keep({ circuit: null, board: null, lines: [], ...made }) });
              setTrouble("");
            } catch (error) {
              setTrouble(error instanceof Error ? error.message : String(error));
            }
          }}
        >
          Keep this with the job
        </button>
      ) : waiting ? (
        <b className="text-warning" data-kept="here">
          Kept on this device, not sent yet.
        </b>
      ) : (
        <b className="text-success" data-kept="sent">
          Kept with this job.
        </b>
      )}
      <Refused waiting={waiting} />
      {trouble && (
        <p role="alert" className="font-semibold text-error">
          Not kept: {trouble}
        </p>
      )}
    </div>
  );
}

const KINDS: Record<FoundMade["kind"], string> = {
  traced: "Board traced",
  belled: "Belled out",
  tripped: "RCD",
  fault: "Fault",
};

/** What was found so far, the newest first. */
export function FoundList({ jobId, found }: { jobId: string; found: InstallationView["found"] }) {
  const boards = useBoardsQuery(jobId).data?.boards;
  if (found.length === 0) return null;
  return (
    <section className="pt-4" data-found={found.length}>
      <h2 className="text-xl font-bold">Found on this job</h2>
      {[...found].reverse().map((each) => (
        <details key={each.id} className="border-b border-base-300 py-1.5">
          <summary className="min-h-11 cursor-pointer">
            <b>{KINDS[each.kind]}</b>
            {each.circuit != null && ` on circuit ${String(each.circuit)}`}
            {each.board != null &&
              `, ${boards?.find((board) => board.id === each.board)?.name ?? "a board that is gone"}`}
            : {each.title}
            <span className="quiet block text-sm">
              {each.by}, {each.at.slice(0, 16).replace("T", " ")}
            </span>
          </summary>
          <table className="text-left">
            <tbody>
              {each.lines.map((line) => (
                <tr key={line.name}>
                  <td className="pr-4">{line.name}</td>
                  <td>
                    <b>{line.belongs_to}</b> {line.why}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </details>
      ))}
    </section>
  );
}
