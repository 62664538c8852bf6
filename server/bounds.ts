/** Numbers from outside, in bounds. */

/** A number between two others; what is none is the least. */
export const between = (value: unknown, least: number, most: number): number =>
  typeof value === 'number' && Number.isFinite(value) ? Math.min(most, Math.max(least, value)) : least;
