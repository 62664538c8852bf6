import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk } from '#tests/support/sample-show';
import { containRect } from '../show/geometry';
import { planFrame } from './plan';
import { wipeCoverage, wipeTurn } from './wipe';
import { takeSummary } from './summary';
import { tallyOf } from './tally';

describe('the frame plan', () => {
  it('is one full picture at rest', () => {
    const { show, air } = sampleDesk();
    const { programme, next } = planFrame(show, air, 5);
    expect(programme).toMatchObject({ over: null, mix: null, lanes: [], black: 0 });
    expect(programme.base).toEqual([
      { texture: { kind: 'source', id: 'a' }, sourceId: 'a', target: { x: 0, y: 0, width: 64, height: 36 }, fit: 'contain', opacity: 1 },
    ]);
    expect(next.base[0]?.texture).toEqual({ kind: 'source', id: 'b' });
  });

  it('mixes both pictures on the way, and shows the armed lane in Next', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-2', content: { kind: 'picture', id: 'card' } });
    desk = must(desk, 'lane.arm', { lane: 'lane-2' });
    expect(planFrame(desk.show, desk.air, 0).next.lanes).toHaveLength(3);
    desk = must(desk, 'picture.arm', { kind: 'wipe', angle: 270, softness: 0.2 });
    desk = must(desk, 'picture.take', {}, 0);
    const { programme } = planFrame(desk.show, desk.air, 10);
    expect(programme.base[0]?.texture).toEqual({ kind: 'source', id: 'a' });
    expect(programme.over?.[0]?.texture).toEqual({ kind: 'source', id: 'b' });
    expect(programme.mix).toEqual({ kind: 'wipe', position: 0.5, shape: 'linear', angle: 270, softness: 0.2 });
    expect(programme.lanes[0]).toMatchObject({ opacity: 0.5, texture: { kind: 'paint' } });
  });

  it('goes to black when a clip that should has ended', () => {
    let desk = must(sampleDesk(), 'media.setPlayback', { source: 'clip', atEnd: 'black' });
    desk = must(desk, 'picture.cut', { picture: 'clip' }, 0);
    expect(planFrame(desk.show, desk.air, 249).programme.base[0]?.texture).toEqual({ kind: 'source', id: 'clip' });
    expect(planFrame(desk.show, desk.air, 250).programme.base[0]?.texture).toEqual({ kind: 'colour', colour: '#000000' });
  });
});

describe('fitting', () => {
  it('never distorts, never leaves the target, and touches it', () => {
    const side = fc.integer({ min: 1, max: 4000 });
    fc.assert(
      fc.property(side, side, side, side, (tw, th, w, h) => {
        const r = containRect({ x: 10, y: 20, width: tw, height: th }, w, h);
        expect(r.width / r.height).toBeCloseTo(w / h, 6 - Math.ceil(Math.log10(Math.max(1, w / h))));
        expect(r.x >= 10 - 1e-6 && r.y >= 20 - 1e-6 && r.x + r.width <= 10 + tw + 1e-6 && r.y + r.height <= 20 + th + 1e-6).toBe(true);
        expect(Math.min(tw - r.width, th - r.height)).toBeLessThan(1e-6);
      }),
    );
  });
});

describe('the wipe', () => {
  const unit = fc.double({ min: 0, max: 1, noNaN: true });
  const shape = fc.constantFrom('linear' as const, 'radial' as const, 'iris' as const, 'clock' as const);
  const angle = fc.integer({ min: -360, max: 360 });

  it('shows nothing of the new picture at 0 and all of it at 1, and only ever more between', () => {
    fc.assert(
      fc.property(shape, angle, unit, unit, unit, unit, unit, (kind, degrees, softness, u, v, p, q) => {
        const at = (position: number) => wipeCoverage(position, softness, wipeTurn(kind, degrees, u, v, 640, 360));
        expect(at(0)).toBeCloseTo(0, 6);
        expect(at(1)).toBeCloseTo(1, 6);
        expect(at(Math.min(p, q))).toBeLessThanOrEqual(at(Math.max(p, q)));
      }),
    );
  });

  it('gives every place a turn from 0 to 1', () => {
    fc.assert(
      fc.property(shape, angle, unit, unit, (kind, degrees, u, v) => {
        const turn = wipeTurn(kind, degrees, u, v, 640, 360);
        expect(turn).toBeGreaterThanOrEqual(-1e-9);
        expect(turn).toBeLessThanOrEqual(1 + 1e-9);
      }),
    );
  });

  it('travels where its angle points, and opens an iris from the middle', () => {
    const at = (degrees: number, u: number, v: number) => Math.round(wipeCoverage(0.5, 0, wipeTurn('linear', degrees, u, v, 16, 9)));
    expect([at(0, 0.1, 0.5), at(0, 0.9, 0.5)]).toEqual([1, 0]);
    expect([at(180, 0.1, 0.5), at(180, 0.9, 0.5)]).toEqual([0, 1]);
    expect([at(90, 0.5, 0.1), at(270, 0.5, 0.1)]).toEqual([1, 0]);
    expect(wipeTurn('iris', 0, 0.5, 0.5, 16, 9)).toBe(0);
    expect(wipeTurn('clock', -90, 0.5, 0, 16, 9)).toBeCloseTo(0, 9);
    expect(wipeTurn('clock', -90, 1, 0.5, 16, 9)).toBeCloseTo(0.25, 9);
    expect(wipeTurn('radial', -90, 0.5, 1, 16, 9)).toBeCloseTo(1, 9);
  });
});

describe('tally', () => {
  it('tells every role of every source', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'bug' } });
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 0);
    desk = must(desk, 'picture.take', {}, 50);
    const during = tallyOf(desk.show, desk.air, 60);
    expect([during.a?.onAir, during.b?.onAir, during.a?.next, during.bug?.inUse]).toEqual([true, true, true, true]);
    const after = tallyOf(desk.show, desk.air, 70);
    expect([after.a?.onAir, after.b?.onAir, after.c?.next]).toEqual([false, true, false]);
  });

  it('marks a lane at the very frame it is put up, and an armed one as coming', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'bug' } });
    expect(tallyOf(must(desk, 'lane.arm', { lane: 'lane-1' }).show, must(desk, 'lane.arm', { lane: 'lane-1' }).air, 0).bug).toMatchObject({
      nextInUse: true,
      inUse: false,
    });
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 10);
    expect(tallyOf(desk.show, desk.air, 10).bug?.inUse).toBe(true);
  });
});

describe('what the take will change', () => {
  it('names picture, sound, player and lanes', () => {
    let desk = must(sampleDesk(), 'picture.setNext', { picture: 'clip' });
    desk = must(desk, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: 'card' } });
    desk = must(desk, 'lane.arm', { lane: 'lane-1' });
    expect(takeSummary(desk.show, desk.air, 0).map((c) => c.text)).toEqual([
      'Camera a → Clip (dissolve, 20 frames)',
      'Names: Ada Holm, Pilot comes',
      'Camera a goes',
      'Clip comes',
      'Clip plays 0:10, then holds',
    ]);
  });

  it('is empty when a take would change nothing', () => {
    const desk = must(sampleDesk(), 'picture.setNext', { picture: 'a' });
    expect(takeSummary(desk.show, desk.air, 0)).toEqual([]);
  });

  it('agrees with what the take does to the picture', () => {
    fc.assert(
      fc.property(fc.constantFrom('a', 'b', 'c', 'clip'), (source) => {
        const desk = must(sampleDesk(), 'picture.setNext', { picture: source });
        const told = takeSummary(desk.show, desk.air, 0).some((c) => c.area === 'picture');
        expect(told).toBe(must(desk, 'picture.take').air.onAirId !== 'a');
      }),
    );
  });
});
