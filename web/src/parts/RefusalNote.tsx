import type { Refused } from "../api/client";

/** The one way a refused request is shown: what was wrong, field by field. */
export function RefusalNote({ refused, onClose }: { refused: Refused; onClose?: () => void }) {
  const { message, problems } = refused.body;
  const more = problems.filter((problem) => `${problem.field}: ${problem.reason}` !== message);
  return (
    <div role="alert" className="flex items-start gap-3 border-l-6 border-error bg-base-200 px-4 py-3">
      <span aria-hidden="true" className="text-xl leading-6 font-bold text-error">
        ✕
      </span>
      <div className="grow">
        <p className="font-semibold">{message}</p>
        {more.length > 0 && (
          <ul className="mt-1 list-disc pl-5">
            {more.slice(0, 6).map((problem) => (
              <li key={problem.field + problem.reason}>
                <b>{problem.field}</b> {problem.reason}
              </li>
            ))}
          </ul>
        )}
      </div>
      {onClose && (
        <button className="btn btn-ghost btn-sm" onClick={onClose} aria-label="Close message">
          Close
        </button>
      )}
    </div>
  );
}
