/**
 * Paints: what the graphics worker draws, as plain data. A paint has everything in it that its pixels depend on, and a key made of just that:
 * equal keys are equal pixels, so what has not changed is never drawn again.
 */
import { type Rect } from '../show/geometry';
import { type Raster } from '../show/raster';
import { around } from '../layout/arrange';
import { inkBounds } from './bounds';
import { type Content, type Element } from './element';
import { hashOf } from './hash';
import { type Drawn } from './values';

/** What is special about one moment of an element: redrawn while it lasts. */
export interface Moment {
  /** Words in the place of the element's own: a clock, a number that rolls. */
  text?: string;
  /** Colour of the words. */
  colour?: string;
  /** Radius, pixels. */
  blur?: number;
  /** Frame of an animation, and the layers of it that are drawn; all where none are named. */
  animation?: { frame: number; layers: readonly number[] | null };
  /** Letters or words that have come. */
  pieces?: { by: 'letters' | 'words'; share: number; edge: 'left' | 'right' | 'top' | 'bottom' };
}

export interface Inked {
  element: Element;
  mask: Element | null;
  moment: Moment | null;
}

export interface Paint {
  key: string;
  /** What is drawn, in pixels of the graphic's raster. */
  bounds: Rect;
  raster: Raster;
  inked: readonly Inked[];
}

/** Properties of an element that its pixels do not depend on. */
const UNINKED: ReadonlySet<string> = new Set([
  'id',
  'name',
  'parentId',
  'locked',
  'in',
  'out',
  'change',
  'hold',
  'keyframes',
  'visible',
  'hideWhenEmpty',
]);

/** Of an element, what its pixels depend on. */
const inkOf = (element: Element): object =>
  Object.fromEntries(
    Object.entries(element).flatMap(([property, value]) =>
      UNINKED.has(property) ? [] : [[property, property === 'content' ? inkOfContent(element.content) : value]],
    ),
  );

/** Of an animation its file and what is filled in; when it moves and where it waits is in its moments. */
const inkOfContent = (content: Content): object =>
  content.kind === 'animation' ? { kind: content.kind, assetId: content.assetId, given: content.given } : content;

/** The paint of several elements, back to front; all that has ink, or just a part of the raster. */
export function paintOf(inked: readonly Inked[], raster: Raster, part?: Rect): Paint {
  const bounds = part ?? around(inked.map(({ element, moment }) => inkBounds(element, raster, moment?.blur ?? 0)));
  return {
    key: hashOf(JSON.stringify([raster, bounds, inked.map(({ element, mask, moment }) => [inkOf(element), mask && inkOf(mask), moment])])),
    bounds,
    raster,
    inked,
  };
}

/** Moments of one element that are kept: enough for a clock, not for ever. */
const MOMENTS = 32;
const alone = new WeakMap<Drawn, Map<string, Paint>>();
const together = new WeakMap<readonly Drawn[], Paint>();

/** The paint of one element at a moment. */
export function paintAlone(drawn: Drawn, moment: Moment | null, raster: Raster): Paint {
  const key = moment ? JSON.stringify(moment) : '';
  const kept = alone.get(drawn) ?? new Map<string, Paint>();
  alone.set(drawn, kept);
  let paint = kept.get(key);
  if (!paint) {
    paint = paintOf([{ element: drawn.element, mask: drawn.mask, moment }], raster);
    kept.set(key, paint);
    const oldest = kept.size > MOMENTS ? [...kept.keys()].find((k) => k !== '') : undefined;
    if (oldest !== undefined) kept.delete(oldest);
  }
  return paint;
}

/** The paint of several elements that stand still together. */
export function paintTogether(run: readonly Drawn[], raster: Raster): Paint {
  let paint = together.get(run);
  if (!paint)
    together.set(
      run,
      (paint = paintOf(
        run.map(({ element, mask }) => ({ element, mask, moment: null })),
        raster,
      )),
    );
  return paint;
}

const wholes = new WeakMap<readonly Drawn[], Map<string, Paint>>();

/** The paint of a whole raster, each element in its moment. */
export function paintWhole(inked: readonly Inked[], of: readonly Drawn[], raster: Raster): Paint {
  const key = JSON.stringify(inked.map(({ moment }) => moment));
  const kept = wholes.get(of) ?? new Map<string, Paint>();
  wholes.set(of, kept);
  const found = kept.get(key);
  if (found) return found;
  if (kept.size >= MOMENTS) kept.clear();
  const paint = paintOf(inked, raster, { x: 0, y: 0, ...raster });
  kept.set(key, paint);
  return paint;
}

const runs = new WeakMap<readonly Drawn[], readonly (readonly Drawn[])[]>();

/** Elements in the layers that they are drawn in: what can change by itself is alone, what stands between is together. */
export function layersOf(elements: readonly Drawn[]): readonly (readonly Drawn[])[] {
  const known = runs.get(elements);
  if (known) return known;
  const layers: Drawn[][] = [];
  for (const drawn of elements) {
    const last = layers.at(-1);
    if (last && !drawn.alone && !last[0]?.alone) last.push(drawn);
    else layers.push([drawn]);
  }
  runs.set(elements, layers);
  return layers;
}
