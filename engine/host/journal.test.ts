import { beforeEach, describe, expect, it, vi } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { db } from '../storage/db';
import { storeShow } from '../storage/shows';
import { AsRunLog } from './as-run-log';
import { Journal } from './journal';

beforeEach(async () => {
  await db.shows.clear();
  await db.asRun.clear();
});

describe('the journal of a show', () => {
  it('writes the newest state, one write at a time, and knows when all is written', async () => {
    const desk = sampleDesk();
    await storeShow(desk.show);
    const errors: string[] = [];
    const journal = new Journal('show', (message) => errors.push(message));
    const put = vi.spyOn(db.airs, 'put');
    let latest = desk;
    for (const [frame, source] of (['b', 'c', 'a', 'b', 'c'] as const).entries()) {
      latest = must(latest, 'picture.cut', { picture: source }, frame);
      journal.save(latest, frame);
    }
    await journal.settled();
    expect(put).toHaveBeenCalledTimes(1);
    expect(await db.airs.get('show')).toMatchObject({ air: { onAirId: 'c' }, savedFrame: 4 });
    // What comes while it writes is not forgotten.
    journal.save(must(latest, 'picture.cut', { picture: 'a' }, 5), 5);
    await new Promise((resolve) => setTimeout(resolve, 25));
    journal.save(must(latest, 'picture.cut', { picture: 'b' }, 6), 6);
    await journal.settled();
    expect(await db.airs.get('show')).toMatchObject({ air: { onAirId: 'b' }, savedFrame: 6 });
    expect(errors).toEqual([]);
    put.mockRestore();
  });

  it('says what the database answers when it refuses, and goes on with the next change', async () => {
    const desk = sampleDesk();
    await storeShow(desk.show);
    const errors: string[] = [];
    const journal = new Journal('show', (message) => errors.push(message));
    const put = vi.spyOn(db.airs, 'put').mockRejectedValueOnce(new Error('the disk is full'));
    journal.save(desk, 1);
    await journal.settled();
    expect(errors).toEqual(['the disk is full']);
    journal.save(desk, 2);
    await journal.settled();
    expect(await db.airs.get('show')).toMatchObject({ savedFrame: 2 });
    put.mockRestore();
  });
});

describe('the as-run log', () => {
  const lines = async () =>
    (await db.asRun.toArray()).map(({ place, what, startFrame, endFrame }) => `${place} ${what} ${startFrame}–${endFrame}`);

  it('has a line for everything from its frame on air to its frame off it', async () => {
    const log = new AsRunLog('show');
    let desk = sampleDesk();
    log.tick(desk, 10);
    log.tick(desk, 11);
    desk = must(desk, 'picture.cut', { picture: 'b' }, 25);
    log.tick(desk, 25);
    desk = must(desk, 'picture.cut', { picture: 'a' }, 60);
    log.tick(desk, 60);
    await vi.waitFor(async () => expect((await lines()).filter((l) => l.endsWith('–null'))).toHaveLength(1));
    const all = await lines();
    expect(all.map((l) => l.replace(/^\S+ /, ''))).toEqual(['Camera a 10–25', 'Camera b 25–60', 'Camera a 60–null']);
  });

  it('ends what an earlier window left open, and nothing of other shows', async () => {
    await db.asRun.bulkAdd([
      { showId: 'show', place: 'programme', what: 'Camera a', startedAt: 1, startFrame: 0, endedAt: null, endFrame: null },
      { showId: 'show', place: 'programme', what: 'Camera b', startedAt: 1, startFrame: 0, endedAt: 5, endFrame: 4 },
      { showId: 'another', place: 'programme', what: 'Camera c', startedAt: 1, startFrame: 0, endedAt: null, endFrame: null },
    ] as never);
    await new AsRunLog('show').closeStale(99, 1234);
    expect((await db.asRun.toArray()).map((r) => [r.endFrame, r.endedAt])).toEqual([
      [99, 1234],
      [4, 5],
      [null, null],
    ]);
  });
});
