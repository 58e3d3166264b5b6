/** Colours that are kept for conductors, and the letters that stand for them (IEC 60757): colour is never the only sign. */
const CORES: Record<string, { fill: string; letters: string }> = {
  brown: { fill: "#8a5a2b", letters: "BN" },
  blue: { fill: "#2f7fe0", letters: "BU" },
  black: { fill: "#1c1c1e", letters: "BK" },
  grey: { fill: "#9a9da1", letters: "GY" },
  red: { fill: "#cf2431", letters: "RD" },
  yellow: { fill: "#f0c419", letters: "YE" },
  white: { fill: "#ffffff", letters: "WH" },
  green: { fill: "#2f9446", letters: "GN" },
  "green-yellow": { fill: "#4fa02a", letters: "E" },
  bare: { fill: "#b87333", letters: "E" },
};

export function fillOf(colour: string): string {
  return CORES[colour]?.fill ?? "#cfc9bd";
}

export function lettersOf(colour: string): string {
  return CORES[colour]?.letters ?? (colour || "?");
}
