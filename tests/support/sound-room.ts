/** What the browser tests do in the room Sound. */
import { type Page } from 'puppeteer-core';
import { pick, send } from './desk';

/** Goes to a room without leaving the running show. */
export async function room(page: Page, name: string): Promise<void> {
  await page.click(`nav a[href$="/${name}"]`);
  await page.waitForFunction((path) => location.pathname.endsWith(path), {}, `/${name}`);
}

/** Shows strips or matrix, whatever was shown before. */
export const view = async (page: Page, name: 'Strips' | 'Matrix') =>
  (await page.waitForSelector(`::-p-xpath(//main//button[normalize-space()="${name}"])`))?.click();

/** Takes everything back that an earlier try may have left in the room. */
export async function tidy(page: Page): Promise<void> {
  await send(page, 'sound.sendByRule', { from: 'mic-field', bus: 'bus-pa' });
  if (await page.evaluate(() => window.bivocaHost?.state.desk.air.sound.held['bus-pa'] !== undefined))
    await send(page, 'sound.release', { bus: 'bus-pa' });
  for (const patch of await pick(page, (s) => s.desk.show.sound.patches.slice(3).map((p) => p.id)))
    await send(page, 'sound.unplug', { patch });
}
