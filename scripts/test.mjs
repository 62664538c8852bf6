/**
 * `npm test`: installs what is missing, then types, format, lint, structure, unit tests, browser tests; one count for all. Static checks run beside
 * the unit tests, browser tests alone: they measure time. `npm test static`, `unit` or `browser` runs a part.
 */
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { bin, build, checkNode, install, needBrowser, ROOT, tsx } from './lib.mjs';
import { lanes } from './lanes.mjs';

checkNode();
install();
needBrowser();

const began = Date.now();
let passed = 0;
let failed = 0;
const failures = [];
/** Every test that failed, with the first line of why: said last, where it is found again. */
const wrong = [];
/** Seconds of every file of tests, and tests that needed another try. */
const times = [];
const retried = [];

const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`;

/** Runs a program; resolves with whether it succeeded, and what it said. What it says is shown when it has ended, unless `live`. */
function program([command, args], { live = false, env = {} } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd: ROOT, stdio: live ? 'inherit' : 'pipe', env: { ...process.env, ...env } });
    let said = '';
    child.stdout?.on('data', (data) => (said += data));
    child.stderr?.on('data', (data) => (said += data));
    child.on('error', (error) => resolve({ ok: false, said: String(error) }));
    child.on('close', (code) => resolve({ ok: code === 0, said }));
  });
}

async function step(name, ...command) {
  const from = Date.now();
  const { ok, said } = await program(command);
  if (ok) passed += 1;
  else {
    failed += 1;
    failures.push(name);
    console.log(said.trim());
  }
  console.log(`${ok ? 'ok' : 'FAILED'}: ${name} (${seconds(Date.now() - from)})`);
}

/** A Vitest project; its own tests are counted one by one. */
async function vitest(project, { live, env } = {}) {
  const report = join(ROOT, '.cache', `${project}.json`);
  rmSync(report, { force: true });
  const reporters = ['--reporter', live ? 'default' : 'dot', '--reporter', 'json', '--outputFile.json', report];
  const { ok, said } = await program([bin('vitest'), ['run', '--project', project, ...reporters]], { live, env });
  if (!live && !ok) console.log(said.trim());
  if (!existsSync(report)) {
    failed += 1;
    failures.push(`${project} tests did not run`);
    return;
  }
  const result = JSON.parse(readFileSync(report, 'utf8'));
  passed += result.numPassedTests;
  failed += result.numFailedTests;
  if (!ok && result.numFailedTests === 0) {
    failed += 1;
    failures.push(`${project} tests had errors outside of tests`);
  }
  if (result.numFailedTests > 0) failures.push(`${result.numFailedTests} ${project} tests`);
  for (const file of result.testResults) {
    const name = file.name.slice(ROOT.length + 1);
    times.push({ name, ms: file.endTime - file.startTime });
    for (const test of file.assertionResults) {
      if (test.status === 'failed') wrong.push(`${name}: ${test.fullName}\n    ${String(test.failureMessages[0]).split('\n')[0]}`);
      else if (test.failureMessages?.length > 0) retried.push(`${name}: ${test.fullName}`);
    }
  }
  console.log(`${ok ? 'ok' : 'FAILED'}: ${result.numPassedTests} ${project} tests`);
}

/** Checks that need no browser: types and lint are the long ones, one beside the other. */
async function statics() {
  await step('types', bin('tsc'), ['--noEmit']);
  await step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.']);
  await step('structure: imports run one way', bin('depcruise'), [
    '--config',
    '.dependency-cruiser.cjs',
    'core',
    'engine',
    'interface',
    'server',
    'standins',
  ]);
  await step('structure: nothing dead', bin('knip'), []);
  await step('the compiled kernels are current', ...tsx('scripts/kernels.ts', ['--check']));
  await step('docs/commands.md is current', ...tsx('scripts/commands-doc.ts', ['--check']));
}

const lint = () => step('lint', bin('eslint'), ['.']);

const only = process.argv[2];
if (only === 'static') await Promise.all([statics(), lint()]);
else if (only === 'unit') await vitest('unit', { live: true });
else if (only !== 'browser') {
  // The unit tests use both cores; what the static checks add fills the gaps.
  await Promise.all([statics().then(lint), vitest('unit')]);
}
if (!only || only === 'browser') {
  build();
  const count = await lanes();
  console.log(`Browser tests in ${count === 1 ? 'one lane' : `${count} lanes`}.`);
  await vitest('browser', { live: true, env: { BIVOCA_LANES: String(count) } });
}

console.log('Seconds of each file:');
for (const { name, ms } of times.sort((a, b) => b.ms - a.ms)) console.log(`${(ms / 1000).toFixed(1).padStart(7)}  ${name}`);
if (retried.length > 0) console.log(`Passed only at a further try:\n${retried.join('\n')}`);
if (wrong.length > 0) console.log(wrong.join('\n'));
if (failures.length > 0) console.log(`Failed: ${failures.join('; ')}`);
console.log(`${passed} passed, ${failed} failed, in ${Math.round((Date.now() - began) / 1000)} s`);
process.exit(failed > 0 ? 1 : 0);
