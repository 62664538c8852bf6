/** What a panel has of sound, replay and files: what is told, and in plain words what is done where the show runs. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type MeterReading } from '#core/sound/meter';
import { type ShowExports, type ShowFiles, type ShowReplay, type ShowSound } from '../client/show-client';
import { type DeskState } from '../client/state';
import { type ExportTask } from '../replay/export-messages';

const AT_HOST = 'This is done at the window that runs the show.';
const refuse = (): Promise<never> => Promise.reject(new Error(AT_HOST));

/** Written by what the host tells. */
export interface PanelSound extends ShowSound {
  readonly store: StoreApi<DeskState>;
  readonly readings: Map<string, readonly [MeterReading, MeterReading]>;
}

export function panelSound(): PanelSound {
  return {
    store: createStore<DeskState>(() => ({ devices: [], loudness: {}, reduction: {}, lateMs: 0 })),
    readings: new Map(),
    clipped: new Set(),
    history: { of: () => [] },
    devices: { list: () => Promise.resolve([]) },
    watch: () => undefined,
    wake: () => Promise.resolve(),
    setListening: () => undefined,
    setEarsDevice: () => Promise.resolve(),
    listenAt: () => undefined,
  };
}

export const panelReplay = (): ShowReplay => ({ thumbnail: () => Promise.resolve(null) });

export const panelExports = (): ShowExports => ({
  store: createStore<{ tasks: ExportTask[] }>(() => ({ tasks: [] })),
  add: refuse,
  cancel: () => undefined,
});

export const panelFiles = (): ShowFiles => ({
  add: refuse,
  findWindows: refuse,
  findAreas: refuse,
  sheets: { follow: refuse, again: refuse },
  parts: { save: refuse, read: refuse, keep: refuse },
  asRun: () => Promise.resolve([]),
  recordings: { list: () => Promise.resolve([]), file: refuse, rename: refuse, remove: refuse },
});
