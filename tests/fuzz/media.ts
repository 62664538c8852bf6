/** Damaged media files, read in a process that is ended when one of them holds it up. */
import { fork } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const HUNG_MS = 2000;

/** Reads `count` damaged files, or as many as `ms` allow; gives the numbers of those that took longer than two seconds. */
export async function fuzzMedia(seed: number, count: number, ms: number): Promise<{ ran: number; hung: number[] }> {
  const end = Date.now() + ms;
  const hung: number[] = [];
  let next = 0;
  while (next < count && Date.now() < end) {
    next = await new Promise<number>((resolve, reject) => {
      const reader = fork(fileURLToPath(new URL('./media-process.ts', import.meta.url)), [String(seed), String(next)], {
        execArgv: ['--import', 'tsx'],
      });
      let at = next;
      let watch: NodeJS.Timeout | undefined;
      const done = (value: number) => {
        clearTimeout(watch);
        reader.once('exit', () => resolve(value));
        reader.kill('SIGKILL');
      };
      reader.on('message', (i: number) => {
        at = i;
        clearTimeout(watch);
        if (i >= count || Date.now() > end) return done(i);
        watch = setTimeout(() => {
          hung.push(at);
          done(at + 1);
        }, HUNG_MS);
        return undefined;
      });
      reader.on('error', reject);
    });
  }
  return { ran: next, hung };
}
