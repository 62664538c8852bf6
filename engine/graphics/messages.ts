/** What is asked of the graphics worker, and what it answers. */
import { type Paint } from '#core/graphics/paint';

/** A paint is wanted at a size, pixels. */
export interface PaintWanted {
  type: 'paint';
  paint: Paint;
  width: number;
  height: number;
}

/** To the worker itself: a port over which paints are wanted. Over such a port: paints. */
export type ToGraphics = PaintWanted | { type: 'port'; port: MessagePort };

/** Pixels of a paint: RGBA, not premultiplied. `message` says why there are none. */
export type FromGraphics =
  | { type: 'painted'; key: string; width: number; height: number; pixels: Uint8ClampedArray<ArrayBuffer>; millis: number }
  | { type: 'failed'; key: string; width: number; height: number; message: string };
