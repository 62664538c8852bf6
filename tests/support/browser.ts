/** Starts the real server and the real browser for tests, benches and screenshots. */
import { existsSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import puppeteer, { type Browser, type LaunchOptions, type Page } from 'puppeteer-core';
import { type Running, serve } from '#server/serve';
import { freePort } from './free-port';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

export interface App {
  port: number;
  url: string;
  /** Stops the server; `start` brings it back on the same port with the same data. */
  stop: () => Promise<void>;
  start: () => Promise<void>;
  close: () => Promise<void>;
}

/** The built app on a server of its own. */
export async function startApp(): Promise<App> {
  const port = await freePort();
  const data = await mkdtemp(join(tmpdir(), 'bivoca-data-'));
  let running: Running | null = null;
  const start = async () => {
    running = await serve({ port, token: null, dist: join(ROOT, 'dist'), ingestRoot: join(data, 'ingest'), streamKey: 'kites' });
  };
  const stop = async () => {
    await running?.close();
    running = null;
  };
  await start();
  return {
    port,
    url: `http://127.0.0.1:${port}`,
    start,
    stop,
    close: async () => {
      await stop();
      await rm(data, { recursive: true, force: true });
    },
  };
}

export interface TestBrowser {
  browser: Browser;
  profile: string;
  page: Page;
  /** Console errors, page errors and VideoFrames that were never closed. */
  troubles: string[];
  close: () => Promise<void>;
}

const FLAGS = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-dev-shm-usage',
  '--autoplay-policy=no-user-gesture-required',
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  '--auto-accept-this-tab-capture',
  '--mute-audio',
  '--enable-unsafe-swiftshader',
];

/**
 * A browser with Chromium's fake camera, and a page; `profile` is kept when given. A slow machine makes no smaller pictures in it, so that tests
 * see what they ask for, unless with `stepsDown`.
 */
export async function startBrowser(
  options: { profile?: string; size?: { width: number; height: number }; launch?: Partial<LaunchOptions>; stepsDown?: boolean } = {},
): Promise<TestBrowser> {
  const executablePath = BROWSERS.find((path) => existsSync(path));
  if (!executablePath) throw new Error('Chromium is missing: install the package "chromium".');
  const profile = options.profile ?? (await mkdtemp(join(tmpdir(), 'bivoca-profile-')));
  const { width, height } = options.size ?? { width: 1280, height: 800 };
  const browser = await puppeteer.launch({
    executablePath,
    headless: true,
    userDataDir: profile,
    args: [...FLAGS, `--window-size=${width},${height}`],
    defaultViewport: { width, height },
    protocolTimeout: 240_000,
    ...options.launch,
  });
  const [page = await browser.newPage()] = await browser.pages();
  page.setDefaultTimeout(120_000);
  // A test that leaves a show on air means it; one that tests the question listens by itself.
  page.on('dialog', (dialog) => void (dialog.type() === 'beforeunload' && page.listenerCount('dialog') === 1 && dialog.accept()));
  // Kept for the whole profile, so that further pages have it too; one that a test has set by hand stays.
  if (!options.stepsDown)
    await page.evaluateOnNewDocument(() => {
      // Pages of the browser's own have no storage.
      if (location.protocol.startsWith('http') && !localStorage.getItem('bivoca.step')) localStorage.setItem('bivoca.step', '0');
    });
  const troubles: string[] = [];
  const listen = (target: Page) => {
    target.on('console', (message) => {
      const text = message.text();
      // A refused command and a server that is away are told by the browser as failed requests: not faults of the app.
      if (
        (message.type() === 'error' && !/Failed to load resource|WebSocket connection|ERR_CONNECTION_REFUSED/.test(text)) ||
        /garbage collected without being closed/.test(text)
      )
        troubles.push(`${text} (${message.location().url ?? 'unknown'})`);
    });
    target.on('pageerror', (error) => troubles.push(String(error)));
  };
  listen(page);
  browser.on(
    'targetcreated',
    (target) =>
      void target
        .page()
        .then((p) => p && p !== page && listen(p))
        .catch(() => undefined),
  );
  return {
    browser,
    profile,
    page,
    troubles,
    close: async () => {
      await browser.close().catch(() => undefined);
      if (!options.profile) await rm(profile, { recursive: true, force: true, maxRetries: 5, retryDelay: 200 });
    },
  };
}
