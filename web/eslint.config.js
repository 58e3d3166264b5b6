import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

/** Which folders of src each may not import from; the pages are the outermost, and none knows another. */
const PAGES = ["stages", "jobs", "people", "rulebook", "due", "verify", "prices", "offer", "practice"];
const STAGES = ["survey", "plan", "circuits", "board", "switching", "tests", "handover", "inspect", "work"];
const MAY_NOT = {
  api: ["data", "parts", "drawing", "app", ...PAGES],
  data: ["parts", "drawing", "app", ...PAGES],
  parts: ["data", "drawing", "app", ...PAGES],
  drawing: ["data", "app", ...PAGES],
  app: ["drawing", ...PAGES],
  jobs: PAGES.filter((each) => each !== "jobs"),
  people: PAGES.filter((each) => each !== "people"),
  rulebook: PAGES.filter((each) => each !== "rulebook"),
  ...Object.fromEntries(
    STAGES.map((stage) => [`stages/${stage}`, [...PAGES.slice(1), ...STAGES.filter((each) => each !== stage)]]),
  ),
};

/** What only data/ does: ask the API, and keep what it answers. */
const ONLY_DATA = [
  {
    name: "@tanstack/react-query",
    importNames: ["useQuery", "useInfiniteQuery", "useMutation", "useQueryClient"],
    message: "Queries are asked in data/.",
  },
];
const NO_ASKING = { group: ["**/api/client"], importNames: ["api", "ask"], message: "The API is asked in data/." };

const contracts = Object.entries(MAY_NOT).map(([folder, barred]) => ({
  files: [`src/${folder}/**`],
  rules: {
    "no-restricted-imports": [
      "error",
      {
        paths: folder === "data" ? [] : ONLY_DATA,
        patterns: [
          {
            regex: `^(\\.\\./)+(${barred.join("|")})(/|$)`,
            message: `${folder} may not import from there: see MAY_NOT in eslint.config.js.`,
          },
          ...(folder === "data" || folder === "api" ? [] : [NO_ASKING]),
        ],
      },
    ],
  },
}));

export default ts.config(
  { ignores: ["dist", "src/api/schema.d.ts", "eslint.config.js", "compress.mjs", "lint.mjs", "public"] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  hooks.configs.flat.recommended,
  a11y.flatConfigs.recommended,
  {
    languageOptions: { parserOptions: { project: "./tsconfig.json" } },
    rules: {
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": "off",
      "@typescript-eslint/no-non-null-assertion": "error",
      // The first field of a form that was asked for has the focus: that is what one came for.
      "jsx-a11y/no-autofocus": "off",
    },
  },
  ...contracts,
);
