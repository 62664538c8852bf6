/** What the worker draws by: text that fits, gradients against a plain reference, bounds. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { inkBounds, turnedBox } from './bounds';
import { createElement, textStyle } from './create';
import { gradientAt, gradientLine, spreadStops } from './gradient';
import { isRightToLeft, layoutText, LEAST_FACTOR, lettersOf, type Measure } from './text-layout';
import { graphicItems } from './items';
import { AT_REST } from './motion';
import { createGraphicsAir } from './air';
import { GALLERY } from './gallery/gallery';

/** A font whose letters are all half as wide as high. */
const half = (size: number): Measure => ({ width: (text) => lettersOf(text).length * size * 0.5, ascent: 0.8, descent: 0.2 });
const style = (change: Parameters<typeof textStyle>[1] = {}) => textStyle(100, { size: 20, lineHeight: 1, ...change });

describe('text', () => {
  it('stays in its box whatever it is, for every way but spilling', () => {
    const words = fc.oneof(fc.string({ maxLength: 200 }), fc.lorem({ maxCount: 40 }));
    fc.assert(
      fc.property(
        words,
        fc.constantFrom('shrink', 'squeeze', 'ellipsis'),
        fc.boolean(),
        fc.integer({ min: 30, max: 400 }),
        (text, overflow, wrap, width) => {
          const set = layoutText(text, style({ overflow: overflow as 'shrink', wrap }), width, 60, half(20));
          for (const line of set.lines) {
            expect(line.width).toBeLessThanOrEqual(width + 0.1);
            expect(line.x).toBeGreaterThanOrEqual(-0.1);
          }
          expect(set.factor).toBeGreaterThanOrEqual(LEAST_FACTOR - 1e-9);
          expect(set.lines.length * 20 * set.factor).toBeLessThanOrEqual(60 + 20 * set.factor * 0.36);
        },
      ),
    );
  });

  it('shrinks no further than it must, then ends with an ellipsis', () => {
    const m = half(20);
    expect(layoutText('1234567890', style(), 100, 30, m)).toMatchObject({ factor: 1, cut: false });
    expect(layoutText('12345678901', style(), 100, 30, m).factor).toBeCloseTo(100 / 110, 5);
    const cut = layoutText('x'.repeat(40), style(), 100, 30, m);
    expect(cut).toMatchObject({ factor: LEAST_FACTOR, cut: true });
    expect(cut.lines[0]?.text.endsWith('…')).toBe(true);
    expect(layoutText('x'.repeat(20), style({ overflow: 'squeeze' }), 150, 30, m).squeeze).toBe(0.75);
  });

  it('wraps at spaces, breaks a word that is too long, and keeps all letters', () => {
    const set = layoutText('one two three fourteen-letters', style({ wrap: true, overflow: 'spill' }), 60, 200, half(20));
    expect(set.lines.map((l) => l.text)).toEqual(['one', 'two', 'three', 'fourte', 'en-let', 'ters']);
    fc.assert(
      fc.property(
        fc.array(
          fc.string({ minLength: 1, maxLength: 12 }).filter((w) => !/\s/u.test(w)),
          { minLength: 1, maxLength: 12 },
        ),
        (list) => {
          const lines = layoutText(list.join(' '), style({ wrap: true, overflow: 'spill' }), 90, 10_000, half(20)).lines;
          expect(
            lines
              .map((l) => l.text)
              .join('')
              .replaceAll(' ', ''),
          ).toBe(list.join(''));
        },
      ),
    );
  });

  it('of 10,000 characters is set in a moment, and an emoji family is one letter', () => {
    let asked = 0;
    const counted = { ...half(20), width: (text: string) => ((asked += text.length), half(20).width(text)) };
    layoutText('wind '.repeat(2000), style({ wrap: true }), 300, 100, counted);
    // Words are measured, not ever longer lines: some ten times the text, not its square.
    expect(asked).toBeLessThan(40 * 10_000);
    expect(lettersOf('👨‍👩‍👧‍👦é')).toHaveLength(2);
    expect([isRightToLeft('نور'), isRightToLeft('12 דנה'), isRightToLeft('Ada')]).toEqual([true, true, false]);
  });
});

describe('gradients', () => {
  /** The colour of a place as the words of the format say it, without stops worked out ahead. */
  function plain(at: number, length: number, spread: 'pad' | 'repeat' | 'mirror'): number {
    const along = at / length;
    const k = Math.floor(along);
    const t = spread === 'pad' ? Math.min(1, along) : spread === 'repeat' || k % 2 === 0 ? along - k : 1 - (along - k);
    return 255 * t;
  }

  it('have the colours of a plain reference in every place', () => {
    const stops = [
      { at: 0, colour: '#000000', opacity: 1 },
      { at: 1, colour: '#ffffff', opacity: 1 },
    ];
    fc.assert(
      fc.property(
        fc.double({ min: 0.05, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.constantFrom('pad', 'repeat', 'mirror'),
        (length, at, spread) => {
          const along = at / length;
          // At a jump either colour is right.
          fc.pre(Math.abs(along - Math.round(along)) > 1e-3);
          const drawn = gradientAt(spreadStops({ stops, length, spread: spread as 'pad' }), at).rgb[0];
          expect(drawn).toBeCloseTo(plain(at, length, spread as 'pad'), 3);
        },
      ),
    );
  });

  it('reach from corner to corner at any angle', () => {
    expect(gradientLine(100, 50, 0)).toEqual({ x0: 0, y0: 25, x1: 100, y1: 25 });
    const { x0, y0, x1, y1 } = gradientLine(100, 100, 45);
    expect([x0, y0, x1, y1].map((n) => Math.abs(Math.round(n)))).toEqual([0, 0, 100, 100]);
  });
});

describe('bounds', () => {
  it('hold a turned box with all its corners, on whole pixels of the grid', () => {
    fc.assert(
      fc.property(fc.integer({ min: -720, max: 720 }), fc.integer({ min: -60, max: 60 }), (rotation, skewX) => {
        const element = createElement('e', 'rectangle', { x: 300, y: 200, width: 120, height: 40 }, { rotation, skewX });
        const box = turnedBox(element, { width: 1280, height: 720 });
        const ink = inkBounds(element, { width: 1280, height: 720 });
        expect(ink.x % 8).toBe(0);
        expect(ink.width % 8).toBe(0);
        expect(ink.x).toBeLessThanOrEqual(box.x);
        expect(ink.y + ink.height).toBeGreaterThanOrEqual(box.y + box.height);
      }),
    );
  });

  it('of every paint of the gallery are no more than what is drawn needs', () => {
    for (const { id, make } of GALLERY) {
      const graphic = make();
      const items = graphicItems({
        filled: { graphic, values: graphic.entries[0]?.values ?? [] },
        phase: AT_REST,
        frame: 0,
        target: { x: 0, y: 0, ...graphic.raster },
        clocks: [],
        air: createGraphicsAir(),
        rate: { num: 25, den: 1 },
        slot: 't',
        window: () => null,
      });
      for (const { texture } of items)
        if (texture.kind === 'paint')
          expect(texture.paint.bounds.width * texture.paint.bounds.height, id).toBeLessThanOrEqual(9 * 1280 * 720);
    }
  });
});
