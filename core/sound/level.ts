/** Levels in decibels and as factors. */
import { FADER_FLOOR_DB } from '../show/source';

/** Amplitude factor of a level in dB: 10^(dB/20). */
export const dbToGain = (db: number): number => 10 ** (db / 20);

/** Level in dB of an amplitude factor; −Infinity for 0. */
export const gainToDb = (gain: number): number => 20 * Math.log10(Math.abs(gain));

/** Factor of a fader: silence at the bottom of its travel. */
export const faderGain = (db: number): number => (db <= FADER_FLOOR_DB ? 0 : dbToGain(db));
