/**
 * Keys: how much of a pixel stays, 0 to 1, and what is left of its colour. Worked in Y′CbCr of BT.709 with luma 0 to 1
 * and chroma −0.5 to 0.5, so that the software mixer needs no conversion and shading of the backing hardly matters.
 */
import { type ChromaKey, type LumaKey } from '../layout/look';

export type Ycc = [number, number, number];

/** Y′CbCr of R′G′B′, all 0 to 1. Source: ITU-R BT.709-6 item 3. */
export function toYcc(r: number, g: number, b: number): Ycc {
  const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
  return [y, (b - y) / 1.8556, (r - y) / 1.5748];
}

/** R′G′B′ of Y′CbCr; may lie outside 0 to 1. */
export function toRgb([y, cb, cr]: Ycc): [number, number, number] {
  return [y + 1.5748 * cr, y - 0.187324 * cb - 0.468124 * cr, y + 1.8556 * cb];
}

export const parseColour = (hex: string): [number, number, number] =>
  [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as [number, number, number];

/** Numbers of a chroma key as every mixer uses them. */
export interface ChromaNumbers {
  /** Chroma of the backing. */
  cb: number;
  cr: number;
  /** Distance in the chroma plane up to which nothing stays. */
  near: number;
  /** Distance from which all stays. */
  far: number;
  spill: number;
}

/** The whole chroma plane is about 0.6 from its middle; a key reaches at most that far. */
const REACH = 0.6;

export function chromaNumbers(key: ChromaKey): ChromaNumbers {
  const [, cb, cr] = toYcc(...parseColour(key.colour));
  const near = key.similarity * REACH;
  return { cb, cr, near, far: near + Math.max(0.002, key.softness * REACH), spill: key.spill };
}

/** What stays of a pixel by its distance from the backing in the chroma plane. */
export function chromaAlpha(cb: number, cr: number, n: ChromaNumbers): number {
  const distance = Math.hypot(cb - n.cb, cr - n.cr);
  return Math.min(1, Math.max(0, (distance - n.near) / (n.far - n.near)));
}

/** Chroma with the part that points towards the backing's colour reduced; grey and other colours stay. */
export function withoutSpill(cb: number, cr: number, n: ChromaNumbers): [number, number] {
  const length = Math.hypot(n.cb, n.cr);
  if (length < 0.01) return [cb, cr];
  const along = ((cb * n.cb + cr * n.cr) / length) * n.spill;
  if (along <= 0) return [cb, cr];
  return [cb - (along * n.cb) / length, cr - (along * n.cr) / length];
}

/** False where a garbage crop takes everything out; `u`, `v` are shares of the picture. */
export const insideGarbage = (u: number, v: number, k: ChromaKey): boolean =>
  u >= k.garbageLeft && u < 1 - k.garbageRight && v >= k.garbageTop && v < 1 - k.garbageBottom;

/** What stays by brightness `y` (0 to 1). */
export function lumaAlpha(y: number, { clip, gain, invert }: Pick<LumaKey, 'clip' | 'gain' | 'invert'>): number {
  const alpha = Math.min(1, Math.max(0, (y - clip) * gain));
  return invert ? 1 - alpha : alpha;
}
