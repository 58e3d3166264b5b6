/** The foot of a form that is kept as a whole: keeping it once nothing is missing, or leaving it. */
export function KeepOrNot({ words, missing, onClose }: { words: string; missing: string; onClose: () => void }) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      <button className="btn btn-primary" disabled={missing !== ""}>
        {words}
      </button>
      <button type="button" className="btn" onClick={onClose}>
        Not now
      </button>
      {missing && <span className="text-warning">Say {missing}.</span>}
    </div>
  );
}
