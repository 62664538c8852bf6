/** `npm run fuzz`: gives damaged inputs of every kind to the app's doors (`-- --minutes N --count N --only shows --seed N`). */
import { checkNode, install, run, tsx } from './lib.mjs';

checkNode();
install();
process.exit(run(...tsx('tests/fuzz/fuzz.ts', process.argv.slice(2))) ? 0 : 1);
