/** The files of a show that runs in this window: they lie in this browser's storage. */
import { type ShowFiles } from '../client/show-client';
import { findWindowsInAsset } from '../picture/find-windows';
import { type SheetControl } from './sheet-control';
import { addFile } from '../storage/assets';
import { db } from '../storage/db';
import { deleteRecording, listRecordings, recordingFile, renameRecording } from '../storage/recordings';

export const showFiles = (showId: string, sheets: SheetControl): ShowFiles => ({
  add: addFile,
  findWindows: findWindowsInAsset,
  sheets: {
    follow: (sheetId, handle) => sheets.followFile(sheetId, handle),
    again: (sheetId) => sheets.again(sheetId),
  },
  asRun: () => db.asRun.where('showId').equals(showId).sortBy('startedAt'),
  recordings: {
    list: listRecordings,
    file: recordingFile,
    rename: async (id, name) => void (await renameRecording(id, name)),
    remove: deleteRecording,
  },
});
