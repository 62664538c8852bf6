import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { GREEN_KEY, PLAIN_GRADE } from '../layout/look';
import { ease } from './easing';
import { gradePixel } from './grade';
import { chromaAlpha, chromaNumbers, insideGarbage, lumaAlpha, parseColour, toRgb, toYcc, withoutSpill } from './key';
import { borderCoverage, edgeCoverage, roundedDistance, shadowCoverage } from './shape';
import { zoomBlurTaps } from './zoom-blur';

const unit = fc.double({ min: 0, max: 1, noNaN: true });
const colour = fc.tuple(unit, unit, unit);

describe('keys', () => {
  it('converts there and back', () => {
    fc.assert(
      fc.property(colour, (rgb) => {
        toRgb(toYcc(...rgb)).forEach((v, i) => expect(v).toBeCloseTo(rgb[i] as number, 4));
      }),
    );
  });

  it('take the backing out wholly and its opposite not at all, in any light', () => {
    const n = chromaNumbers(GREEN_KEY);
    const [, cb, cr] = toYcc(...parseColour(GREEN_KEY.colour));
    expect(chromaAlpha(cb, cr, n)).toBe(0);
    expect(chromaAlpha(-cb, -cr, n)).toBe(1);
    // Chroma alone decides: a darker or brighter place of the same chroma is the same to the key.
    fc.assert(
      fc.property(unit, (light) => {
        const [, u, v] = toYcc(...toRgb([light, cb, cr]));
        expect(chromaAlpha(u, v, n)).toBe(0);
      }),
    );
  });

  it('let more stay the further a colour is from the backing', () => {
    const n = chromaNumbers({ ...GREEN_KEY, softness: 0.5 });
    const chroma = fc.double({ min: -0.5, max: 0.5, noNaN: true });
    fc.assert(
      fc.property(chroma, chroma, unit, (cb, cr, share) => {
        const nearer = chromaAlpha(n.cb + (cb - n.cb) * share, n.cr + (cr - n.cr) * share, n);
        expect(nearer).toBeLessThanOrEqual(chromaAlpha(cb, cr, n) + 1e-9);
      }),
    );
  });

  it('leave grey grey, and colours that do not lean to the backing alone', () => {
    const n = chromaNumbers(GREEN_KEY);
    expect(withoutSpill(0, 0, n)).toEqual([0, 0]);
    expect(withoutSpill(-n.cb, -n.cr, n)).toEqual([-n.cb, -n.cr]);
    const [cb, cr] = withoutSpill(n.cb, n.cr, { ...n, spill: 1 });
    expect(Math.hypot(cb, cr)).toBeLessThan(1e-9);
  });

  it('invert by brightness, and cut garbage on four sides', () => {
    fc.assert(
      fc.property(unit, unit, fc.double({ min: 0.1, max: 50, noNaN: true }), (y, clip, gain) => {
        expect(lumaAlpha(y, { clip, gain, invert: false }) + lumaAlpha(y, { clip, gain, invert: true })).toBeCloseTo(1, 9);
      }),
    );
    const key = { ...GREEN_KEY, garbageLeft: 0.1, garbageTop: 0.2, garbageRight: 0.3, garbageBottom: 0.4 };
    expect([
      insideGarbage(0.05, 0.5, key),
      insideGarbage(0.5, 0.1, key),
      insideGarbage(0.75, 0.5, key),
      insideGarbage(0.5, 0.65, key),
      insideGarbage(0.5, 0.5, key),
    ]).toEqual([false, false, false, false, true]);
  });
});

describe('colour correction', () => {
  it('changes nothing when nothing is set, and makes grey at no saturation', () => {
    fc.assert(
      fc.property(colour, (rgb) => {
        const ycc = toYcc(...rgb);
        gradePixel(ycc, PLAIN_GRADE).forEach((v, i) => expect(v).toBeCloseTo(ycc[i] as number, 9));
        expect(gradePixel(ycc, { ...PLAIN_GRADE, saturation: 0 }).slice(1)).toEqual([0, 0]);
      }),
    );
  });

  it('leans white to red when warmer and to blue when colder', () => {
    const [r, , b] = toRgb(gradePixel([0.8, 0, 0], { ...PLAIN_GRADE, warmth: 1 }));
    expect(r).toBeGreaterThan(b);
    const [r2, , b2] = toRgb(gradePixel([0.8, 0, 0], { ...PLAIN_GRADE, warmth: -1 }));
    expect(b2).toBeGreaterThan(r2);
  });
});

describe('outlines', () => {
  const side = fc.integer({ min: 4, max: 300 });
  it('cover the middle and nothing outside; a border lies inside its box', () => {
    fc.assert(
      fc.property(side, side, fc.integer({ min: 0, max: 80 }), fc.integer({ min: 1, max: 3 }), (w, h, radius, width) => {
        expect(edgeCoverage(roundedDistance(0, 0, w / 2, h / 2, radius))).toBe(1);
        expect(edgeCoverage(roundedDistance(w / 2 + 1, 0, w / 2, h / 2, radius))).toBe(0);
        expect(borderCoverage(w / 2 + 1, 0, w / 2, h / 2, radius, width)).toBe(0);
        expect(borderCoverage(w / 2 - 0.5, 0, w / 2, h / 2, Math.min(radius, 1), width)).toBeGreaterThan(0.4);
      }),
    );
  });

  it('throw a shadow that only fades outwards', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -50, max: 50, noNaN: true }),
        fc.double({ min: 0, max: 10, noNaN: true }),
        fc.integer({ min: 0, max: 40 }),
        (d, more, blur) => {
          expect(shadowCoverage(d + more, blur)).toBeLessThanOrEqual(shadowCoverage(d, blur) + 1e-9);
        },
      ),
    );
  });
});

describe('pace and zoom', () => {
  it('begin at 0, end at 1, and never turn back', () => {
    fc.assert(
      fc.property(fc.constantFrom('linear' as const, 'in' as const, 'out' as const, 'in-out' as const), unit, unit, (easing, a, b) => {
        expect([ease(easing, 0), ease(easing, 1)]).toEqual([0, 1]);
        expect(ease(easing, Math.min(a, b))).toBeLessThanOrEqual(ease(easing, Math.max(a, b)) + 1e-12);
      }),
    );
  });

  it('begin a zoom blur on the old picture and end it on the new one, at rest', () => {
    expect(zoomBlurTaps(0)).toEqual([{ over: false, scale: 1, weight: 1 }]);
    expect(zoomBlurTaps(1)).toEqual([{ over: true, scale: 1, weight: 1 }]);
    fc.assert(
      fc.property(unit, (p) => {
        const share = zoomBlurTaps(p).reduce((rest, tap) => (tap.over ? rest * (1 - tap.weight) : rest), 1);
        const cross = Math.min(1, Math.max(0, (p - 0.4) / 0.2));
        if (cross > 0 && cross < 1) expect(1 - share).toBeCloseTo(cross, 6);
        for (const tap of zoomBlurTaps(p)) expect(tap.scale).toBeGreaterThanOrEqual(1);
      }),
    );
  });
});
