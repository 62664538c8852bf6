/** What all scripts share. Plain Node: it runs before anything is installed. */
import { spawn, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { compress } from './compress.mjs';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');
const CACHE = join(ROOT, '.cache');

/** Ends with one clear sentence. */
export function fail(message) {
  console.error(message);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    fail(`Bivoca needs Node 20.19 or newer; this is ${process.versions.node}. Install a newer Node and try again.`);
  }
}

/** Runs a program to its end; true when it succeeded. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
  return status === 0;
}

/** The path of a program that a package ships. */
export const bin = (name) => join(ROOT, 'node_modules', '.bin', name);

/** Runs a TypeScript file with this Node. */
export const tsx = (file, args = []) => [process.execPath, ['--import', 'tsx', join(ROOT, file), ...args]];

export function start(command, args, options = {}) {
  return spawn(command, args, { cwd: ROOT, stdio: 'inherit', ...options });
}

function filesBelow(path) {
  const full = join(ROOT, path);
  if (!existsSync(full)) return [];
  if (!statSync(full).isDirectory()) return [path];
  return readdirSync(full).flatMap((name) => filesBelow(join(path, name)));
}

/** A mark of the contents of files and folders. */
export function markOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths.flatMap(filesBelow).sort()) hash.update(path).update(readFileSync(join(ROOT, path)));
  return hash.digest('hex');
}

/** Runs `work` unless it was done before for the same mark and its result still exists. */
export function once(name, mark, result, work) {
  const file = join(CACHE, name);
  if (existsSync(join(ROOT, result)) && existsSync(file) && readFileSync(file, 'utf8') === mark) return;
  work();
  mkdirSync(CACHE, { recursive: true });
  writeFileSync(file, mark);
}

/** Installs packages when they are missing or the lock has changed. */
export function install() {
  once('installed', markOf(['package-lock.json']), 'node_modules/vite', () => {
    console.log('Installing packages…');
    // Not `npm ci`: it refuses a lock without the binaries of other systems, which a partial registry does not list.
    if (!run('npm', ['install', '--no-save', '--no-fund', '--no-audit', '--loglevel=error'])) {
      fail('The packages could not be installed. Check that this machine reaches the npm registry, then try again.');
    }
  });
}

/** Builds the app when its sources have changed. */
export function build() {
  const sources = [
    'core',
    'engine',
    'interface',
    'standins',
    'vite.config.ts',
    'tsconfig.json',
    'package-lock.json',
    'scripts/compress.mjs',
  ];
  once('built', markOf(sources), 'dist/index.html', () => {
    console.log('Building…');
    if (!run(bin('vite'), ['build', '--logLevel', 'warn'])) fail('The app could not be built; the lines above say where.');
    compress(join(ROOT, 'dist'));
  });
}

/** Chromium for the browser tests: Debian's, installed when root. */
export function needBrowser() {
  if (['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].some(existsSync)) return;
  const isRoot = process.getuid?.() === 0;
  if (!isRoot || !existsSync('/usr/bin/apt-get')) fail('The browser tests need Chromium. Install the package "chromium" and try again.');
  console.log('Installing Chromium…');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { env, stdio: ['ignore', 'ignore', 'inherit'] };
  run('apt-get', ['update', '-qq'], quiet);
  if (!run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', 'chromium'], quiet)) {
    fail('Chromium could not be installed with apt-get. Install the package "chromium" by hand and try again.');
  }
}
