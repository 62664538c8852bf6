/** The sound desk on air: what is listened to, spoken over, measured and held down now. */
import { PROGRAMME_BUS, type Tap } from './document';

/** A channel or bus that the operator wants to hear alone. */
export interface Solo {
  id: string;
  /** After its fader, or before it. */
  tap: Tap;
}

/** Talkback while its key is held. */
export interface Talkback {
  /** Listeners who hear it. */
  listenerIds: string[];
}

/** A bus that was turned down because it howled. */
export interface Held {
  /** How far it is turned down, dB below 0. */
  db: number;
  /** Frame at which that happened. */
  frame: number;
  /** Frequency of the howl, Hz. */
  hz: number;
}

/** A measurement of loudness: integrated from `start` on. */
export interface LoudnessRun {
  start: number;
  /** Frame at which it was stopped; null while it runs. */
  stop: number | null;
}

export interface SoundAir {
  /** Bus that the operator listens to while nothing is soloed. */
  earsId: string;
  solos: Solo[];
  talkback: Talkback | null;
  /** By bus. */
  held: Record<string, Held>;
  /** By bus. */
  loudness: Record<string, LoudnessRun>;
  /** Devices that do not play or listen now, by identity, with the cause, as the engine has reported. */
  lostDevices: Record<string, string>;
}

export const createSoundAir = (): SoundAir => ({
  earsId: PROGRAMME_BUS,
  solos: [],
  talkback: null,
  held: {},
  loudness: {},
  lostDevices: {},
});
