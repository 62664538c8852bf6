/** The index of replay segments in the database, and their files. */
import { type StoredSegment } from '../replay/messages';
import { scanSegment, type Scanned } from '../replay/segment-format';
import { SOUND_GROUP_MICROS } from '../replay/segment-writer';
import { db } from './db';
import { folder, openForReading, removeFile } from './opfs';

/** Notes a segment at its beginning, so that a crash does not lose it. */
export const addSegment = (showId: string, segment: StoredSegment): Promise<unknown> =>
  db.replaySegments.put({ ...segment, showId, state: 'open' });

/** Notes a segment whose file is complete. An empty one goes. */
export async function finishSegment(showId: string, segment: StoredSegment): Promise<void> {
  if (segment.groups.length === 0) return dropSegments([segment.id]);
  await db.replaySegments.put({ ...segment, showId, state: 'done' });
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

/** Reads a complete segment. */
export interface SegmentReader {
  read(from: number, to: number): Promise<Uint8Array<ArrayBuffer>>;
  close(): void;
}

/**
 * Opens a complete segment for reading. In a worker a handle reads at once; where the browser cannot share one for reading,
 * the file is read the slower way. @throws DOMException NotFoundError when it is gone.
 */
export async function openSegment(id: string): Promise<SegmentReader> {
  const entry = await (await folder('replay')).getFileHandle(id);
  const handle = await openForReading(entry);
  if (!handle) {
    const file = await entry.getFile();
    return { read: async (from, to) => new Uint8Array(await file.slice(from, to).arrayBuffer()), close: () => undefined };
  }
  return {
    read: (from, to) => {
      const bytes = new Uint8Array(Math.max(0, to - from));
      return Promise.resolve(bytes.subarray(0, handle.read(bytes, { at: from })));
    },
    close: () => handle.close(),
  };
}

/** Segments of a show that are complete on disk, in order of time. */
export async function storedSegments(showId: string): Promise<StoredSegment[]> {
  const rows = await db.replaySegments
    .where('showId')
    .equals(showId)
    .filter((row) => row.state === 'done')
    .toArray();
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
      return finished(showId, segment.id, found);
    }),
  );
  return [...segments.filter((s) => s !== null), ...(await lostSegments(showId))].sort((a, b) => a.from - b.from);
}

/** Notes what a scan has found of a file. */
async function finished(showId: string, id: string, { owner, ...found }: Scanned): Promise<StoredSegment> {
  const segment: StoredSegment = { id, trackId: owner.trackId, ...found };
  await finishSegment(showId, segment);
  return segment;
}

/** Files of the show that no row tells of: the database had refused, as with a full disk. */
async function lostSegments(showId: string): Promise<StoredSegment[]> {
  const known = new Set(await db.replaySegments.toCollection().primaryKeys());
  const found: StoredSegment[] = [];
  for await (const name of (await folder('replay')).keys()) {
    if (known.has(name)) continue;
    const scanned = await segmentFile(name)
      .then(async (file) => scanSegment(new Uint8Array(await file.arrayBuffer()), SOUND_GROUP_MICROS))
      .catch(() => null);
    if (scanned?.owner.showId === showId) found.push(await finished(showId, name, scanned));
  }
  return found;
}

/** Removes everything that shows of the past have recorded. */
export async function dropReplayOf(showIds: readonly string[]): Promise<void> {
  const ids = await db.replaySegments
    .where('showId')
    .anyOf([...showIds])
    .primaryKeys();
  await dropSegments(ids);
}
