/** Set down what was built compressed as well, so that the server compresses nothing while somebody waits. */
import { readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const TEXT = /\.(js|css|html|svg)$/;

for (const entry of readdirSync("dist", { recursive: true })) {
  const path = join("dist", String(entry));
  if (!TEXT.test(path) || statSync(path).size < 600) continue;
  const plain = readFileSync(path);
  writeFileSync(`${path}.br`, brotliCompressSync(plain, { params: { [constants.BROTLI_PARAM_QUALITY]: 11 } }));
  writeFileSync(`${path}.gz`, gzipSync(plain, { level: 9 }));
}
