import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import ts from "typescript-eslint";

export default ts.config(
  { ignores: ["dist", "src/api/schema.d.ts", "eslint.config.js", "compress.mjs", "public"] },
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
);
