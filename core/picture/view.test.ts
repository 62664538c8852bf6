import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_CROP } from '../layout/look';
import { EYE_LINE, eyeInBox, framingWindow, place, placeBetween, type Placing } from './view';

const side = fc.integer({ min: 16, max: 4000 });
const share = (max: number) => fc.double({ min: 0, max, noNaN: true });
const crop = fc.record({ left: share(0.45), top: share(0.45), right: share(0.45), bottom: share(0.45) });
const pan = fc.double({ min: -1, max: 1, noNaN: true });
const zoom = fc.double({ min: 1, max: 20, noNaN: true });
const view = fc.record({ crop, zoom, panX: pan, panY: pan });
const target = fc.record({ x: fc.integer({ min: -500, max: 500 }), y: fc.integer({ min: -500, max: 500 }), width: side, height: side });
const size = fc.record({ width: side, height: side });
const framing = fc.record({ crop, zoom, panX: pan, panY: pan, aspect: fc.constantFrom(null, 4 / 3, 16 / 9, 1), mirror: fc.boolean() });
const eye = fc.record({ x: share(1), y: share(1) });
const within = (w: { x: number; y: number; width: number; height: number }) =>
  w.x >= -1e-9 && w.y >= -1e-9 && w.x + w.width <= 1 + 1e-9 && w.y + w.height <= 1 + 1e-9 && w.width > 0 && w.height > 0;

describe('placing a picture', () => {
  it('never distorts with cover, contain or by the eyes', () => {
    fc.assert(
      fc.property(target, size, view, fc.constantFrom('cover' as const, 'contain' as const, 'eye' as const), eye, (t, s, v, fit, e) => {
        const p = place({ target: t, fit, view: v, eye: e }, s);
        const seen = (p.window.width * s.width) / (p.window.height * s.height);
        expect(p.target.width / p.target.height / seen).toBeCloseTo(1, 6);
      }),
    );
  });

  it('keeps true proportions when a framing says that the source has others', () => {
    fc.assert(
      fc.property(target, size, framing, (t, s, f) => {
        const { window, size: natural } = framingWindow(f, s);
        const p = place({ target: t, fit: 'cover', framing: f }, s);
        // One share of the window is one share of the natural picture, in both directions.
        const wide = (p.window.width / window.width) * natural.width;
        const high = (p.window.height / window.height) * natural.height;
        expect(p.target.width / p.target.height / (wide / high)).toBeCloseTo(1, 6);
      }),
    );
  });

  it('never shows what is outside of the picture, or of its crop', () => {
    fc.assert(
      fc.property(
        target,
        size,
        view,
        framing,
        fc.constantFrom('cover' as const, 'contain' as const, 'eye' as const, 'fill' as const),
        eye,
        (t, s, v, f, fit, e) => {
          const p = place({ target: t, fit, view: v, framing: f, eye: e }, s);
          expect(within(p.window)).toBe(true);
          const { window: outer } = framingWindow(f, s);
          expect(p.window.x >= outer.x - 1e-9 && p.window.x + p.window.width <= outer.x + outer.width + 1e-9).toBe(true);
        },
      ),
    );
  });

  it('covers the box exactly, and stays inside it with contain', () => {
    fc.assert(
      fc.property(target, size, view, (t, s, v) => {
        expect(place({ target: t, fit: 'cover', view: v }, s).target).toEqual(t);
        const inner = place({ target: t, fit: 'contain', view: v }, s).target;
        expect(
          inner.x >= t.x - 1e-6 &&
            inner.y >= t.y - 1e-6 &&
            inner.x + inner.width <= t.x + t.width + 1e-6 &&
            inner.y + inner.height <= t.y + t.height + 1e-6,
        ).toBe(true);
      }),
    );
  });

  it('comes back to the whole picture when crop and zoom are taken back', () => {
    fc.assert(
      fc.property(target, size, view, (t, s, v) => {
        const changed = place({ target: t, fit: 'fill', view: v }, s).window;
        const inverse = { width: changed.width * v.zoom, height: changed.height * v.zoom };
        expect(inverse.width + v.crop.left + v.crop.right).toBeCloseTo(1, 6);
        expect(inverse.height + v.crop.top + v.crop.bottom).toBeCloseTo(1, 6);
        expect(place({ target: t, fit: 'fill', view: { crop: NO_CROP, zoom: 1, panX: v.panX, panY: v.panY } }, s).window).toEqual({
          x: 0,
          y: 0,
          width: 1,
          height: 1,
        });
      }),
    );
  });

  it('puts the eyes on the upper third wherever the picture allows it, and says where they are when it does not', () => {
    fc.assert(
      fc.property(target, size, view, eye, fc.boolean(), (t, s, v, e, mirror) => {
        const placing: Placing = {
          target: t,
          fit: 'eye',
          view: v,
          eye: e,
          ...(mirror && { framing: { crop: NO_CROP, zoom: 1, panX: 0, panY: 0, aspect: null, mirror } }),
        };
        const { window } = place(placing, s);
        const at = eyeInBox(placing, s) as { x: number; y: number };
        // The crop is of the mirrored picture: its left side is the right side of the source.
        const [left, right] = mirror ? [v.crop.right, v.crop.left] : [v.crop.left, v.crop.right];
        const free = window.x > left + 1e-9 && window.x + window.width < 1 - right - 1e-9;
        if (free) expect(at.x).toBeCloseTo(0.5, 6);
        if (window.y > v.crop.top + 1e-9 && window.y + window.height < 1 - v.crop.bottom - 1e-9) expect(at.y).toBeCloseTo(EYE_LINE, 6);
      }),
    );
  });

  it('shows the same eyes at the same place in boxes of any size', () => {
    fc.assert(
      fc.property(target, target, (a, b) => {
        const placing = (t: typeof a): Placing => ({
          target: t,
          fit: 'eye',
          eye: { x: 0.5, y: 0.5 },
          view: { crop: NO_CROP, zoom: 3, panX: 0, panY: 0 },
        });
        const [one, other] = [eyeInBox(placing(a), { width: 1600, height: 900 }), eyeInBox(placing(b), { width: 1600, height: 900 })];
        expect(one?.x).toBeCloseTo(other?.x ?? -1, 6);
        expect(one?.y).toBeCloseTo(other?.y ?? -1, 6);
      }),
    );
  });

  it('glides exactly from one placing to the other', () => {
    fc.assert(
      fc.property(target, target, view, view, size, (a, b, va, vb, s) => {
        const [from, to]: [Placing, Placing] = [
          { target: a, fit: 'cover', view: va },
          { target: b, fit: 'contain', view: vb },
        ];
        expect(placeBetween(from, to, 0, s)).toEqual(place(from, s));
        expect(placeBetween(from, to, 1, s)).toEqual(place(to, s));
      }),
    );
  });
});
