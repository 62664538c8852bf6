/** Gives damaged inputs to the kinds of `kinds.ts`, and gathers what may not happen. */
import { diceFrom } from '../support/dice';
import { KINDS } from './kinds';

/** No input may hold its door up for longer, milliseconds: what hangs does so for ever, and a busy machine may take seconds. */
const HUNG_MS = 8000;

export interface FuzzResult {
  name: string;
  ran: number;
  slowestMs: number;
  /** What went wrong, with the number of the input that did it. */
  faults: string[];
}

/** Runs one kind `count` times, or for as long as `ms` allow. The same seed gives the same inputs. */
export async function fuzz(name: string, seed: number, count: number, ms: number): Promise<FuzzResult> {
  const make = KINDS[name];
  if (!make) throw new Error(`There is no kind "${name}": ${Object.keys(KINDS).join(', ')}, media.`);
  const kind = await make();
  const result: FuzzResult = { name, ran: 0, slowestMs: 0, faults: [] };
  const uncaught = (error: unknown) => result.faults.push(`${result.ran}: not caught: ${String(error)}`);
  process.on('uncaughtException', uncaught);
  process.on('unhandledRejection', uncaught);
  const end = Date.now() + ms;
  for (; result.ran < count && Date.now() < end && result.faults.length < 10; result.ran += 1) {
    const dice = diceFrom(seed + result.ran * 7919 + 1);
    for (let k = 0; k < 8; k += 1) dice();
    const started = performance.now();
    try {
      let timer: NodeJS.Timeout | undefined;
      const silence = new Promise<void>((_, reject) => {
        timer = setTimeout(() => reject(new Error('no answer')), HUNG_MS);
      });
      await Promise.race([(async () => kind.once(dice))(), silence]).finally(() => clearTimeout(timer));
    } catch (error) {
      result.faults.push(`${result.ran}: ${error instanceof Error ? (error.stack ?? error.message).slice(0, 600) : String(error)}`);
    }
    const took = performance.now() - started;
    result.slowestMs = Math.max(result.slowestMs, took);
    if (took > HUNG_MS) result.faults.push(`${result.ran}: took ${Math.round(took)} ms`);
  }
  process.off('uncaughtException', uncaught);
  process.off('unhandledRejection', uncaught);
  await kind.close?.();
  return result;
}
