/** `npm run screenshots`: builds, then takes the pictures in docs/screenshots from the demo show. */
import { build, checkNode, install, needBrowser, run, tsx } from './lib.mjs';

checkNode();
install();
needBrowser();
build();
process.exit(run(...tsx('tests/screenshots.ts')) ? 0 : 1);
