/** Puts a show together again that was cut off: by a reload, a crash, or a kill. */
import { type Air, createAir } from '#core/desk/air';
import { readAir } from '#core/desk/migrate';
import { findPicture } from '#core/desk/pictures';
import { resumedAir } from '#core/desk/resume';
import { SHOW_VERSION } from '#core/desk/version';
import { formatDuration } from '#core/time/duration';
import { db, type RecordingRow, type ShowRow } from '../storage/db';
import { folder } from '../storage/opfs';

/** Air as it can go on, and what the crew should know. `stored` is air at the last act; a transition of an older `version` ends at once. */
export function recoverAir(
  row: Pick<ShowRow, 'show' | 'openSince'>,
  stored: Air | null,
  version = SHOW_VERSION,
): { air: Air; notices: string[] } {
  if (!stored) return { air: createAir(row.show), notices: [] };
  const resumed = resumedAir(row.show, readAir(stored, version, row.show));
  const air = version === SHOW_VERSION ? resumed : { ...resumed, transition: null };
  const notices: string[] = [];
  if (stored.recording) notices.push('The recording was interrupted. What was recorded is kept; start recording again to go on.');
  if (stored.stream) notices.push('The stream was interrupted. Start it again when you are ready.');
  if (air.replay.recording)
    notices.push('The angles were not recorded while the show was closed. Recording goes on; the gap is seen on the timeline.');
  const onAir = findPicture(row.show, air.onAirId);
  if (row.openSince !== null && onAir) notices.unshift(`The show was interrupted. ${onAir.name} is on air again.`);
  return { air, notices };
}

/** Seconds that a cut-off file really plays; 0 when nothing of it does. */
async function playableSeconds(row: RecordingRow): Promise<{ seconds: number; bytes: number }> {
  try {
    const handle = await (await folder('recordings')).getFileHandle(`${row.id}.${row.extension}`);
    const file = await handle.getFile();
    // Only after a crash is it wanted, and it is large.
    const { ALL_FORMATS, BlobSource, Input } = await import('mediabunny');
    const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
    const seconds = await input.computeDuration().catch(() => 0);
    input.dispose();
    return { seconds, bytes: file.size };
  } catch {
    return { seconds: 0, bytes: 0 };
  }
}

/** Marks recordings of the show that never ended as cut off, with their true length. Returns what to tell. */
export async function recoverRecordings(showId: string): Promise<string[]> {
  const open = await db.recordings
    .where('state')
    .equals('recording')
    .filter((row) => row.showId === showId)
    .toArray();
  return Promise.all(
    open.map(async (row) => {
      const { seconds, bytes } = await playableSeconds(row);
      await db.recordings.update(row.id, { state: 'cut', seconds, bytes, note: 'cut off' });
      return `“${row.name}” was cut off and plays for ${formatDuration(seconds)}.`;
    }),
  );
}
