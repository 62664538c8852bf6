/** Zoom blur: the old picture rushes outwards, the new one comes to rest. Made of a few scaled copies, mixed evenly. */

export interface Tap {
  /** Which picture. */
  over: boolean;
  /** Drawn this many times as large, about the middle. */
  scale: number;
  /** Opacity over what is drawn already: 1, ½, ⅓ … makes an even mean. */
  weight: number;
}

const COPIES = 5;
/** The pictures cross in this part of the way. */
const CROSS_FROM = 0.4;
const CROSS_TO = 0.6;

/** Copies of one picture at `speed` 0 (at rest) to 1. */
function copies(over: boolean, speed: number): Tap[] {
  if (speed <= 0) return [{ over, scale: 1, weight: 1 }];
  return Array.from({ length: COPIES }, (_, i) => ({ over, scale: 1 + speed * (0.6 + (0.5 * i) / (COPIES - 1)), weight: 1 / (i + 1) }));
}

/** What to draw at `position`, in order, each over the last. */
export function zoomBlurTaps(position: number): Tap[] {
  const cross = Math.min(1, Math.max(0, (position - CROSS_FROM) / (CROSS_TO - CROSS_FROM)));
  const speedOut = Math.min(1, position / CROSS_TO) ** 2;
  const speedIn = Math.min(1, (1 - position) / (1 - CROSS_FROM)) ** 2;
  if (cross <= 0) return copies(false, speedOut);
  if (cross >= 1) return copies(true, speedIn);
  // The new copies together weigh `cross`.
  const each = 1 - (1 - cross) ** (1 / COPIES);
  return [...copies(false, speedOut), ...copies(true, speedIn).map((tap) => ({ ...tap, weight: each }))];
}
