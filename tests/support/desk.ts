/** What the browser tests do at the Desk. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { type KeyInput, type Page } from 'puppeteer-core';
import { type Command } from '#core/commands/command';
import { type DispatchResult } from '#engine/client/show-client';
import { type LiveState } from '#engine/client/state';
import type {} from '#interface/shell/open-show';
import { type App } from './browser';

export const wait = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

/** Longer than any limit in the tests by this much: a machine may be several times slower than the one they were written on. */
const PATIENCE = 4;

/** Waits until `ask` gives a truthy value; `limitMs` is what a machine at rest needs at the very most. */
export async function until<T>(ask: () => Promise<T> | T, what: string, limitMs = 20_000): Promise<NonNullable<T>> {
  const end = Date.now() + limitMs * PATIENCE;
  for (;;) {
    const value = await ask();
    if (value) return value as NonNullable<T>;
    if (Date.now() > end) throw new Error(`Waited ${limitMs * PATIENCE} ms in vain for ${what}.`);
    await wait(60);
  }
}

/** The page's show is open and its pictures move. */
export async function showRuns(page: Page): Promise<void> {
  await until(
    () => page.evaluate(() => (window.bivocaHost?.state.mixer.frames ?? 0) > 5).catch(() => false),
    'the show to run',
    45_000,
  ).catch(async (error: unknown) => {
    const said = await page.evaluate(() => `${location.pathname}: ${document.body.innerText.slice(0, 400)}`).catch(String);
    throw new Error(`${String(error)} The page says: ${said}`);
  });
}

/** Lets the show go on for so many of its frames: time as the show has it, however slow the machine is. */
export async function passes(page: Page, frames: number): Promise<void> {
  const from = await page.evaluate(() => window.bivocaHost?.state.frame ?? 0);
  await until(
    () => page.evaluate((end) => (window.bivocaHost?.state.frame ?? 0) >= end, from + frames),
    `${frames} frames to pass`,
    20_000 + frames * 60,
  );
}

/** The demo, small unless another height is wanted: what a test looks at does not depend on the size. */
export async function openDemo(page: Page, app: App, height = 360): Promise<void> {
  await page.goto(`${app.url}/demo?height=${height}`);
  await showRuns(page);
}

/**
 * Takes the drawn sources that a test needs not out of the demo. Two cores are busy with all of it; what a test measures in real
 * time must not depend on a machine at rest.
 */
export async function keepOnly(page: Page, ...ids: string[]): Promise<void> {
  const drawn = await pick(page, (s) =>
    s.desk.show.sources.filter((x) => x.settings.kind === 'simulated' || x.settings.kind === 'test').map((x) => x.id),
  );
  for (const source of drawn.filter((id) => !ids.includes(id))) {
    const removed = await send(page, 'source.remove', { source, force: true });
    if (!removed.ok) throw new Error(`${source} stays: ${JSON.stringify(removed)}`);
  }
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
export const pick = <T>(page: Page, select: (state: LiveState) => T): Promise<T> =>
  page.evaluate(`(${select.toString()})(window.bivocaHost.state)`) as Promise<T>;

/** Sends a command in the host window. */
export const send = (page: Page, type: string, args: Record<string, unknown> = {}): Promise<DispatchResult> =>
  page.evaluate((command) => (window.bivocaHost as NonNullable<typeof window.bivocaHost>).dispatch(command), {
    type,
    args,
  } satisfies Command);

/** Sends a command through the server. */
export async function post(
  app: App,
  type: string,
  args: Record<string, unknown> = {},
): Promise<{ status: number; body: Record<string, unknown> }> {
  const response = await fetch(`${app.url}/api/commands`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ type, args }),
  });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}

/** Presses a key while others are held. */
export async function chord(page: Page, held: readonly ('Alt' | 'Shift' | 'Control')[], key: KeyInput): Promise<void> {
  for (const one of held) await page.keyboard.down(one);
  await page.keyboard.press(key);
  for (const one of held) await page.keyboard.up(one);
}

/** Presses the control with this accessible name. */
export async function press(page: Page, name: string): Promise<void> {
  const handle = await page.waitForSelector(`aria/${name}`, { timeout: 10_000 * PATIENCE });
  await handle?.click();
}

/** Waits until the page says these words somewhere. */
export const said = (page: Page, words: string): Promise<true> =>
  until(() => page.evaluate((w) => document.body.innerText.includes(w) || null, words), `the words “${words}”`);

/** Gives a file to the field of this name. */
export async function uploadTo(page: Page, label: string, folder: string, name: string, data: string | Uint8Array): Promise<void> {
  const path = join(folder, name);
  await writeFile(path, data);
  const input = await page.waitForSelector(`input[aria-label="${label}"]`);
  await (input as unknown as { uploadFile(p: string): Promise<void> }).uploadFile(path);
}

/** Does a command at the host, which must take it; its result. */
export async function must(page: Page, type: string, args: Record<string, unknown> = {}): Promise<Record<string, unknown>> {
  const done = await send(page, type, args);
  if (!done.ok) throw new Error(`${type}: ${done.error.message}`);
  return done.result;
}

/** Presses a button, found by an XPath condition; where it is, however long lists above it have become meanwhile. */
export const clickButton = async (page: Page, that: string): Promise<void> =>
  (await page.waitForSelector(`::-p-xpath(//button[${that}])`))!.evaluate((button) => (button as HTMLElement).click());

/** The demo with few sources, the first of them on air, no lane up and no trigger armed; `mute` takes every channel away too. */
export async function openSmall(page: Page, app: App, keep: readonly [string, ...string[]], mute = false): Promise<void> {
  await openDemo(page, app);
  await must(page, 'picture.cut', { picture: keep[0] });
  await keepOnly(page, ...keep);
  await must(page, 'trigger.armAll', { armed: false });
  for (const lane of await pick(page, (s) => s.desk.show.lanes.map((l) => l.id))) await send(page, 'lane.hide', { lane });
  if (!mute) return;
  const channels = await pick(page, ({ desk: { show } }) => [...show.sources.map((x) => x.id), ...show.sound.inputs.map((c) => c.id)]);
  for (const channel of channels) await send(page, 'sound.mute', { channel, on: true });
}
