/** A graphic that is sent off before it has come, called back, or moves while it stands; and one that is a single picture in a box. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { type DrawItem } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { createElement, holdMove, move } from './create';
import { holdLevel, motionOf } from './motion';

const shown = (desk: Desk, frame: number): DrawItem | undefined =>
  planFrame(desk.show, desk.air, frame).programme.lanes.find((i) => i.texture.kind === 'paint' && i.texture.slot.endsWith('/plate'));

/** The plate slides in from the left in 20 frames, fades out in 10. */
const desk = () => {
  let d = sampleDesk();
  d = must(d, 'element.move', {
    graphic: 'names',
    elements: ['plate'],
    phase: 'in',
    way: 'slide',
    edge: 'left',
    easing: 'linear',
    frames: 20,
  });
  d = must(d, 'element.move', { graphic: 'names', elements: ['plate'], phase: 'out', way: 'fade', easing: 'linear', frames: 10 });
  return must(d, 'lane.showPicture', { lane: 'lane-1', picture: 'card' }, 100);
};

describe('a graphic that is sent off before it has come', () => {
  it('goes from where it is, by its own move', () => {
    fc.assert(
      fc.property(fc.integer({ min: 101, max: 119 }), (frame) => {
        const hidden = must(desk(), 'lane.hide', { lane: 'lane-1' }, frame);
        const before = shown(desk(), frame);
        const after = shown(hidden, frame);
        expect(after?.target).toEqual(before?.target);
        // It fades then, and stands still.
        const later = shown(hidden, frame + 1);
        if (later) {
          expect(later.target).toEqual(before?.target);
          expect(later.opacity).toBeLessThan(1);
        }
        expect(shown(hidden, frame + 11)).toBeUndefined();
      }),
    );
  });

  it('called back on its way out, comes back the way it went', () => {
    const hidden = must(desk(), 'lane.hide', { lane: 'lane-1' }, 200);
    const back = must(hidden, 'lane.show', { lane: 'lane-1' }, 205);
    expect(shown(back, 205)?.opacity).toBeCloseTo(shown(hidden, 205)?.opacity ?? 0, 9);
    expect(shown(back, 206)?.opacity).toBeGreaterThan(shown(back, 205)?.opacity ?? 1);
    expect(shown(back, 240)?.opacity).toBe(1);
  });

  it('is not sent off twice', () => {
    const once = must(desk(), 'lane.hide', { lane: 'lane-1' }, 110);
    const twice = must(once, 'lane.hide', { lane: 'lane-1' }, 113);
    expect(shown(twice, 114)).toEqual(shown(once, 114));
  });

  it('with keys makes up on its way what it lacked', () => {
    const key = (phase: 'in' | 'out', frame: number, value: number) => ({
      phase,
      property: 'x' as const,
      frame,
      value,
      easing: 'linear' as const,
    });
    const element = createElement(
      'e',
      'rectangle',
      { x: 100, y: 0, width: 10, height: 10 },
      { keyframes: [key('in', 0, 0), key('in', 20, 100), key('out', 0, 100), key('out', 10, 400)] },
    );
    const x = (comes: number, out: number | null) => motionOf(element, { in: comes, out }, 20, { width: 400, height: 100 }).keyed.x;
    expect([x(10, null), x(10, 0), x(10, 10), x(20, 0)]).toEqual([50, 50, 400, 100]);
  });
});

describe('what moves while it stands', () => {
  const hold = holdMove('fade', 10, { rest: 5, times: 2, depth: 0.5, easing: 'linear' });
  it('goes part of the way and comes back, as often as it is to', () => {
    expect([0, 5, 10, 12, 20, 25, 35, 99].map((f) => holdLevel(hold, f))).toEqual([1, 0.5, 1, 1, 0.5, 1, 1, 1]);
    expect(holdLevel({ ...hold, times: 0 }, 15 * 1000 + 5)).toBe(0.5);
    expect(holdLevel(hold, Infinity)).toBe(1);
    expect(holdLevel({ ...hold, start: 100 }, 50)).toBe(1);
  });

  it('begins when its graphic has come, and is not part of its coming', () => {
    const element = createElement('e', 'rectangle', { x: 0, y: 0, width: 10, height: 10 }, { hold, in: move('fade', 8) });
    const opacity = (frame: number) => motionOf(element, { in: frame, out: null }, 8, { width: 100, height: 100 }).opacity;
    expect([opacity(0), opacity(8), opacity(13)]).toEqual([0, 1, 0.5]);
  });
});

describe('a graphic in a box with corners', () => {
  it('is one picture, clear where nothing is drawn', () => {
    let d = must(sampleDesk(), 'layout.add', { name: 'One box' });
    const layout = d.show.layouts.at(-1)?.id as string;
    d = must(d, 'box.add', { layout, content: { kind: 'entry', id: 'card' }, rect: { x: 8, y: 4, width: 32, height: 18 } });
    const box = d.show.layouts.at(-1)?.boxes.at(-1)?.id as string;
    d = must(d, 'box.set', { layout, boxes: [box], radius: 3 });
    d = must(d, 'picture.cut', { picture: layout });
    const item = planFrame(d.show, d.air, 10).programme.base.find((i) => i.texture.kind === 'paint');
    expect(item).toMatchObject({ radius: 3, target: { x: 8, y: 4, width: 32, height: 18 } });
    expect(item?.texture.kind === 'paint' && item.texture.paint.bounds).toEqual({ x: 0, y: 0, ...d.show.graphics.list[0]?.raster });
  });
});
