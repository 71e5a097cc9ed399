// Lays a compressed copy beside each text of the built page, so that the server only has to choose.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, gzipSync } from "node:zlib";

const dist = "dist";
// Fonts are compressed already.
const texts = readdirSync(dist, { recursive: true }).filter((name) => /\.(js|css|html|svg)$/.test(name));
for (const name of texts) {
  const bytes = readFileSync(join(dist, name));
  writeFileSync(join(dist, `${name}.br`), brotliCompressSync(bytes));
  writeFileSync(join(dist, `${name}.gz`), gzipSync(bytes, { level: 9 }));
}
