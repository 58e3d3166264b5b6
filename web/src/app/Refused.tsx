import { sendAgain, takeOut, type Waiting } from "../data/outbox";

/** Why the server would not have what waits here, and the two ways on: send it again, or throw it away. */
export function Refused({ waiting }: { waiting: Waiting | undefined }) {
  if (waiting?.trouble === undefined) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 px-1 pb-1 font-semibold text-error" data-refused>
      <p className="text-sm">{waiting.trouble}</p>
      <button className="btn btn-sm text-base-content" onClick={() => sendAgain(waiting.id)}>
        Send again
      </button>
      <button className="btn btn-sm text-base-content" onClick={() => takeOut(waiting.id)}>
        Throw away
      </button>
    </div>
  );
}
