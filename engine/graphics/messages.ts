/** What is asked of the graphics worker, and what it answers. */
import { type Size } from '#core/graphics/air';
import { type TextStyle } from '#core/graphics/element';
import { type Growing } from '#core/graphics/grow';
import { type Paint } from '#core/graphics/paint';
import { type DrawItem } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';

/** A paint is wanted at a size, pixels. */
export interface PaintWanted {
  type: 'paint';
  paint: Paint;
  width: number;
  height: number;
}

/** A whole picture is wanted: items with coordinates of `raster`, at a size in pixels. */
export interface PictureWanted {
  type: 'picture';
  id: number;
  items: readonly DrawItem[];
  raster: Raster;
  width: number;
  height: number;
  /** Where a live picture stands it is cut out, so that one may be shown through. */
  holes: boolean;
}

/** Fonts of the show's own, by family: all of them, each time. */
export interface FontsTold {
  type: 'fonts';
  fonts: readonly { family: string; assetId: string }[];
}

/** Which letters of a text has no family that it is set in? */
export interface GlyphsAsked {
  type: 'glyphs';
  id: number;
  text: string;
  style: TextStyle;
}
export interface GlyphsMissing {
  type: 'glyphs';
  id: number;
  missing: string[];
}

/** How large are these texts, in boxes that grow? */
export interface SizesAsked {
  type: 'sizes';
  id: number;
  texts: readonly Growing[];
}
/** Sizes by the keys of the texts. */
export interface SizesTold {
  type: 'sizes';
  id: number;
  sizes: Record<string, Size>;
}

/** To the worker itself: a port over which paints are wanted, or a picture. Over such a port: paints. */
export type ToGraphics = PaintWanted | PictureWanted | GlyphsAsked | SizesAsked | FontsTold | { type: 'port'; port: MessagePort };

export interface PictureMade {
  type: 'picture';
  id: number;
  /** Null when it could not be drawn; `message` says why. */
  image: ImageBitmap | null;
  message: string;
  /** Assets that it is drawn without: their files are gone, or cannot be read. */
  missing: string[];
}

/** Pixels of a paint: RGBA, not premultiplied. `message` says why there are none. */
export type FromGraphics =
  | {
      type: 'painted';
      key: string;
      width: number;
      height: number;
      pixels: Uint8ClampedArray<ArrayBuffer>;
      millis: number;
      missing: string[];
    }
  | { type: 'failed'; key: string; width: number; height: number; message: string };
