/** Reading figures, and showing those that were entered; every figure that is worked out comes as a text. */

/** Return an entered figure as one would say it: 2.5, 32, 0.35. */
export function plain(value: number | null | undefined): string {
  return value === null || value === undefined ? "" : String(Number(value.toPrecision(10)));
}

/** Read a figure as people type it, with comma or point; null for nothing, undefined for what is no figure. */
export function parseFigure(text: string): number | null | undefined {
  const typed = text.trim().replace(",", ".");
  if (typed === "") return null;
  return /^-?(\d+\.?\d*|\.\d+)$/.test(typed) ? Number(typed) : undefined;
}

/** A name in one line or two, parted between words, and clipped only where two are not enough. */
export function inLines(text: string, most: number): string[] {
  if (text.length <= most) return [text];
  const at = text.lastIndexOf(" ", most);
  if (at <= 0) return [clip(text, most)];
  return [text.slice(0, at), clip(text.slice(at + 1), most)];
}

/** Cut a text to the letters there is room for. */
export function clip(text: string, most: number): string {
  return text.length > most ? `${text.slice(0, most - 1)}…` : text;
}

export function clockOf(stamp: string): string {
  return new Date(stamp).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

/** A moment in UTC as records have it: 2026-01-31 09:30. */
export function recordTime(stamp: string): string {
  return stamp.slice(0, 16).replace("T", " ");
}

export function timeOf(stamp: string): string {
  return new Date(stamp).toLocaleString("en-GB", {
    day: "numeric",
    month: "short",
    hour: "2-digit",
    minute: "2-digit",
  });
}
