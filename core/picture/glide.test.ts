import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { glide, pairBoxes } from './glide';
import { planFrame } from './plan';
import { sceneOf } from './scene';

/** Seats Host (camera a) and Guest (camera b); a two-box with both, a one-box with the guest. */
function withLayouts(): { desk: Desk; two: string; one: string; host: string; guest: string } {
  let desk = sampleDesk();
  const add = (type: string, args: Record<string, unknown>) => {
    desk = must(desk, type, args);
  };
  add('seat.add', { name: 'Host' });
  add('seat.add', { name: 'Guest' });
  const [host, guest] = desk.show.seats.map((s) => s.id) as [string, string];
  add('seat.fill', { seat: host, occupant: 'a' });
  add('seat.fill', { seat: guest, occupant: 'b' });
  add('layout.add', { starter: 'two' });
  const two = desk.show.layouts[0]?.id ?? '';
  add('layout.add', { starter: 'one', name: 'One' });
  const one = desk.show.layouts[1]?.id ?? '';
  add('box.set', { layout: one, boxes: [desk.show.layouts[1]?.boxes[0]?.id], content: { kind: 'seat', id: guest } });
  return { desk, two, one, host, guest };
}

describe('glide', () => {
  it('finds partners by seat, then by source; the rest fade', () => {
    const { desk, two, one, guest } = withLayouts();
    const [from, to] = [sceneOf(desk.show, desk.air, two, 0), sceneOf(desk.show, desk.air, one, 0)];
    const pairs = pairBoxes(from, to);
    expect(pairs.map((p) => [p.from?.seatId === guest, p.to?.seatId === guest])).toEqual([
      [false, false],
      [true, true],
    ]);
    const camera = sceneOf(desk.show, desk.air, 'b', 0);
    expect(pairBoxes(from, camera).filter((p) => p.from && p.to)).toHaveLength(1);
    const half = glide(from, to, 0.5);
    expect(half.map((i) => i.opacity)).toEqual([0.5, 1]);
    const [a, b] = [from[1]?.target, to[0]?.target];
    expect(half[1]?.target.width).toBeCloseTo(((a?.width ?? 0) + (b?.width ?? 0)) / 2, 9);
  });

  it('is exactly the old picture at its start and exactly the new one at its end, whatever is armed and interrupted', () => {
    const { desk: start, two, one } = withLayouts();
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 60 }),
        fc.constantFrom('linear', 'in', 'out', 'in-out'),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (frames, easing, bar) => {
          let desk = must(must(must(start, 'picture.cut', { picture: two }), 'picture.setNext', { picture: one }), 'picture.arm', {
            kind: 'glide',
            frames,
            easing,
          });
          desk = must(desk, 'picture.take', {}, 100);
          const at = (d: Desk, frame: number) => planFrame(d.show, d.air, frame).programme;
          expect(at(desk, 100).base).toEqual(sceneOf(desk.show, desk.air, two, 100));
          expect(at(desk, 100 + frames).base).toEqual(sceneOf(desk.show, desk.air, one, 0));
          expect(at(desk, 101).mix).toBeNull();
          // Caught by the bar in the middle and taken back.
          const caught = must(desk, 'picture.moveBar', { position: bar }, 101);
          const back = must(caught, 'picture.moveBar', { position: 0 }, 102);
          if (bar < 1 && bar > 0) expect(at(back, 103).base).toEqual(sceneOf(desk.show, desk.air, two, 0));
        },
      ),
    );
  });

  it('moves every value of a box in step', () => {
    const { desk, two, one } = withLayouts();
    const id = desk.show.layouts[0]?.boxes[1]?.id;
    const styled = must(desk, 'box.set', {
      layout: two,
      boxes: [id],
      radius: 8,
      rotation: 40,
      border: { width: 4, colour: '#ff0000' },
      shadow: { x: 2, y: 2, blur: 6, opacity: 1 },
    });
    const half = glide(sceneOf(styled.show, styled.air, two, 0), sceneOf(styled.show, styled.air, one, 0), 0.5)[1];
    expect(half).toMatchObject({ radius: 4, rotation: 20, border: { width: 2, colour: '#ff0000' }, shadow: { opacity: 0.5 } });
  });
});

describe('transitions of their own', () => {
  it('uses a pair before a picture before what is armed, and says so', () => {
    const { desk, two } = withLayouts();
    const cut = { ...desk.show.transition, kind: 'cut' };
    const dip = { ...desk.show.transition, kind: 'dip' };
    let d = must(desk, 'transition.override', { to: two, settings: cut });
    d = must(must(d, 'picture.setNext', { picture: two }), 'picture.take', {}, 10);
    expect(d.air).toMatchObject({ onAirId: two, transition: null });
    d = must(
      must(must(d, 'picture.cut', { picture: 'a' }), 'transition.override', { to: two, from: 'a', settings: dip }),
      'picture.setNext',
      { picture: two },
    );
    d = must(d, 'picture.take', {}, 20);
    expect(d.air.transition?.settings.kind).toBe('dip');
  });

  it('dissolves instead of a stinger that is lost or not transparent, and never waits for it', () => {
    let d = must(must(sampleDesk(), 'picture.arm', { kind: 'stinger', stingerId: 'bug', cutFrame: 10 }), 'picture.take', {}, 0);
    expect(d.air.transition?.settings.kind).toBe('stinger');
    const before = planFrame(d.show, d.air, 9).programme.base;
    const after = planFrame(d.show, d.air, 11).programme.base;
    expect([before[0]?.sourceId, after[0]?.sourceId]).toEqual(['a', 'b']);
    expect(before.at(-1)?.texture).toEqual({ kind: 'source', id: 'bug' });
    d = must(sampleDesk(), 'picture.arm', { kind: 'stinger', stingerId: 'bug' });
    d = must(must(d, 'source.report', { source: 'bug', cause: 'its file is missing' }), 'picture.take', {}, 0);
    expect(d.air.transition?.settings.kind).toBe('dissolve');
    d = must(must(sampleDesk(), 'picture.arm', { kind: 'stinger', stingerId: 'clip' }), 'picture.take', {}, 0);
    expect(d.air.transition?.settings.kind).toBe('dissolve');
  });
});
