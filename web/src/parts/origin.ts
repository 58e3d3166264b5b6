/** Where a figure of the supply or an electrode comes from. */
export const ORIGIN = [
  ["measured", "measured"],
  ["declared", "declared"],
] as const;
