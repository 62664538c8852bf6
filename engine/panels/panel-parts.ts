/** What a panel has of sound, replay and files: what is told, and in plain words what is done where the show runs. */
import { type Ask } from '#core/panels/asks';
import { type QuietSound, quietSound, refuseAs } from '../client/quiet-parts';
import { type FileUse, type ShowFiles, type ShowReplay } from '../client/show-client';
import { type PanelListening } from './panel-listening';
import { type AsRunRow, type RecordingRow } from '../storage/db';
import { fromBase64 } from './base64';

export const AT_HOST = 'This is done at the window that runs the show.';
const refuse = refuseAs(AT_HOST);

export const panelSound = (listening: PanelListening): QuietSound => ({
  ...quietSound(),
  listening,
  setListening: (level) => listening.setLevel(level),
});

/** Asks the host; null where it does not answer, or may not. */
export type AskHost = (ask: Ask) => Promise<unknown>;

export const panelReplay = (ask: AskHost): ShowReplay => ({
  thumbnail: async (trackId, frame, width, exact = false) => {
    const text = await ask({ what: 'thumbnail', trackId, frame, width, exact });
    return typeof text === 'string' ? createImageBitmap(new Blob([fromBase64(text)], { type: 'image/jpeg' })).catch(() => null) : null;
  },
});

const listOf = <T>(value: unknown): T[] => (Array.isArray(value) ? (value as T[]) : []);

/** What the host has found, or an error where it has found nothing. */
async function found<T>(answer: Promise<unknown>): Promise<T> {
  const value = await answer;
  if (value === null) throw new Error('The window that runs the show did not find it.');
  return value as T;
}

export const panelFiles = (ask: AskHost, upload: (file: File, use?: FileUse) => Promise<unknown>): ShowFiles => ({
  add: (file) => upload(file) as ReturnType<ShowFiles['add']>,
  keep: (file, as) => upload(file, as) as ReturnType<ShowFiles['keep']>,
  findWindows: (assetId) => found(ask({ what: 'windows', assetId })),
  findAreas: (assetId) => found(ask({ what: 'areas', assetId })),
  sheets: { follow: refuse, again: refuse },
  parts: { save: refuse, read: refuse, keep: refuse },
  asRun: async () => listOf<AsRunRow>(await ask({ what: 'as-run' })),
  recordings: { list: async () => listOf<RecordingRow>(await ask({ what: 'recordings' })), file: refuse, rename: refuse, remove: refuse },
});
