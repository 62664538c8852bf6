/** The files of a show that runs in this window: they lie in this browser's storage. */
import { type Show } from '#core/desk/show';
import { classOf } from '#core/parts/kinds';
import { subsetOf } from '#core/parts/subset';
import { type KeptFile, type ShowFiles } from '../client/show-client';
import { findAreasInAsset, findWindowsInAsset } from '../picture/find-shapes';
import { type SheetControl } from './sheet-control';
import { addFile, storeAsset, storeFont, storeImage } from '../storage/assets';
import { db } from '../storage/db';
import { keepAssets, packShow, readShowFile } from '../storage/show-file';
import { deleteRecording, listRecordings, recordingFile, renameRecording } from '../storage/recordings';

/** `show` gives the show as it is now. */
export const showFiles = (showId: string, sheets: SheetControl, show: () => Show): ShowFiles => ({
  add: addFile,
  keep: async (file, as): Promise<KeptFile> => {
    if (as === 'font') return storeFont(file);
    return { assetId: as === 'image' ? await storeImage(file) : await storeAsset(file, file.name, 'application/json') };
  },
  findWindows: findWindowsInAsset,
  findAreas: findAreasInAsset,
  sheets: {
    follow: (sheetId, handle) => sheets.followFile(sheetId, handle),
    again: (sheetId) => sheets.again(sheetId),
  },
  parts: {
    save: (keep, output) => {
      const { show: part } = subsetOf(show(), keep, { output });
      return packShow(part, `${part.name} (parts)`);
    },
    read: readShowFile,
    keep: (assets, things) =>
      keepAssets(
        assets,
        things.map(({ kind, value }) => ({ of: classOf(kind), value })),
      ),
  },
  asRun: () => db.asRun.where('showId').equals(showId).sortBy('startedAt'),
  recordings: {
    list: listRecordings,
    file: recordingFile,
    rename: async (id, name) => void (await renameRecording(id, name)),
    remove: deleteRecording,
  },
});
