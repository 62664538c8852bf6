/** Builds the harness page and opens it in a browser. */
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Page } from 'puppeteer-core';
import { build } from 'vite';
import { serve } from '#server/serve';
import type {} from '../harness/harness';
import { type TestBrowser } from './browser';
import { freePort } from './free-port';

const ROOT = fileURLToPath(new URL('../..', import.meta.url));

/** Where the harness page that all files share was built; set by `setup-browser.ts`. */
export const HARNESS_VARIABLE = 'BIVOCA_HARNESS';

/** Builds the harness page; its folder. */
export async function buildHarness(): Promise<string> {
  const dist = await mkdtemp(join(tmpdir(), 'bivoca-harness-'));
  await build({
    configFile: join(ROOT, 'vite.config.ts'),
    root: join(ROOT, 'tests/harness'),
    logLevel: 'error',
    build: { outDir: dist, emptyOutDir: true, target: 'es2022', rollupOptions: { input: join(ROOT, 'tests/harness/index.html') } },
  });
  return dist;
}

/** A page with `window.harness`, in the given browser. */
export async function openHarness({ browser }: TestBrowser): Promise<{ page: Page; close: () => Promise<void> }> {
  const dist = process.env[HARNESS_VARIABLE] ?? (await buildHarness());
  const port = await freePort();
  const running = await serve({ port, token: null, dist, ingestRoot: join(dist, 'ingest'), streamKey: 'none' });
  const page = await browser.newPage();
  await page.goto(`http://127.0.0.1:${port}/`);
  await page.waitForFunction(() => 'harness' in window);
  return {
    page,
    close: async () => {
      await page.close();
      await running.close();
    },
  };
}
