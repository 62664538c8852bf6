/** Graphics on air: copies as they were when they were shown, and clocks. Frames are show frames. */
import { type EntryValue, type Graphic } from './document';

/** A graphic with its values as it was shown: later edits wait. Its entries are left out. */
export interface Filled {
  graphic: Graphic;
  values: EntryValue[];
}

/** A graphic on air. */
export interface Shown extends Filled {
  /** Frame at which it came. */
  start: number;
  /** What it showed before the last change, and the frame of that. */
  before: (Filled & { start: number }) | null;
  /** Which of the hold points of its animations it waits at, and since which frame it goes there. */
  hold: { index: number; start: number };
}

/** A clock runs from `value` since `start`, or stands at `value`. */
export interface ClockState {
  /** Frames that had gone by when it was started or stopped. */
  value: number;
  /** Frame at which it was started; null while it stands. */
  start: number | null;
}

/** Pixels of a graphic's raster. */
export interface Size {
  width: number;
  height: number;
}

/** A piece of a ticker: an item, or a part of a long one. */
export interface TickerPiece {
  text: string;
  /** Pixels of the graphic's raster. */
  width: number;
  /** The item ends with it. */
  end: boolean;
}

/** A ticker on air. Lengths are pixels of the graphic's raster. */
export interface TickerRun {
  /** Frame at which its graphic came: another showing begins anew. */
  since: number;
  /** The strip had come in by `lead` at this frame. */
  start: number;
  lead: number;
  /** Frame at which it was stopped; null while it runs. */
  paused: number | null;
  /** What it goes on in a frame. */
  step: number;
  /** Pieces in front of the list: what was on its way when the list changed, and urgent items. */
  head: TickerPiece[];
  /** Piece of the list that comes after them. */
  from: number;
  list: TickerPiece[];
  /** Between the end of an item and the next. */
  between: number;
  loops: boolean;
  /** Items that come next as soon as they are measured. */
  urgent: string[];
}

export interface GraphicsAir {
  /** By identity of the picture: graphics and entries that are on air outside of lanes. */
  shown: Record<string, Shown>;
  /** By identity of the clock; one that was never touched stands at its beginning. */
  clocks: Record<string, ClockState>;
  /** Time of day, milliseconds after midnight, at a show frame; null until the engine has said it. */
  day: { frame: number; millis: number } | null;
  /** How large words are in boxes that grow, by what is set there: told by the engine, which has the fonts. */
  sizes: Record<string, Size>;
  /** By the showing and the element: see `tickersOnAir`. */
  tickers: Record<string, TickerRun>;
}

export const createGraphicsAir = (): GraphicsAir => ({ shown: {}, clocks: {}, day: null, sizes: {}, tickers: {} });
