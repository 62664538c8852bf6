/** The index of replay segments in the database, and their files. */
import { type StoredSegment } from '../replay/messages';
import { scanSegment } from '../replay/segment-format';
import { SOUND_GROUP_MICROS } from '../replay/segment-writer';
import { db } from './db';
import { folder, removeFile } from './opfs';

/** Notes a segment at its beginning, so that a crash does not lose it. */
export const addSegment = (showId: string, segment: StoredSegment): Promise<unknown> => db.replaySegments.put({ ...segment, showId, state: 'open' });

/** Notes a segment whose file is complete. An empty one goes. */
export async function finishSegment(segment: StoredSegment): Promise<void> {
  if (segment.groups.length === 0) return dropSegments([segment.id]);
  const { from, to, bytes, frames, groups, config } = segment;
  await db.replaySegments.update(segment.id, { from, to, bytes, frames, groups, config, state: 'done' });
}

/** Removes segments for good. */
export async function dropSegments(ids: readonly string[]): Promise<void> {
  await db.replaySegments.bulkDelete([...ids]);
  await Promise.all(ids.map((id) => removeFile('replay', id).catch(() => undefined)));
}

/** The bytes of a segment. @throws DOMException NotFoundError when they are gone. */
export async function segmentFile(id: string): Promise<File> {
  return (await (await folder('replay')).getFileHandle(id)).getFile();
}

/** Segments of a show that are complete on disk, in order of time. */
export async function storedSegments(showId: string): Promise<StoredSegment[]> {
  const rows = await db.replaySegments.where('showId').equals(showId).filter((row) => row.state === 'done').toArray();
  return rows.map(({ state: _, showId: __, ...segment }) => segment).sort((a, b) => a.from - b.from);
}

/** All segments of a show; those that a crash has cut off are read anew, up to their last whole packet. */
export async function recoverSegments(showId: string): Promise<StoredSegment[]> {
  const rows = await db.replaySegments.where('showId').equals(showId).toArray();
  const segments = await Promise.all(
    rows.map(async ({ state, showId: _, ...segment }): Promise<StoredSegment | null> => {
      if (state === 'done') return segment;
      const found = await segmentFile(segment.id)
        .then(async (file) => scanSegment(new Uint8Array(await file.arrayBuffer()), SOUND_GROUP_MICROS))
        .catch(() => null);
      if (!found) {
        await dropSegments([segment.id]);
        return null;
      }
      const whole = { ...segment, ...found };
      await finishSegment(whole);
      return whole;
    }),
  );
  return segments.filter((s) => s !== null).sort((a, b) => a.from - b.from);
}

/** Removes everything that shows of the past have recorded. */
export async function dropReplayOf(showIds: readonly string[]): Promise<void> {
  const ids = await db.replaySegments.where('showId').anyOf([...showIds]).primaryKeys();
  await dropSegments(ids);
}
