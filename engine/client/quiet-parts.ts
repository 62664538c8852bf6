/** Parts of a client that know nothing of themselves: for clients that are told what they show, and for one of a show that does not run yet. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type MeterReading } from '#core/sound/meter';
import { type ExportTask } from '../replay/export-messages';
import {
  type AudienceState,
  type GuestsState,
  type ShowAudience,
  type ShowExports,
  type ShowGuests,
  type ShowSound,
  type ShowWays,
} from './show-client';
import { type DeskState } from './state';

/** Refuses whatever is asked, in these words. */
export const refuseAs = (why: string) => (): Promise<never> => Promise.reject(new Error(why));

/** Written by whoever is told. */
export interface QuietSound extends ShowSound {
  readonly store: StoreApi<DeskState>;
  readonly readings: Map<string, readonly [MeterReading, MeterReading]>;
}

export const quietSound = (): QuietSound => ({
  listening: null,
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
});

export const quietGuests = (): ShowGuests & { store: StoreApi<GuestsState> } => ({
  store: createStore<GuestsState>(() => ({ figures: {}, words: [] })),
  hear: () => false,
});

/** Links are secrets of the host. */
export const quietWays = (why: string): ShowWays => ({
  store: createStore(() => ({ ways: [] })),
  make: refuseAs(why),
  withdraw: refuseAs(why),
});

export const quietAudience = (): ShowAudience & { store: StoreApi<AudienceState> } => ({
  store: createStore<AudienceState>(() => ({ people: 0, passed: 0 })),
});

export const quietExports = (why: string): ShowExports => ({
  store: createStore<{ tasks: ExportTask[] }>(() => ({ tasks: [] })),
  add: refuseAs(why),
  cancel: () => undefined,
});
