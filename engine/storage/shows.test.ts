import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { createShow, createSource } from '#core/desk/create';
import { type Show } from '#core/desk/show';
import { type FakeDisk, useFakeDisk } from '#tests/support/fake-disk';
import { openAsset, storeAsset } from './assets';
import { db, type RecordingRow } from './db';
import { deleteRecording, listRecordings, recordingFile, renameRecording } from './recordings';
import { deleteShow, duplicateShow, listShows, newShow, renameShow, restoreShow, storeShow, sweep } from './shows';

const RASTER = { width: 64, height: 36 };
const RATE = { num: 25, den: 1 };
const DAY = 24 * 3600 * 1000;

let disk: FakeDisk;

beforeEach(async () => {
  disk = useFakeDisk();
  await Promise.all([db.shows, db.assets, db.recordings, db.replaySegments].map((table) => table.clear()));
});

afterEach(() => {
  vi.unstubAllGlobals();
});

/** A show with a still of these bytes. */
async function showWith(name: string, assetId: string): Promise<Show> {
  const show = createShow(name, name, RASTER, RATE);
  show.sources.push(createSource(show, 'still', 'Still', { kind: 'still', assetId, fileName: 'still.png', hasAlpha: false }));
  await storeShow(show);
  return show;
}

const names = async () => (await listShows()).map((s) => s.name);

describe('the list of shows', () => {
  it('has the last opened first, with the size of the document and its files', async () => {
    const asset = await storeAsset(new Blob([new Uint8Array(5000)]), 'still.png', 'image/png');
    await showWith('Regatta', asset);
    const id = await newShow('Harbour talk', RASTER, RATE);
    await db.shows.update('Regatta', { openedAt: Date.now() + 1000 });
    const [regatta, talk] = await listShows();
    expect([regatta?.name, talk?.name, talk?.id]).toEqual(['Regatta', 'Harbour talk', id]);
    // But for a few characters the documents differ by one source, and one has a file.
    expect((regatta?.size ?? 0) - (talk?.size ?? 0)).toBeGreaterThan(5000);
    expect((regatta?.size ?? 0) - (talk?.size ?? 0)).toBeLessThan(7500);
  });

  it('renames a show and the document in it, and copies one under a name that says so', async () => {
    const id = await newShow('Regata', RASTER, RATE);
    await renameShow(id, 'Regatta');
    await renameShow('never was', 'Nobody');
    const copy = await duplicateShow(id);
    expect(copy).not.toBe(id);
    const rows = await db.shows.toArray();
    expect(rows.map((r) => [r.name, r.show.name, r.show.id === r.id]).sort((a, b) => String(a[0]).length - String(b[0]).length)).toEqual([
      ['Regatta', 'Regatta', true],
      ['Regatta (copy)', 'Regatta (copy)', true],
    ]);
    await expect(duplicateShow('never was')).rejects.toThrow('This show is no longer in the list.');
  });

  it('brings a deleted show back for a day; then it goes with its replay and the files nobody else uses', async () => {
    const [shared, own] = [
      await storeAsset(new Blob(['shared']), 'a.png', 'image/png'),
      await storeAsset(new Blob(['own']), 'b.png', 'image/png'),
    ];
    const kept = await showWith('Kept', shared);
    const gone = await showWith('Gone', own);
    gone.sources.push(createSource(gone, 'second', 'Second', { kind: 'still', assetId: shared, fileName: 'a.png', hasAlpha: false }));
    await db.shows.update('Gone', { show: gone });
    await db.replaySegments.add({
      id: 'segment',
      showId: 'Gone',
      trackId: 'line',
      from: 0,
      to: 1,
      bytes: 1,
      frames: 1,
      state: 'done',
      config: { kind: 'picture', codec: 'avc1', width: 2, height: 2, description: '' },
      groups: [],
    });
    disk.put('replay', 'segment', new Uint8Array(9));
    await deleteShow('Gone');
    expect(await names()).toEqual(['Kept']);
    await sweep(Date.now() + DAY / 2);
    await restoreShow('Gone');
    expect((await names()).sort()).toEqual(['Gone', 'Kept']);
    await deleteShow('Gone');
    await sweep(Date.now() + DAY + 1000);
    expect((await db.shows.toArray()).map((r) => r.id)).toEqual([kept.id]);
    expect(disk.namesIn('assets')).toEqual([shared]);
    expect((await db.assets.toArray()).map((a) => a.id)).toEqual([shared]);
    expect(disk.namesIn('replay')).toEqual([]);
    expect(await db.replaySegments.count()).toBe(0);
  });

  it('leaves files alone that were only just added: their show is not stored yet', async () => {
    const asset = await storeAsset(new Blob(['new']), 'new.png', 'image/png');
    await sweep();
    expect(await (await openAsset(asset)).text()).toBe('new');
  });
});

describe('files that shows use', () => {
  it('come back with their name and type, byte by byte', async () => {
    const bytes = Uint8Array.from({ length: 3000 }, (_, i) => i % 251);
    const id = await storeAsset(new Blob([bytes]), 'pier.webp', 'image/webp', 'mine');
    const file = await openAsset(id);
    expect([id, file.name, file.type, file.size]).toEqual(['mine', 'pier.webp', 'image/webp', 3000]);
    expect(new Uint8Array(await file.arrayBuffer())).toEqual(bytes);
    await expect(openAsset('never was')).rejects.toThrow('no such file');
  });

  it('that do not fit are refused with both sizes, and nothing is left behind', async () => {
    disk.quota = 3e6;
    await expect(storeAsset(new Blob([new Uint8Array(4e6)]), 'long.mp4', 'video/mp4')).rejects.toThrow(
      'long.mp4 does not fit: it needs 4 MB, and 3 MB are free.',
    );
    expect([disk.namesIn('assets'), await db.assets.count()]).toEqual([[], 0]);
  });
});

describe('the list of recordings', () => {
  const row = (id: string, startedAt: number, state: RecordingRow['state'] = 'done'): RecordingRow => ({
    id,
    showId: 'show',
    name: `Take ${id}`,
    extension: 'wav',
    startedAt,
    state,
    bytes: 3,
    seconds: 1,
    note: '',
  });

  it('has the newest first; a file is saved under the name the crew gave it', async () => {
    await db.recordings.bulkAdd([row('one', 1), row('two', 2)]);
    disk.put('recordings', 'one.wav', new Uint8Array([1, 2, 3]));
    expect((await listRecordings()).map((r) => r.id)).toEqual(['two', 'one']);
    await renameRecording('one', 'Harbour');
    const file = await recordingFile((await db.recordings.get('one')) as RecordingRow);
    expect([file.name, file.type, file.size]).toEqual(['Harbour.wav', 'audio/wav', 3]);
  });

  it('deletes file and line, also when the file has gone before, but never what is being written', async () => {
    await db.recordings.bulkAdd([row('one', 1), row('gone', 2), row('running', 3, 'recording')]);
    disk.put('recordings', 'one.wav', new Uint8Array(3));
    for (const id of ['one', 'gone']) await deleteRecording((await db.recordings.get(id)) as RecordingRow);
    await expect(deleteRecording((await db.recordings.get('running')) as RecordingRow)).rejects.toThrow(
      'This recording is still running. Stop it first.',
    );
    expect((await listRecordings()).map((r) => r.id)).toEqual(['running']);
    expect(disk.namesIn('recordings')).toEqual([]);
  });
});
