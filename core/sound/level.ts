/** Levels in decibels and as factors, and the travel of a fader. */

/** Lowest fader position, dB; at it the channel is silent. */
export const FADER_FLOOR_DB = -60;
export const FADER_TOP_DB = 12;

/** 20 dB are a factor of ten: the natural logarithm of one dB. The audio thread asks for this thousands of times a second. */
const NEPERS = Math.LN10 / 20;

/** Amplitude factor of a level in dB: 10^(dB/20). */
export const dbToGain = (db: number): number => Math.exp(db * NEPERS);

/** Level in dB of an amplitude factor; −Infinity for 0. */
export const gainToDb = (gain: number): number => 20 * Math.log10(Math.abs(gain));

/** Factor of a fader: silence at the bottom of its travel. */
export const faderGain = (db: number): number => (db <= FADER_FLOOR_DB ? 0 : dbToGain(db));

/**
 * Corners of the fader's travel, place (0 to 1) and dB. As on audio faders, the upper half covers the twenty dB in which
 * people work, and below it the scale gets denser (the law of IEC 60268-18 scales, with room above 0 dB).
 */
const TAPER: readonly (readonly [place: number, db: number])[] = [
  [0, FADER_FLOOR_DB],
  [0.1, -40],
  [0.25, -30],
  [0.4, -20],
  [0.55, -10],
  [0.78, 0],
  [1, FADER_TOP_DB],
];

/** Interpolates along `TAPER` from column `x` to column `y`. */
function along(value: number, x: 0 | 1, y: 0 | 1): number {
  for (let i = 1; i < TAPER.length; i += 1) {
    const [a, b] = [TAPER[i - 1], TAPER[i]] as [readonly [number, number], readonly [number, number]];
    if (value <= b[x]) return a[y] + ((Math.max(value, a[x]) - a[x]) / (b[x] - a[x])) * (b[y] - a[y]);
  }
  return (TAPER.at(-1) as readonly [number, number])[y];
}

/** Place of a fader's knob, 0 (bottom) to 1, at `db`. */
export const faderPlace = (db: number): number => along(db, 1, 0);

/** dB at a place of the knob, 0 to 1; in steps of 0.1 dB. */
export const faderDbAt = (place: number): number => Math.round(along(place, 0, 1) * 10) / 10;
