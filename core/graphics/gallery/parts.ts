/** Pieces that the graphics of the gallery are drawn of. All are made for 1280 × 720. */
import { type Rect } from '../../show/geometry';
import { colourFill, createElement, createEntry, createField, createGraphic, textStyle } from '../create';
import { type Entry, type Field, type FieldTarget, type Graphic, type Value } from '../document';
import { type Accent, type Element, type TextStyle } from '../element';
import { type Fill } from '../fill';

export const GALLERY_RASTER = { width: 1280, height: 720 };

export const INK = {
  deep: '#0d1517',
  panel: '#142023',
  raised: '#1b2a2e',
  harbour: '#16405a',
  cloth: '#e8efe9',
  mist: '#c3d0cb',
  straw: '#e2c48d',
  red: '#ff5a4f',
} as const;

/** The slant of a sail's luff, as a skew in degrees: 0.28 of the height. */
export const LUFF = -15.6422;

const at = (x: number, y: number, width: number, height: number): Rect => ({ x, y, width, height });

type Change = Partial<Element>;

export const box = (
  id: string,
  name: string,
  x: number,
  y: number,
  width: number,
  height: number,
  fill: Fill | string,
  change: Change = {},
): Element =>
  createElement(id, 'rectangle', at(x, y, width, height), { name, fill: typeof fill === 'string' ? colourFill(fill) : fill, ...change });

export const words = (
  id: string,
  name: string,
  x: number,
  y: number,
  width: number,
  height: number,
  text: string,
  style: Partial<TextStyle> = {},
  change: Change = {},
  accents: Accent[] = [],
): Element =>
  createElement(id, 'text', at(x, y, width, height), {
    name,
    content: { kind: 'text', text, style: textStyle(height, style), accents },
    ...change,
  });

export const group = (
  id: string,
  name: string,
  x: number,
  y: number,
  width: number,
  height: number,
  flow: 'row' | 'column' | 'none',
  change: Change = {},
): Element => createElement(id, 'group', at(x, y, width, height), { name, content: { kind: 'group', flow, align: 'middle' }, ...change });

/** A field that gives the words of one element. */
export const textField = (id: string, name: string, text: string, longest: number, change: Partial<Field> = {}): Field =>
  createField(id, name, { kind: 'text', text }, { longest, targets: [{ elementId: id, property: 'content', part: null }], ...change });

export const field = (id: string, name: string, value: Value, targets: FieldTarget[], change: Partial<Field> = {}): Field =>
  createField(id, name, value, { targets, ...change });

/** An entry from words by field. */
export const entry = (id: string, number: number, given: Record<string, string | number>): Entry =>
  createEntry(
    id,
    number,
    Object.entries(given).map(([fieldId, value]) => ({
      fieldId,
      value: typeof value === 'number' ? { kind: 'number', number: value } : { kind: 'text', text: value },
    })),
  );

export const graphic = (id: string, name: string, change: Partial<Graphic>): Graphic => ({
  ...createGraphic(id, name, GALLERY_RASTER),
  ...change,
});
