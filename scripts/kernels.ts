/** Compiles the software mixer's kernels into kernels.wasm.ts; with --check, only says whether that was compiled from them. */
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const at = (path: string) => fileURLToPath(new URL(`../core/picture/soft/kernels/${path}`, import.meta.url));

const sources = new Map(['assembly.ts', 'colour.ts'].map((name) => [name, readFileSync(at(name), 'utf8')]));
/** Of the sources and the compiler: what was compiled from the same is current. */
const mark = createHash('sha256')
  .update([...sources].flat().join('\0'))
  .update(
    (
      JSON.parse(readFileSync(fileURLToPath(new URL('../node_modules/assemblyscript/package.json', import.meta.url)), 'utf8')) as {
        version: string;
      }
    ).version,
  )
  .digest('hex')
  .slice(0, 16);
if (process.argv.includes('--check')) {
  if (readFileSync(at('kernels.wasm.ts'), 'utf8').includes(mark)) process.exit(0);
  console.error('The compiled kernels are out of date: run npm run kernels.');
  process.exit(1);
}
// Only now: the compiler itself takes seconds to load.
const { default: asc } = await import('assemblyscript/asc');
let binary: Uint8Array | null = null;
const { error, stderr } = await asc.main(
  [
    ...sources.keys(),
    '--outFile',
    'kernels.wasm',
    '-O3',
    '--runtime',
    'stub',
    '--importMemory',
    '--initialMemory',
    '0',
    '--enable',
    'simd',
    '--noAssert',
  ],
  {
    readFile: (name: string) => sources.get(name) ?? null,
    writeFile: (_name: string, data: string | Uint8Array) => {
      if (typeof data !== 'string') binary = data;
    },
    listFiles: () => [],
  },
);
if (error || !binary) {
  console.error(stderr.toString());
  process.exit(1);
}
const text = `/** Generated from assembly.ts and colour.ts by \`npm run kernels\`: WebAssembly, base64. Mark of the sources: ${mark}. */\nexport const KERNELS =\n  '${Buffer.from(binary).toString('base64')}';\n`;
writeFileSync(at('kernels.wasm.ts'), text);
