/** The list of recordings in this browser. */
import { db, type RecordingRow } from './db';
import { folder, removeFile } from './opfs';

/** Recordings, the newest first. */
export const listRecordings = (): Promise<RecordingRow[]> => db.recordings.orderBy('startedAt').reverse().toArray();

/** The file of a recording, named as the crew named it. @throws DOMException NotFoundError when it is gone. */
export async function recordingFile(row: RecordingRow): Promise<File> {
  const handle = await (await folder('recordings')).getFileHandle(`${row.id}.${row.extension}`);
  const file = await handle.getFile();
  return new File([file], `${row.name}.${row.extension}`, {
    type: { mp4: 'video/mp4', webm: 'video/webm', wav: 'audio/wav' }[row.extension],
  });
}

export const renameRecording = (id: string, name: string): Promise<unknown> => db.recordings.update(id, { name });

/** Deletes a recording for good. Refused while it is being written. */
export async function deleteRecording(row: RecordingRow): Promise<void> {
  if (row.state === 'recording') throw new Error('This recording is still running. Stop it first.');
  await removeFile('recordings', `${row.id}.${row.extension}`);
  await db.recordings.delete(row.id);
}
