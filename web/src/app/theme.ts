export type Theme = "daylight" | "loft";
const KEY = "lumbek-theme";

export function storedTheme(): Theme {
  const kept = localStorage.getItem(KEY);
  if (kept === "daylight" || kept === "loft") return kept;
  return matchMedia("(prefers-color-scheme: dark)").matches ? "loft" : "daylight";
}

export function applyTheme(theme: Theme): void {
  document.documentElement.dataset.theme = theme;
}

export function switchTheme(): void {
  const next: Theme = storedTheme() === "loft" ? "daylight" : "loft";
  localStorage.setItem(KEY, next);
  applyTheme(next);
}
