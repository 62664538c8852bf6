/** `npm test`: installs what is missing, then types, lint, structure, unit tests, browser tests; one count for all. */
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, checkNode, install, needBrowser, ROOT, run, tsx } from './lib.mjs';

checkNode();
install();
needBrowser();

let passed = 0;
let failed = 0;
const failures = [];
/** Every test that failed, with the first line of why: said last, where it is found again. */
const wrong = [];

function step(name, ok) {
  if (ok) passed += 1;
  else {
    failed += 1;
    failures.push(name);
  }
  console.log(`${ok ? 'ok' : 'FAILED'}: ${name}`);
}

/** A Vitest project; its own tests are counted one by one. */
function vitest(project) {
  const report = join(ROOT, '.cache', `${project}.json`);
  rmSync(report, { force: true });
  const ok = run(bin('vitest'), ['run', '--project', project, '--reporter', 'default', '--reporter', 'json', '--outputFile.json', report]);
  if (!existsSync(report)) return step(`${project} tests ran`, false);
  const result = JSON.parse(readFileSync(report, 'utf8'));
  passed += result.numPassedTests;
  failed += result.numFailedTests;
  if (!ok && result.numFailedTests === 0) step(`${project} tests without errors outside tests`, false);
  if (result.numFailedTests > 0) failures.push(`${result.numFailedTests} ${project} tests`);
  for (const file of result.testResults) {
    for (const test of file.assertionResults)
      if (test.status === 'failed')
        wrong.push(`${file.name.slice(ROOT.length + 1)}: ${test.fullName}\n    ${String(test.failureMessages[0]).split('\n')[0]}`);
  }
}

const only = process.argv[2];
if (!only || only === 'static') {
  step('types', run(bin('tsc'), ['--noEmit']));
  step('format', run(bin('prettier'), ['--check', '--log-level', 'warn', '.']));
  step('lint', run(bin('eslint'), ['.']));
  step(
    'structure: imports run one way',
    run(bin('depcruise'), ['--config', '.dependency-cruiser.cjs', 'core', 'engine', 'interface', 'server', 'standins']),
  );
  step('structure: nothing dead', run(bin('knip'), []));
  step('the compiled kernels are current', run(...tsx('scripts/kernels.ts', ['--check'])));
  step('docs/commands.md is current', run(...tsx('scripts/commands-doc.ts', ['--check'])));
}
if (!only || only === 'unit') vitest('unit');
if (!only || only === 'browser') {
  build();
  vitest('browser');
}

if (wrong.length > 0) console.log(wrong.join('\n'));
if (failures.length > 0) console.log(`Failed: ${failures.join('; ')}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
