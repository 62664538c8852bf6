/** Takes the pictures of docs/screenshots from the demo show. */
import { mkdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { startApp, startBrowser } from './support/browser';
import { openDemo, passes, pick, press, send, until, wait } from './support/desk';

const folder = fileURLToPath(new URL('../docs/screenshots/', import.meta.url));
mkdirSync(folder, { recursive: true });

const app = await startApp();
const { page, close } = await startBrowser();
const shoot = async (name: string) => {
  await page.screenshot({ path: `${folder}${name}.png` as `${string}.png` });
  console.log(name);
};

await openDemo(page, app, 720);
await wait(3000);
await shoot('desk');

await send(page, 'lane.show', { lane: 'lane-1' });
await send(page, 'lane.show', { lane: 'lane-2' });
await send(page, 'output.startRecording');
await send(page, 'output.startStream');
await wait(7000);
await send(page, 'lane.show', { lane: 'lane-1' });
await send(page, 'picture.arm', { kind: 'wipe', frames: 50, softness: 0.1, angle: 30 });
await wait(600);
await send(page, 'picture.moveBar', { position: 0.45 });
await wait(500);
await shoot('on-air');
await page.setViewport({ width: 1920, height: 1080 });
await wait(1200);
await shoot('desk-1920');
await page.setViewport({ width: 600, height: 1100 });
await wait(1200);
await shoot('narrow');
await page.setViewport({ width: 1280, height: 800 });
await send(page, 'picture.take');
await wait(2500);

await send(page, 'picture.setNext', { picture: 'talk' });
await page.keyboard.press('Escape');

await page.click('a[href$="/layouts"]');
await wait(1800);
const stage = await (await page.waitForSelector('[data-testid="stage"]'))?.boundingBox();
if (stage) await page.mouse.click(stage.x + stage.width * 0.25, stage.y + stage.height * 0.5);
await wait(900);
await shoot('layouts');

await page.click('nav a[href$="/sound"]');
await send(page, 'loudness.start', { bus: 'programme' });
await wait(1500);
await page.keyboard.press('PageDown');
await page.keyboard.press('PageDown');
await page.evaluate(() => document.querySelector<HTMLElement>('[data-strip="mic-presenter"] button')?.click());
await wait(1800);
await shoot('sound');
await send(page, 'sound.setSend', { from: 'mic-field', bus: 'bus-pa', on: true, levelDb: -3, anyway: true });
await page.keyboard.press('x');
await page.keyboard.press('o');
await wait(1200);
await shoot('sound-routing');
await send(page, 'sound.breakLoops');
await page.keyboard.press('x');

await send(page, 'replay.start');
await page.click('a[href$="/replay"]');
await wait(16_000);
await page.keyboard.press('KeyG');
await wait(2600);
await page.keyboard.press('KeyG');
await wait(1800);
await page.keyboard.down('Shift');
await page.keyboard.press('KeyG');
await page.keyboard.up('Shift');
const made = await pick(page, (s) => s.desk.show.replay.clips.map((c) => c.id));
await send(page, 'clip.edit', { clip: made[0], name: 'Maren’s double loop' });
await send(page, 'clip.set', { clips: [made[0]], rating: 4, tags: 'loop' });
await send(page, 'clip.edit', { clip: made[1], name: 'Tail over the pier' });
await send(page, 'clip.set', { clips: [made[1]], rating: 2, speed: 50, angleIds: ['line', 'shore'] });
await send(page, 'clip.edit', { clip: made[2], name: 'The whole gust' });
await send(page, 'deck.goTo', { deck: 1, frame: (await pick(page, (s) => s.frame)) - 180 });
await send(page, 'mark.in', { deck: 1 });
await page.keyboard.press('ArrowDown');
await page.keyboard.press('ArrowDown');
await page.keyboard.press('KeyD');
await page.keyboard.press('Enter');
await wait(1500);
await shoot('replay');
await page.keyboard.press('Escape');
await send(page, 'replay.stop');

await page.click('a[href$="/output"]');
await wait(2500);
await shoot('output');

await send(page, 'output.stopStream');
await send(page, 'output.stopRecording');
await until(() => pick(page, (s) => s.encoder.recording === null && s.encoder.stream === null), 'the outputs to end');

await page.keyboard.press('F4');
await page.waitForSelector('[data-region="entries"]');
await page.keyboard.type('osk');
await page.keyboard.press('Enter');
await page.keyboard.press('Enter');
await page.keyboard.press('Escape');
await passes(page, 40);
await shoot('graphics-fill');
await page.keyboard.down('Alt');
await page.keyboard.press('KeyS');
await page.keyboard.up('Alt');
await page.waitForSelector('[data-region="sheets"] [role=table]');
await send(page, 'lane.showPicture', { lane: 'lane-1', picture: 'standings-table' });
await send(page, 'lane.showPicture', { lane: 'lane-4', picture: 'news-line' });
await passes(page, 120);
await shoot('graphics-sheets');
await send(page, 'lane.hide', { lane: 'lane-1' });
await send(page, 'lane.hide', { lane: 'lane-4' });
await page.keyboard.down('Shift');
await page.keyboard.press('F4');
await page.keyboard.up('Shift');
await page.waitForSelector('[aria-label="Macros"]');
await page.keyboard.press('t');
await send(page, 'macro.run', { macro: 'launch-window' });
await passes(page, 70);
await shoot('automation');
await send(page, 'run.stop');
// The afternoon at the pier, as it is at ten to three.
await send(page, 'clock.day', { millis: (14 * 60 + 52) * 60_000 });
for (let i = 0; i < 2; i += 1) {
  await send(page, 'order.go');
  await passes(page, 60);
}
/** A page of the room Automation, by its key. */
const pageOf = async (key: 'KeyO' | 'KeyD' | 'KeyB') => {
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.down('Shift');
  await page.keyboard.press(key);
  await page.keyboard.up('Shift');
  await passes(page, 15);
};
await pageOf('KeyO');
await page.click('[data-item="item-2"] button[aria-pressed]');
await passes(page, 25);
await shoot('running-order');
await pageOf('KeyD');
await page.click('[data-device="second-wall"]');
await press(page, 'Send Wall layout 4');
await page.click('[data-message="wall-clock"]');
await passes(page, 25);
await shoot('devices');
await pageOf('KeyB');
await page.click('[data-button="phases-2"]');
await passes(page, 25);
await shoot('buttons');
await page.keyboard.down('Shift');
await page.keyboard.press('F2');
await page.keyboard.up('Shift');
await page.waitForSelector('[data-surface]');
await page.click('[data-surface="pier-wall"]');
await page.keyboard.press('KeyM');
await passes(page, 50);
await shoot('screens');
await send(page, 'order.reset');
await send(page, 'tableau.take', { tableau: 'heat-start' });
for (const lane of ['lane-1', 'lane-2', 'lane-3']) await send(page, 'lane.hide', { lane });
await page.keyboard.press('F4');
await page.waitForSelector('[data-region="graphics"]');
await page.keyboard.down('Alt');
await page.keyboard.press('KeyG');
await page.keyboard.up('Alt');
await page.waitForSelector('[data-testid="graphic-stage"]');
await page.select('select[aria-label="Graphic that is drawn"]', 'results');
await passes(page, 10);
await page.evaluate(() => [...document.querySelectorAll<HTMLElement>('[role=tree] button')].find((b) => b.textContent === 'Kite')?.click());
await passes(page, 30);
await shoot('graphics-draw');
for (const [name, title, seat] of [
  ['Vik Aasen', 'Judge, at home', 'Judge'],
  ['Liv Moe', 'Wind analyst, weather hut', 'Wind analyst'],
  ['Odd Rygh', 'Pilot', null],
] as const) {
  const seatId = await pick(page, (s) => s.desk.show.seats.map(({ id, name: of }) => [of, id]));
  const into = seatId.find(([of]) => of === seat)?.[1];
  await send(page, 'guest.add', { name, title, ...(into && { seat: into }) });
}
await send(page, 'audience.setUp', { what: 'comments' });
await page.keyboard.press('F8');
await page.waitForSelector('[data-region="people"]');
for (const button of await page.$$('::-p-xpath(//button[normalize-space(.)="Simulate"])')) await button.click();
const guests = await pick(page, (s) => s.desk.show.guests.list.map((g) => g.id));
await until(
  () => pick(page, (s) => Object.values(s.desk.air.guests.now).filter((g) => g.agreedAt !== null).length === 3),
  'the guests',
  60_000,
);
for (const guest of guests.slice(0, 2)) await send(page, 'guest.admit', { guest });
await send(page, 'cast.store', { name: 'Judge and wind' });
await send(page, 'picture.setNext', { picture: await pick(page, (s) => s.desk.show.guests.gatherings[0]!.id) });
await wait(6000);
for (const comment of await pick(page, ({ desk }) => desk.air.audience.inbox.slice(0, 2).map((c) => c.id)))
  await send(page, 'comment.queue', { comment });
await send(page, 'comment.show');
await wait(2000);
await page.evaluate(() => document.querySelector('[data-region="people"]')?.scrollTo(0, 0));
await shoot('guests');
await page.goto(app.url);
await wait(1500);
await shoot('shows');

await close();
await app.close();
process.exit(0);
