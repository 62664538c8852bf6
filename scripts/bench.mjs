/** `npm run bench`: builds, then measures (about twelve minutes; `-- --minutes 1` for a short soak, `-- --only mixer`). */
import { build, checkNode, install, needBrowser, run, tsx } from './lib.mjs';

checkNode();
install();
needBrowser();
build();
process.exit(run(...tsx('tests/bench/bench.ts', process.argv.slice(2))) ? 0 : 1);
