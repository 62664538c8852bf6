/** How many browser tests this machine can run at once: they play shows in real time, and a machine that cannot keep up disturbs them. */
import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';

/** Rounds of the measure; about 550 ms on each of the two cores of the reference machine. */
const ROUNDS = 60_000_000;
/** Slower than this for each of two at once, and there is room for one only, milliseconds. */
const QUICK_MS = 900;

const MEASURE = `
const { parentPort } = require('node:worker_threads');
const began = performance.now();
let x = 1;
for (let i = 0; i < ${ROUNDS}; i += 1) x = (Math.imul(x, 1664525) + 1013904223) | 0;
parentPort.postMessage({ ms: performance.now() - began, x });
`;

/** Milliseconds that the measure takes on each of `count` threads at once. */
const measure = (count) =>
  Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise((resolve, reject) => {
          const worker = new Worker(MEASURE, { eval: true });
          worker.once('message', ({ ms }) => resolve(ms));
          worker.once('error', reject);
        }),
    ),
  );

/** Two on a quick machine with two cores that are free; one otherwise. */
export async function lanes() {
  if (process.env.BIVOCA_LANES) return Number(process.env.BIVOCA_LANES);
  if (availableParallelism() < 2) return 1;
  const times = await measure(2);
  return Math.max(...times) < QUICK_MS ? 2 : 1;
}
