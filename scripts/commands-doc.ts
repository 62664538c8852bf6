/** Writes docs/commands.md from the registry; with --check, only says whether it is current. */
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { commandReference } from '#core/desk/reference';

const file = fileURLToPath(new URL('../docs/commands.md', import.meta.url));
const text = commandReference();
if (!process.argv.includes('--check')) writeFileSync(file, text);
else if (readFileSync(file, 'utf8') !== text) {
  console.error('docs/commands.md is out of date: run npm run docs.');
  process.exit(1);
}
