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

/** Runs a Vitest project, or some files of it. Resolves with what became of each file and test; null when there is no report. */
async function vitest(project, { live = false, env, files = [] } = {}) {
  const report = join(ROOT, '.cache', `${project}.json`);
  rmSync(report, { force: true });
  const reporters = ['--reporter', live ? 'default' : 'dot', '--reporter', 'json', '--outputFile.json', report];
  const { ok, said } = await program([bin('vitest'), ['run', '--project', project, ...reporters, ...files]], { live, env });
  if (!live && !ok) console.log(said.trim());
  if (!existsSync(report)) return null;
  const found = JSON.parse(readFileSync(report, 'utf8')).testResults.map((file) => ({
    name: file.name.slice(ROOT.length + 1),
    ms: file.endTime - file.startTime,
    failed: file.status === 'failed',
    tests: file.assertionResults.map((test) => ({
      name: test.fullName,
      passed: test.status === 'passed',
      failed: test.status === 'failed',
      why: test.failureMessages?.[0] === undefined ? '' : String(test.failureMessages[0]).split('\n')[0],
    })),
  }));
  return { ok, found };
}

/** Counts the tests of a project one by one. */
function count(project, run) {
  const tests = run?.found.flatMap((file) => file.tests.map((test) => ({ ...test, file: file.name }))) ?? [];
  const good = tests.filter((t) => t.passed).length;
  const bad = tests.filter((t) => t.failed);
  passed += good;
  failed += bad.length;
  if (bad.length > 0) failures.push(`${bad.length} ${project} tests`);
  else if (!run?.ok) {
    failed += 1;
    failures.push(run ? `${project} tests had errors outside of tests` : `${project} tests did not run`);
  }
  for (const { name, ms } of run?.found ?? []) times.push({ name, ms });
  for (const { file, name, why } of bad) wrong.push(`${file}: ${name}\n    ${why}`);
  for (const { file, name, passed: did, why, alone } of tests)
    if (did && (why !== '' || alone)) retried.push(`${file}: ${name}${alone ? ' (alone)' : ''}`);
  console.log(`${run?.ok ? 'ok' : 'FAILED'}: ${good} ${project} tests`);
}

/**
 * Browser tests in as many lanes as there is room for. Files that fail beside others run once more with the machine to themselves, and the report
 * says so: on a machine that others use too, the room that was measured may be gone by then.
 */
async function browserTests() {
  const many = await lanes();
  console.log(`Browser tests in ${many === 1 ? 'one lane' : `${many} lanes`}.`);
  const run = await vitest('browser', { live: true, env: { BIVOCA_LANES: String(many) } });
  const again = many > 1 ? (run?.found.filter((f) => f.failed).map((f) => f.name) ?? []) : [];
  if (!run || again.length === 0) return count('browser', run);
  console.log(`Once more, alone: ${again.join(', ')}`);
  const alone = await vitest('browser', { live: true, env: { BIVOCA_LANES: '1' }, files: again });
  if (!alone) return count('browser', run);
  const failedBefore = new Set(run.found.flatMap((f) => f.tests.filter((t) => t.failed).map((t) => `${f.name} ${t.name}`)));
  const redone = alone.found.map((f) => ({ ...f, tests: f.tests.map((t) => ({ ...t, alone: failedBefore.has(`${f.name} ${t.name}`) })) }));
  count('browser', { ok: alone.ok, found: [...run.found.filter((f) => !again.includes(f.name)), ...redone] });
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
else if (only === 'unit') count('unit', await vitest('unit', { live: true }));
else if (only !== 'browser') {
  // The unit tests use both cores; what the static checks add fills the gaps.
  await Promise.all([statics().then(lint), vitest('unit').then((run) => count('unit', run))]);
}
if (!only || only === 'browser') {
  build();
  await browserTests();
}

console.log('Seconds of each file:');
for (const { name, ms } of times.sort((a, b) => b.ms - a.ms)) console.log(`${(ms / 1000).toFixed(1).padStart(7)}  ${name}`);
if (retried.length > 0) console.log(`Passed only at a further try:\n${retried.join('\n')}`);
if (wrong.length > 0) console.log(wrong.join('\n'));
if (failures.length > 0) console.log(`Failed: ${failures.join('; ')}`);
console.log(`${passed} passed, ${failed} failed, in ${Math.round((Date.now() - began) / 1000)} s`);
process.exit(failed > 0 ? 1 : 0);
