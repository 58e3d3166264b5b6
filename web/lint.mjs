/** Check types and lint over one program: to load and check the types twice takes half a minute. */
import { ESLint } from "eslint";
import ts from "typescript";

const host = {
  ...ts.sys,
  onUnRecoverableConfigFileDiagnostic: (wrong) => {
    throw new Error(ts.flattenDiagnosticMessageText(wrong.messageText, "\n"));
  },
};
const config = ts.getParsedCommandLineOfConfigFile("tsconfig.json", { incremental: false }, host);
const program = ts.createProgram({ rootNames: config.fileNames, options: config.options });
const wrong = [...config.errors, ...ts.getPreEmitDiagnostics(program)];
console.log(
  ts.formatDiagnosticsWithColorAndContext(wrong, {
    getCanonicalFileName: (name) => name,
    getCurrentDirectory: ts.sys.getCurrentDirectory,
    getNewLine: () => "\n",
  }),
);

const eslint = new ESLint({
  overrideConfig: { files: ["**/*.{ts,tsx}"], languageOptions: { parserOptions: { programs: [program] } } },
});
const results = await eslint.lintFiles(["."]);
console.log(await (await eslint.loadFormatter("stylish")).format(results));
process.exitCode = wrong.length || results.some((each) => each.errorCount || each.warningCount) ? 1 : 0;
