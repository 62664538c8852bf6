/** What the browser tests do with replay: where decks stand, what they show, and what is recorded. */
import { type Page } from 'puppeteer-core';
import { expect } from 'vitest';
import { type DeckNumber } from '#core/replay/air';
import { deckPlace } from '#core/replay/deck';
import { type Desk } from '#core/desk/air';
import { type App } from './browser';
import { keepOnly, openDemo, pick, press, send, until } from './desk';
import { type Burned, deckShows } from './strips';

/** Opens the demo's replay room while its four angles are recorded. */
export async function openReplay(page: Page, app: App): Promise<void> {
  await openDemo(page, app);
  await keepOnly(page, 'shore', 'line', 'mast', 'desk');
  // Four angles and a deck fill two cores at full size; of every picture here only its burned-in time is read.
  await send(page, 'replay.set', { height: 180, megabits: 1 });
  await send(page, 'replay.start');
  await press(page, 'Replay');
  await page.waitForSelector('canvas[aria-label="Picture of deck 1"]');
  await until(() => pick(page, (s) => s.replay?.tracks.filter((t) => t.frames > 150).length === 4), 'the angles to be recorded', 30_000);
}

export const deskNow = (page: Page): Promise<{ desk: Desk; frame: number }> => pick(page, (s) => ({ desk: s.desk, frame: s.frame }));

/** Where a deck stands by show and air. */
export async function stands(page: Page, deck: DeckNumber): Promise<{ camera: string | null; frame: number }> {
  const {
    desk: { show, air },
    frame,
  } = await deskNow(page);
  const place = deckPlace(air.replay.decks[deck], air.replay, frame, show.rate);
  return { camera: place.angleId, frame: Math.floor(place.position) };
}

/** Stamp of what an angle has recorded for a frame, microseconds; null in a gap. Waits for decks that are busy. */
export const probe = async (page: Page, angle: string, frame: number): Promise<number | null> =>
  (await until(() => page.evaluate((id, f) => window.bivocaHost?.replay.probe(id, f), angle, frame), 'the decks to answer')).stamp;

/** What an angle has recorded for each frame of a span, −1 in a gap: the camera itself may leave one out on a busy machine. */
export async function recorded(page: Page, angle: string, from: number, to: number): Promise<number[]> {
  const found: number[] = [];
  for (let frame = from; frame < to; frame += 1) found.push(Math.round(((await probe(page, angle, frame)) ?? -40_000) / 40_000));
  return found;
}

/**
 * The first frame of a span of so many frames that these angles have recorded: the newest that is written whole. Encoders of a busy
 * machine may be seconds behind the present, and what they still have to write is no gap.
 */
export async function writtenSpan(page: Page, angles: readonly string[], frames: number): Promise<number> {
  const newest = () =>
    pick(page, (s) => Object.fromEntries(Object.entries(s.replay?.runs ?? {}).map(([id, runs]) => [id, runs.at(-1)?.to ?? 0])));
  const began = await newest();
  // A run is told of in steps: once it has gone on, all before is there.
  await until(
    async () => {
      const now = await newest();
      return angles.every((id) => (now[id] ?? 0) - (began[id] ?? 0) > 500_000);
    },
    'the angles to be recorded further',
    30_000,
  );
  const last = Math.min(...angles.map((id) => began[id] ?? 0));
  return Math.floor(last / 40_000) - frames - 5;
}

/** Waits until the monitor shows the very frame that is recorded for where the deck stands: pixels against stamps. */
export async function agrees(page: Page, deck: DeckNumber): Promise<void> {
  const { camera, frame } = await stands(page, deck);
  const [last = NaN] = await recorded(page, camera ?? '', frame, frame + 1);
  // The camera itself may have left frames out on a busy machine: the last one before is shown then, or the plate in a gap.
  expect(frame - last).toBeGreaterThanOrEqual(0);
  const wanted = last < 0 ? null : { camera, frame: last };
  let seen: Burned = null;
  await until(
    async () => JSON.stringify((seen = await deckShows(page, deck))) === JSON.stringify(wanted),
    'the deck to show its frame',
    4000,
  ).catch(() => undefined);
  expect(seen).toEqual(wanted);
}
