/** Pictures of graphics for the screen: drawn in a worker of the page's own, so that nothing on air ever waits for them. */
import { type TextStyle } from '#core/graphics/element';
import { type DrawItem } from '#core/picture/draw';
import { type Raster } from '#core/show/raster';
import {
  type FontsTold,
  type GlyphsAsked,
  type GlyphsMissing,
  type PictureMade,
  type PictureWanted,
  type SizesAsked,
  type SizesTold,
} from './messages';
import { type Growing, type Sizes } from '#core/graphics/grow';

/** A worker that has not answered for so long is started anew, milliseconds. */
const DEAD_MS = 15_000;

/** A picture, or none; and the assets that it is drawn without. */
interface Made {
  image: ImageBitmap | null;
  missing: readonly string[];
}

interface Waiting {
  wanted: PictureWanted;
  since: number;
  done: (made: Made) => void;
}

let worker: Worker | null = null;
let next = 0;
const waiting = new Map<number, Waiting>();

const asked = new Map<number, (missing: string[]) => void>();

const measured = new Map<number, (sizes: Sizes) => void>();

function answer({ data }: MessageEvent<PictureMade | GlyphsMissing | SizesTold>): void {
  if (data.type === 'sizes') {
    measured.get(data.id)?.(data.sizes);
    measured.delete(data.id);
    return;
  }
  if (data.type === 'glyphs') {
    asked.get(data.id)?.(data.missing);
    asked.delete(data.id);
    return;
  }
  const found = waiting.get(data.id);
  waiting.delete(data.id);
  if (found) found.done(data);
  else data.image?.close();
}

function restart(): void {
  worker?.terminate();
  worker = null;
  for (const entry of waiting.values()) entry.done({ image: null, missing: [] });
  waiting.clear();
  for (const done of asked.values()) done([]);
  asked.clear();
  for (const done of measured.values()) done({});
  measured.clear();
}

function started(): Worker {
  const [first] = waiting.values();
  if (first && performance.now() - first.since > DEAD_MS) restart();
  if (worker) return worker;
  worker = new Worker(new URL('./graphics.worker.ts', import.meta.url), { type: 'module' });
  worker.onmessage = answer;
  worker.onerror = restart;
  worker.postMessage({ type: 'fonts', fonts } satisfies FontsTold);
  return worker;
}

let fonts: FontsTold['fonts'] = [];

/** Letters of a text that no family has which it is set in. */
export function glyphsMissing(text: string, style: TextStyle): Promise<string[]> {
  return new Promise((done) => {
    next += 1;
    asked.set(next, done);
    started().postMessage({ type: 'glyphs', id: next, text, style } satisfies GlyphsAsked);
  });
}

/** How large texts are, in boxes that grow. */
export function sizesOfTexts(texts: readonly Growing[]): Promise<Sizes> {
  return new Promise((done) => {
    next += 1;
    measured.set(next, done);
    started().postMessage({ type: 'sizes', id: next, texts } satisfies SizesAsked);
  });
}

/** Fonts of the open show's own. */
export function tellPictureFonts(list: FontsTold['fonts']): void {
  fonts = list.map(({ family, assetId }) => ({ family, assetId }));
  worker?.postMessage({ type: 'fonts', fonts } satisfies FontsTold);
}

/**
 * The picture of items, whose coordinates are those of `raster`, in `width` × `height` pixels; null when it cannot be drawn. The caller closes
 * it. With `holes` it is clear where live pictures stand.
 */
export function pictureOfItems(items: readonly DrawItem[], raster: Raster, width: number, height: number, holes = false): Promise<Made> {
  return new Promise((done) => {
    const to = started();
    next += 1;
    const wanted: PictureWanted = { type: 'picture', id: next, items, raster, width, height, holes };
    waiting.set(next, { wanted, since: performance.now(), done });
    // What a window shows is the mixer's: only its place matters here.
    to.postMessage({
      ...wanted,
      items: items.map((item) => (item.texture.kind === 'paint' ? item : { ...item, texture: { kind: 'colour', colour: '#000000' } })),
    });
  });
}
