/** Why a foreign file cannot be used. */

/** A file that cannot be used; the message says why, and goes after its name: "storm.webm cannot be used: …". */
export class MediaTrouble extends Error {}

/** Why, in words: what a library says of itself helps nobody. */
export const mediaTrouble = (error: unknown): string =>
  error instanceof MediaTrouble ? error.message : 'it is damaged, or not what its name says';
