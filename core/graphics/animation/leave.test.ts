/** Drawn graphics as Lottie: they can be read again, wait where they should, and what cannot be said is listed. */
import { describe, expect, it } from 'vitest';
import { createElement, createGraphic, move } from '../create';
import { type Element } from '../element';
import { NO_VALUES } from '../find';
import { GALLERY } from '../gallery/gallery';
import { asLottie } from './leave';
import { readLottie } from './lottie';
import { partsOf } from './parts';
import { problemsOf } from './problems';
import { holdsOf, stillsOf } from './stills';

const RATE = { num: 25, den: 1 };
const RASTER = { width: 1280, height: 720 };

const leaving = (...elements: Element[]) => {
  const graphic = { ...createGraphic('g', 'Test', RASTER), elements };
  Object.freeze(graphic.elements);
  return asLottie({ graphic, values: NO_VALUES }, RATE);
};

interface Layer {
  nm: string;
  ty: number;
  ks: Record<string, { a: number; k: unknown }>;
}
const layersOf = ({ document }: ReturnType<typeof leaving>) => document.layers as Layer[];

describe('a drawn graphic as Lottie', () => {
  it.each(GALLERY.map(({ id, make }) => [id, make] as const))('of the gallery (%s) is read again as it was said', (_, make) => {
    const graphic = make();
    const { document, left } = asLottie({ graphic, values: graphic.entries[0]?.values ?? NO_VALUES }, RATE);
    const doc = readLottie(JSON.parse(JSON.stringify(document)));
    expect([doc.w, doc.h, doc.fr]).toEqual([graphic.raster.width, graphic.raster.height, 25]);
    const families = new Set(graphic.elements.flatMap((e) => (e.content.kind === 'text' ? [e.content.style.family] : [])));
    expect(problemsOf(document, doc, families)).toEqual([]);
    const hold = holdsOf(doc, stillsOf(doc));
    expect(hold.frames).toEqual([(document.markers as { tm: number }[])[0]?.tm]);
    for (const { element, what } of left) expect(`${element}: ${what}`).not.toMatch(/undefined|NaN/);
    // Its words are found as parts that can be filled in.
    const texts = layersOf({ document, left }).filter((l) => l.ty === 5);
    expect(partsOf(doc).filter((p) => p.kind === 'text')).toHaveLength(texts.length);
  });

  it('comes, stands and goes at the frames of its moves', () => {
    const plate = createElement(
      'p',
      'rectangle',
      { x: 100, y: 600, width: 400, height: 80 },
      {
        name: 'Plate',
        in: move('slide', 20, { edge: 'left', easing: 'linear', start: 5 }),
        out: move('fade', 10, { easing: 'in' }),
      },
    );
    const made = leaving(plate);
    const [layer] = layersOf(made);
    expect(layer?.ks.p).toMatchObject({
      a: 1,
      k: [
        { t: 5, s: [-200, 640] },
        { t: 25, s: [300, 640] },
      ],
    });
    expect(layer?.ks.o).toMatchObject({
      a: 1,
      k: [
        { t: 50, s: [100] },
        { t: 60, s: [0] },
      ],
    });
    expect(made.document).toMatchObject({ op: 60, markers: [{ tm: 25, cm: 'hold' }] });
    expect(made.left).toEqual([]);
  });

  it('stands in front of what it stood in front of, and says what is left out', () => {
    const place = { x: 0, y: 0, width: 100, height: 50 };
    const made = leaving(
      createElement('a', 'rectangle', place, { name: 'Behind', shadow: { x: 0, y: 4, blur: 8, spread: 0, colour: '#000000', opacity: 1 } }),
      createElement('b', 'clock', place, { name: 'Time' }),
      createElement('c', 'text', place, { name: 'Before', in: move('letters', 20) }),
    );
    expect(layersOf(made).map((l) => l.nm)).toEqual(['Before', 'Behind']);
    expect(made.left).toEqual([
      { element: 'Behind', what: 'shadow, glow and reflection are left out' },
      { element: 'Time', what: 'clocks are not drawn' },
      { element: 'Before', what: 'it comes at once: letters cannot be said' },
    ]);
  });
});
