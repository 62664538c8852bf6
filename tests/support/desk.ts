/** What the browser tests do at the Desk. */
import { type Page } from 'puppeteer-core';
import { type Command } from '#core/commands/command';
import { type DispatchResult } from '#engine/host/show-host';
import { type HostState } from '#engine/host/state';
import type {} from '#interface/host/open-show';
import { type App } from './browser';

export const wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Waits until `ask` gives a truthy value. */
export async function until<T>(ask: () => Promise<T> | T, what: string, limitMs = 20_000): Promise<NonNullable<T>> {
  const end = Date.now() + limitMs;
  for (;;) {
    const value = await ask();
    if (value) return value as NonNullable<T>;
    if (Date.now() > end) throw new Error(`Waited ${limitMs} ms in vain for ${what}.`);
    await wait(60);
  }
}

/** The page's show is open and its pictures move. */
export async function showRuns(page: Page): Promise<void> {
  await until(() => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false), 'the show to run', 45_000).catch(async (error: unknown) => {
    const said = await page.evaluate(() => `${location.pathname}: ${document.body.innerText.slice(0, 400)}`).catch(String);
    throw new Error(`${String(error)} The page says: ${said}`);
  });
}

export async function openDemo(page: Page, app: App): Promise<void> {
  await page.goto(`${app.url}/demo`);
  await showRuns(page);
}

/** Mutes the demo's microphones and music, so that only sources are heard. */
export async function quietPier(page: Page): Promise<void> {
  await send(page, 'sound.setChannel', { channels: ['mic-presenter', 'mic-field', 'music'], muted: true });
}

/** Holds a button until `done`. */
export async function hold(page: Page, selector: string, done: () => Promise<boolean>, what: string): Promise<void> {
  const button = await page.waitForSelector(selector);
  await button?.evaluate((e) => e.scrollIntoView({ block: 'center' }));
  const box = (await button?.boundingBox()) as { x: number; y: number };
  await page.mouse.move(box.x + 8, box.y + 8);
  await page.mouse.down();
  await until(done, what).finally(() => page.mouse.up());
}

/** Part of the host's state, picked inside the page. */
export const pick = <T>(page: Page, select: (state: HostState) => T): Promise<T> =>
  page.evaluate(`(${select.toString()})(window.bivocaHost.state)`) as Promise<T>;

/** Sends a command in the host window. */
export const send = (page: Page, type: string, args: Record<string, unknown> = {}): Promise<DispatchResult> =>
  page.evaluate((command) => (window.bivocaHost as NonNullable<typeof window.bivocaHost>).dispatch(command), { type, args } satisfies Command);

/** Sends a command through the server. */
export async function post(app: App, type: string, args: Record<string, unknown> = {}): Promise<{ status: number; body: Record<string, unknown> }> {
  const response = await fetch(`${app.url}/api/commands`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ type, args }) });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}

/** Stops the recording and waits for its file; its bytes as base64. */
export async function finishRecording(page: Page, id: string): Promise<string> {
  await send(page, 'output.stopRecording');
  await until(() => page.evaluate(() => window.bivocaHost?.state.encoder.recording === null), 'the recording to end');
  await until(() => recordingRow(page, id).then((row) => row?.state === 'done'), 'the recording to be listed as done');
  return recordingBytes(page, id);
}

interface Row {
  id: string;
  state: string;
  seconds: number;
  extension: string;
  note: string;
  name: string;
}

/** The row of a recording in the page's database. */
export const recordingRow = (page: Page, id: string): Promise<Row | undefined> =>
  page.evaluate(
    (key) =>
      new Promise<Row | undefined>((resolve, reject) => {
        const open = indexedDB.open('bivoca');
        open.onerror = () => reject(open.error);
        open.onsuccess = () => {
          const get = open.result.transaction('recordings').objectStore('recordings').get(key);
          get.onsuccess = () => {
            open.result.close();
            resolve(get.result as Row | undefined);
          };
        };
      }),
    id,
  );

/** The bytes of a recording's file, base64. */
export const recordingBytes = (page: Page, id: string): Promise<string> =>
  page.evaluate(async (key) => {
    const root = await navigator.storage.getDirectory();
    const folder = await root.getDirectoryHandle('recordings');
    for (const extension of ['mp4', 'webm']) {
      const handle = await folder.getFileHandle(`${key}.${extension}`).catch(() => null);
      if (!handle) continue;
      const bytes = new Uint8Array(await (await handle.getFile()).arrayBuffer());
      let text = '';
      for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
      return btoa(text);
    }
    throw new Error(`no file of recording ${key}`);
  }, id);

/** Presses the control with this accessible name. */
export async function press(page: Page, name: string): Promise<void> {
  const handle = await page.waitForSelector(`aria/${name}`, { timeout: 10_000 });
  await handle?.click();
}
