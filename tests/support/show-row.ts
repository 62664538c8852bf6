/** A show as it is stored, for tests of what opens it. */
import { type ShowRow } from '#engine/storage/db';
import { sampleDesk } from './sample-show';

export const showRow = (change: Partial<ShowRow> = {}): ShowRow => ({
  id: 'show',
  name: 'Sample',
  show: sampleDesk().show,
  epoch: 0,
  createdAt: 0,
  openedAt: 0,
  savedAt: 0,
  deletedAt: null,
  thumbnail: null,
  openSince: null,
  ...change,
});
