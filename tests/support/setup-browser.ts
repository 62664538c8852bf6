/** Once before all browser tests: the harness page is built, for every file that needs it. */
import { rm } from 'node:fs/promises';
import { buildHarness, HARNESS_VARIABLE } from './harness';

export default async function setup(): Promise<() => Promise<void>> {
  const dist = await buildHarness();
  process.env[HARNESS_VARIABLE] = dist;
  return () => rm(dist, { recursive: true, force: true });
}
