/** Compresses what is served again and again, once, when it is built: what asks for it gets it without any work. */
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';

/** Of these kinds; fonts and pictures are compressed already. */
const KINDS = /\.(js|css|html|svg|wasm|json)$/;
/** Smaller ones fit into one packet either way, bytes. */
const LEAST = 1000;

/** Puts a `.br` and a `.gz` beside every file below a folder that becomes smaller by it. */
export function compress(folder) {
  for (const name of readdirSync(folder)) {
    const path = join(folder, name);
    if (statSync(path).isDirectory()) {
      compress(path);
      continue;
    }
    if (!KINDS.test(name)) continue;
    const bytes = readFileSync(path);
    if (bytes.length < LEAST) continue;
    const made = {
      br: brotliCompressSync(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }),
      gz: gzipSync(bytes, { level: 9 }),
    };
    for (const [ending, data] of Object.entries(made)) if (data.length < bytes.length) writeFileSync(`${path}.${ending}`, data);
  }
}
