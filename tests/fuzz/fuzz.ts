/** `npm run fuzz`: damaged inputs of every kind (`-- --minutes N` for each kind, `--count N`, `--only NAME`, `--seed N`). */
import 'reflect-metadata';
import { parseArgs } from 'node:util';
import { KINDS } from './kinds';
import { fuzzMedia } from './media';
import { fuzz } from './run';

const { values } = parseArgs({
  options: {
    minutes: { type: 'string', default: '60' },
    count: { type: 'string', default: '10000' },
    only: { type: 'string' },
    seed: { type: 'string', default: '1' },
  },
});
const [count, ms, seed] = [Number(values.count), Number(values.minutes) * 60_000, Number(values.seed)];
let faults = 0;
for (const name of Object.keys(KINDS)) {
  if (values.only && values.only !== name) continue;
  const result = await fuzz(name, seed, count, ms);
  faults += result.faults.length;
  console.log(`${name}: ${result.ran} inputs, slowest ${Math.round(result.slowestMs)} ms, ${result.faults.length} faults`);
  for (const fault of result.faults) console.log(`  ${fault}`);
}
if (!values.only || values.only === 'media') {
  const { ran, hung } = await fuzzMedia(seed, count, ms);
  faults += hung.length;
  console.log(`media: ${ran} inputs, ${hung.length} hung${hung.length > 0 ? `: ${hung.join(', ')}` : ''}`);
}
process.exit(faults > 0 ? 1 : 0);
