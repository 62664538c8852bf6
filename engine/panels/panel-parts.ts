/** What a panel has of sound, replay and files: what is told, and in plain words what is done where the show runs. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type Ask } from '#core/panels/asks';
import { type MeterReading } from '#core/sound/meter';
import {
  type FileUse,
  type GuestsState,
  type ShowExports,
  type ShowAudience,
  type AudienceState,
  type ShowGuests,
  type ShowWays,
  type ShowFiles,
  type ShowReplay,
  type ShowSound,
} from '../client/show-client';
import { type DeskState } from '../client/state';
import { type PanelListening } from './panel-listening';
import { type ExportTask } from '../replay/export-messages';
import { type AsRunRow, type RecordingRow } from '../storage/db';
import { fromBase64 } from './base64';

const AT_HOST = 'This is done at the window that runs the show.';
const refuse = (): Promise<never> => Promise.reject(new Error(AT_HOST));

/** Written by what the host tells. */
export interface PanelSound extends ShowSound {
  readonly store: StoreApi<DeskState>;
  readonly readings: Map<string, readonly [MeterReading, MeterReading]>;
}

export function panelSound(listening: PanelListening): PanelSound {
  return {
    listening,
    store: createStore<DeskState>(() => ({ devices: [], loudness: {}, reduction: {}, lateMs: 0 })),
    readings: new Map(),
    clipped: new Set(),
    history: { of: () => [] },
    devices: { list: () => Promise.resolve([]) },
    watch: () => undefined,
    wake: () => Promise.resolve(),
    setListening: (level) => listening.setLevel(level),
    setEarsDevice: () => Promise.resolve(),
    listenAt: () => undefined,
  };
}

/** Asks the host; null where it does not answer, or may not. */
export type AskHost = (ask: Ask) => Promise<unknown>;

export const panelReplay = (ask: AskHost): ShowReplay => ({
  thumbnail: async (trackId, frame, width, exact = false) => {
    const text = await ask({ what: 'thumbnail', trackId, frame, width, exact });
    return typeof text === 'string' ? createImageBitmap(new Blob([fromBase64(text)], { type: 'image/jpeg' })).catch(() => null) : null;
  },
});

/** Who is there, every panel sees. */
export const panelGuests = (): ShowGuests & { store: StoreApi<GuestsState> } => ({
  store: createStore<GuestsState>(() => ({ figures: {}, words: [] })),
  hear: () => false,
});

/** Links are secrets of the host. */
export const panelWays = (): ShowWays => ({ store: createStore(() => ({ ways: [] })), make: refuse, withdraw: refuse });

export const panelAudience = (): ShowAudience & { store: StoreApi<AudienceState> } => ({
  store: createStore<AudienceState>(() => ({ people: 0, passed: 0 })),
});

export const panelExports = (): ShowExports => ({
  store: createStore<{ tasks: ExportTask[] }>(() => ({ tasks: [] })),
  add: refuse,
  cancel: () => undefined,
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
