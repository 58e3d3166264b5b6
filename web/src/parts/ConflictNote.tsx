interface Work {
  conflict: { message: string; mine: unknown } | undefined;
  keepTheirs: () => void;
  mineOverTheirs: () => void;
  /** Where mine can be kept beside theirs. */
  copyOfMine?: () => unknown;
}

/** Somebody else saved first: theirs is shown, mine is kept until one of the two is chosen. */
export function ConflictNote({ work }: { work: Work }) {
  if (!work.conflict) return null;
  return (
    <div role="alert" className="border-l-6 border-warning bg-base-200 px-4 py-3">
      <p className="text-lg font-semibold">{work.conflict.message}</p>
      <p>What they saved is on the page now. Nothing of yours is lost: choose what stands.</p>
      <div className="mt-2 flex flex-wrap gap-2">
        <button className="btn btn-primary" onClick={work.mineOverTheirs}>
          Make my change on it
        </button>
        <button className="btn" onClick={work.keepTheirs}>
          Leave theirs
        </button>
        {work.copyOfMine && work.conflict.mine !== undefined && (
          <button className="btn" onClick={() => void work.copyOfMine?.()}>
            Keep mine as a circuit of its own
          </button>
        )}
      </div>
    </div>
  );
}
