import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const alias = Object.fromEntries(
  ['core', 'engine', 'interface', 'server', 'standins', 'tests'].map((name) => [`#${name}`, here(`./${name}`)]),
);

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          include: ['{core,engine,interface,server,standins}/**/*.test.ts', 'tests/fuzz/*.test.ts'],
          environment: 'node',
          testTimeout: 120_000,
          setupFiles: ['tests/support/setup-unit.ts'],
          isolate: false,
          maxWorkers: '100%',
        },
      },
      {
        resolve: { alias },
        // Files run in as many lanes as the machine has room for (scripts/test.mjs finds out), each with a browser of its own: what one
        // file does to it, or to what is shown in it, is no other's matter. A test that a busy machine has disturbed may try twice more;
        // the report says so.
        test: {
          name: 'browser',
          include: ['tests/e2e/**/*.test.ts'],
          environment: 'node',
          globalSetup: ['tests/support/setup-browser.ts'],
          fileParallelism: true,
          maxWorkers: Number(process.env.BIVOCA_LANES ?? 1),
          testTimeout: 400_000,
          hookTimeout: 400_000,
          retry: 2,
        },
      },
    ],
  },
});
