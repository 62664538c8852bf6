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
        // One browser at a time: the machine has two cores, and the tests measure time. A test that a busy machine has
        // disturbed may try twice more; the report says so.
        test: {
          name: 'browser',
          include: ['tests/e2e/**/*.test.ts'],
          environment: 'node',
          fileParallelism: true,
          maxWorkers: 2,
          testTimeout: 400_000,
          hookTimeout: 400_000,
          retry: 2,
        },
      },
    ],
  },
});
