import Dexie from 'dexie';
import { expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { Database } from './db';

it('a database of before gives up air from its shows, and nothing is lost', async () => {
  const { show, air } = must(sampleDesk(), 'picture.cut', { picture: 'b' }, 5);
  const old = new Dexie('before');
  old.version(1).stores({
    shows: 'id, openedAt, deletedAt',
    assets: 'id',
    recordings: 'id, showId, startedAt, state',
    asRun: '++id, showId, [showId+startedAt]',
  });
  old.version(2).stores({ replaySegments: 'id, showId, [showId+trackId], state' });
  const row = {
    id: 'show',
    name: 'Sample',
    show,
    epoch: 5,
    createdAt: 1,
    openedAt: 2,
    savedAt: 3,
    deletedAt: null,
    thumbnail: null,
    openSince: 4,
  };
  await old.table('shows').bulkPut([
    { ...row, air, savedFrame: 777 },
    { ...row, id: 'new', air: null, savedFrame: 0 },
  ]);
  old.close();
  const database = new Database('before');
  expect(await database.shows.get('show')).toEqual(row);
  expect(await database.airs.toArray()).toEqual([{ showId: 'show', air, savedFrame: 777 }]);
  database.close();
});
