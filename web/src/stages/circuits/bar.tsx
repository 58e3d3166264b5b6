import type { ReactNode } from "react";

/** The bar under the drawing: what is picked, and what may be done with it. */
export function Bar({ children }: { children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-2 border-t border-base-300 bg-base-200 px-4 py-2 lg:max-h-[45dvh] lg:overflow-y-auto [&_.btn:not(.btn-primary)]:bg-base-100">
      {children}
    </div>
  );
}

/** An action with the key that does the same on the drawing. */
export function Key({
  letter,
  words,
  onClick,
  primary,
}: {
  letter: string;
  words: string;
  onClick: () => void;
  primary?: boolean;
}) {
  return (
    <button className={`btn btn-sm ${primary ? "btn-primary" : ""}`} onClick={onClick}>
      {words} <kbd className="text-xs opacity-75 max-md:hidden">{letter}</kbd>
    </button>
  );
}
