import { useEffect } from "react";

interface Work {
  undo: () => unknown;
  redo: () => unknown;
}

/** Ctrl+Z and Ctrl+Y undo and redo. While a figure is being changed the browser's own undo serves. */
export function useUndoKeys({ undo, redo }: Work): void {
  useEffect(() => {
    function onKey(event: KeyboardEvent) {
      if (!(event.ctrlKey || event.metaKey) || isBeingTyped(event.target)) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) void undo();
      else if (key === "y" || (key === "z" && event.shiftKey)) void redo();
      else return;
      event.preventDefault();
    }
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
}

function isBeingTyped(target: EventTarget | null): boolean {
  if (target instanceof HTMLInputElement) return target.dataset.changed !== "false";
  return target instanceof HTMLTextAreaElement;
}
