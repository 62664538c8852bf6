/** Surfaces: from canvas to outputs, blends, four-corner fit, screens by number, and what is taken when. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rasterise } from '#tests/support/reference-rasteriser';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { smallWall as pier } from '#tests/support/small-wall';
import { TEST_PICTURES } from '#tests/support/test-pictures';
import { asItIsNow } from '../automation/as-now';
import { standOf } from '../automation/stand';
import { type Desk } from '../desk/air';
import { type PicturePlan, type TextureRef } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { takeSummary } from '../picture/summary';
import { SoftFinish } from '../picture/soft/finish';
import { createPlanes } from '../picture/soft/planes';
import { type Rect } from '../show/geometry';
import { surfaceNow } from './air';
import { fall, Light, softEdges } from './blend';
import { isSideways, planToOutput, rectToCanvas, rectToOutput, toCanvas, toOutput, wayOf } from './canvas';
import { finishOf, type OutputFinish } from './finish';
import { inverse, isConvex, pulled, squareTo, through } from './homography';
import { surfacePlan } from './look-scene';
import { findOutput } from './outputs';
import { takenWith } from './showing';
import { planOutput } from './plan';
import { CURVES, type Screen, TURNS } from './surface';
import { createScreen } from './surface-create';

const picture = (ref: TextureRef) => (ref.kind === 'source' ? (TEST_PICTURES[ref.id] ?? null) : null);

const shown = ({ show, air }: Desk, output: string, frame = 100) =>
  planOutput(planFrame(show, air, frame), show, air, findOutput(show, show.screens.outputs.find((o) => o.name === output)!.id)!);
const colour = (hex: string) => ({ kind: 'colour', colour: hex });

describe('from the canvas to an output', () => {
  const place = fc.record({
    x: fc.integer({ min: -20, max: 60 }),
    y: fc.integer({ min: -20, max: 60 }),
    width: fc.integer({ min: 1, max: 90 }),
    height: fc.integer({ min: 1, max: 90 }),
  });
  const turn = fc.constantFrom(...TURNS);

  it('leads there and back, for every turn and scale', () => {
    fc.assert(
      fc.property(place, place, turn, fc.integer({ min: -50, max: 90 }), fc.integer({ min: -50, max: 90 }), (rect, area, turned, x, y) => {
        const way = wayOf({ rect, turn: turned }, area);
        const back = toCanvas(way, toOutput(way, { x, y }));
        expect(back.x).toBeCloseTo(x, 6);
        expect(back.y).toBeCloseTo(y, 6);
        // The screen is its active area, no more and no less.
        for (const [got, wanted] of [
          [rectToOutput(way, rect), area],
          [rectToCanvas(way, area), rect],
        ] as const)
          for (const side of ['x', 'y', 'width', 'height'] as const) expect(got[side]).toBeCloseTo(wanted[side], 6);
      }),
    );
  });

  it('draws the very pixels of the canvas that the screen covers, turned as it is', () => {
    const names = Object.keys(TEST_PICTURES).filter((n) => TEST_PICTURES[n]?.opaque);
    // Even lengths: a quarter turn about its middle then lands on whole pixels.
    const evenPlace = place.map((r) => ({ ...r, width: r.width * 2, height: r.height * 2 }));
    const item = fc.record({
      rect: evenPlace,
      source: fc.constantFrom(...names),
      rotation: fc.constantFrom(undefined, 90, 180),
      opacity: fc.constantFrom(1, 0.5),
    });
    const canvas = { width: 64, height: 48 };
    fc.assert(
      fc.property(
        fc.array(item, { minLength: 1, maxLength: 4 }),
        turn,
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 10 }),
        (items, turned, x, y) => {
          const plan: PicturePlan = {
            base: items.map((i) => ({
              texture: { kind: 'source', id: i.source },
              target: i.rect,
              fit: 'fill',
              opacity: i.opacity,
              ...(i.rotation !== undefined && { rotation: i.rotation }),
            })),
            over: null,
            mix: null,
            lanes: [],
            black: 0,
          };
          const rect: Rect = { x, y, width: 32, height: 24 };
          const size = isSideways(turned) ? { width: 24, height: 32 } : { width: 32, height: 24 };
          // Beside other areas on its output.
          const area = { x: 3, y: 5, ...size };
          const pixels = { width: 60, height: 50 };
          const way = wayOf({ rect, turn: turned }, area);
          const whole = rasterise(plan, canvas, picture);
          const part = rasterise(planToOutput([way], plan, canvas, pixels), pixels, picture);
          let off = 0;
          for (let py = 0; py < pixels.height; py += 1)
            for (let px = 0; px < pixels.width; px += 1) {
              const on = toCanvas(way, { x: px + 0.5, y: py + 0.5 });
              const inside = px >= area.x && py >= area.y && px < area.x + area.width && py < area.y + area.height;
              const from = (Math.floor(on.y) * canvas.width + Math.floor(on.x)) * 4;
              for (let c = 0; c < 3; c += 1)
                if (Math.abs((part[(py * pixels.width + px) * 4 + c] as number) - (inside ? (whole[from + c] as number) : 0)) > 2) off += 1;
            }
          expect(off).toBe(0);
        },
      ),
      { numRuns: 60, seed: 5 },
    );
  });
});

describe('blends', () => {
  const screen = (i: number, rect: Rect, blends = true): Screen => createScreen(`s${i}`, `Screen ${i}`, rect, { blends });

  it('fall the same way from both sides', () => {
    for (const curve of CURVES) for (const t of [0, 0.1, 0.37, 0.5, 0.9, 1]) expect(fall(curve, t) + fall(curve, 1 - t)).toBeCloseTo(1, 12);
  });

  it('are one in light at every point, however screens lie, and alone a screen gives all', () => {
    const rect = fc.record({
      x: fc.integer({ min: 0, max: 60 }),
      y: fc.integer({ min: 0, max: 40 }),
      width: fc.integer({ min: 4, max: 60 }),
      height: fc.integer({ min: 4, max: 40 }),
    });
    const width = fc.option(fc.integer({ min: 0, max: 30 }), { nil: null });
    fc.assert(
      fc.property(fc.array(fc.tuple(rect, width), { minLength: 1, maxLength: 5 }), fc.constantFrom(...CURVES), (all, curve) => {
        const screens = all.map(([r, w], i) => ({ ...screen(i, r), edges: { left: w, top: w, right: w, bottom: w } }));
        const light = new Light({ screens, blend: { curve, gamma: 2.2, lift: 0 } });
        for (let y = 0.5; y < 80; y += 7)
          for (let x = 0.5; x < 120; x += 5) {
            const sum = screens.reduce((total, s) => total + light.share(s, { x, y }), 0);
            expect(sum).toBeCloseTo(light.count({ x, y }) > 0 ? 1 : 0, 9);
            if (light.count({ x, y }) === 1) expect(Math.max(...screens.map((s) => light.share(s, { x, y })))).toBe(1);
          }
      }),
    );
  });

  it('of two side by side fall across their overlap alone, and in signal by the gamma', () => {
    const [a, b] = [screen(1, { x: 0, y: 0, width: 40, height: 32 }), screen(2, { x: 30, y: 0, width: 40, height: 32 })];
    const light = new Light({ screens: [a, b], blend: { curve: 'straight', gamma: 2, lift: 0 } });
    expect(softEdges(a, [a, b]).map(({ side, width }) => [side, width])).toEqual([['right', 10]]);
    expect(light.share(a, { x: 29.9, y: 5 })).toBe(1);
    expect(light.share(a, { x: 35, y: 5 })).toBeCloseTo(0.5, 9);
    expect(light.share(a, { x: 32.5, y: 5 })).toBeCloseTo(0.75, 9);
    expect(light.signal(a, { x: 35, y: 5 })).toBeCloseTo(Math.SQRT1_2, 9);
    // One that does not blend leaves the other as it is.
    const alone = new Light({ screens: [a, { ...b, blends: false }], blend: { curve: 'straight', gamma: 2, lift: 0 } });
    expect(alone.share(a, { x: 35, y: 5 })).toBe(1);
  });
});

describe('the four-corner fit', () => {
  const offset = fc.record({ x: fc.integer({ min: -12, max: 12 }), y: fc.integer({ min: -9, max: 9 }) });

  it('takes corners to corners, and every point back', () => {
    fc.assert(
      fc.property(offset, offset, offset, offset, (topLeft, topRight, bottomRight, bottomLeft) => {
        const quad = pulled({ x: 4, y: 6, width: 40, height: 30 }, { topLeft, topRight, bottomRight, bottomLeft });
        fc.pre(isConvex(quad));
        const map = squareTo(quad);
        const square = [
          [0, 0],
          [1, 0],
          [1, 1],
          [0, 1],
        ] as const;
        square.forEach(([x, y], i) => {
          const to = through(map, { x, y });
          expect(to.x).toBeCloseTo(quad[i]!.x, 6);
          expect(to.y).toBeCloseTo(quad[i]!.y, 6);
        });
        for (const p of [
          { x: 0.3, y: 0.7 },
          { x: 0.9, y: 0.1 },
        ]) {
          const back = through(inverse(map), through(map, p));
          expect(back.x).toBeCloseTo(p.x, 6);
          expect(back.y).toBeCloseTo(p.y, 6);
        }
      }),
    );
  });

  it('is refused where the picture would be folded', () => {
    const { desk, id, surface } = pier();
    const none = { x: 0, y: 0 };
    const folded = { topLeft: { x: 60, y: 40 }, topRight: none, bottomRight: none, bottomLeft: none };
    expect(attempt(desk, 'surface.setScreens', { surface: id, screens: [surface.screens[0]!.id], corners: folded })).toMatchObject({
      ok: false,
      error: { code: 'not-convex', field: 'corners' },
    });
  });
});

describe('the finish of an output', () => {
  /** Grey planes with an even chroma, finished. */
  function finished(finish: NonNullable<OutputFinish>, width: number, height: number, y = 235, u = 128, v = 128) {
    const planes = createPlanes(width, height);
    planes.y.fill(y);
    planes.u.fill(u);
    planes.v.fill(v);
    new SoftFinish(finish, width).apply(planes);
    return planes;
  }

  it('blends two projectors so that their light is even on the wall', () => {
    const { desk, id } = pier();
    const surface = must(desk, 'surface.set', { surface: id, blend: { curve: 'smooth', gamma: 2.2, lift: 0 } }).show.screens.surfaces[0]!;
    const [left, right] = surface.screens;
    const planes = [left, right].map((s) => finished(finishOf(surface, s!.outputId!, { width: 40, height: 32 })!, 40, 32));
    const light = (p: ReturnType<typeof createPlanes>, x: number) =>
      x >= 0 && x < 40 ? (((p.y[5 * 40 + x] as number) - 16) / 219) ** 2.2 : 0;
    for (let x = 0; x < 70; x += 1) expect(Math.abs(light(planes[0]!, x) + light(planes[1]!, x - 30) - 1)).toBeLessThan(0.03);
  });

  it('lifts black where one projector shines alone, and leaves it where two do', () => {
    const { desk, id } = pier();
    const surface = must(desk, 'surface.set', { surface: id, blend: { curve: 'smooth', gamma: 2.2, lift: 0.1 } }).show.screens.surfaces[0]!;
    const left = finished(finishOf(surface, surface.screens[0]!.outputId!, { width: 40, height: 32 })!, 40, 32, 16);
    expect([left.y[5 * 40 + 10], left.y[5 * 40 + 35]]).toEqual([38, 16]);
  });

  it('gives each colour its light, and masks what must stay dark', () => {
    const { desk, id, surface } = pier();
    const sail = surface.screens[2]!;
    const set = must(desk, 'surface.setScreens', {
      surface: id,
      screens: [sail.id],
      gain: { red: 0.5, green: 0.5, blue: 0.5 },
      masks: [{ x: 0, y: 0, width: 10, height: 24 }],
    });
    const planes = finished(finishOf(set.show.screens.surfaces[0]!, sail.outputId!, { width: 48, height: 24 })!, 48, 24);
    expect(planes.y[12 * 48 + 5]).toBe(16);
    expect(Math.abs((planes.y[12 * 48 + 30] as number) - 126)).toBeLessThanOrEqual(1);
    // Blue taken from white leaves yellow: Y′ falls by its small share, Cb far.
    const yellow = must(desk, 'surface.setScreens', { surface: id, screens: [sail.id], gain: { red: 1, green: 1, blue: 0 } });
    const made = finished(finishOf(yellow.show.screens.surfaces[0]!, sail.outputId!, { width: 48, height: 24 })!, 48, 24);
    expect(made.y[12 * 48 + 30]).toBe(219);
    expect(made.u[6 * 24 + 15]).toBe(16);
    expect(Math.abs((made.v[6 * 24 + 15] as number) - 138)).toBeLessThanOrEqual(1);
  });

  it('pulls corners: what was at the corner of the picture is at the corner of the quadrilateral, and black beside it', () => {
    const { desk, id, surface } = pier();
    const sail = surface.screens[2]!;
    const corners = { topLeft: { x: 8, y: 4 }, topRight: { x: 0, y: 0 }, bottomRight: { x: 0, y: 0 }, bottomLeft: { x: 8, y: -4 } };
    const set = must(desk, 'surface.setScreens', { surface: id, screens: [sail.id], corners });
    const finish = finishOf(set.show.screens.surfaces[0]!, sail.outputId!, { width: 48, height: 24 })!;
    const planes = createPlanes(48, 24);
    // Left half dark grey, right half white.
    for (let y = 0; y < 24; y += 1) for (let x = 0; x < 48; x += 1) planes.y[y * 48 + x] = x < 24 ? 100 : 235;
    new SoftFinish(finish, 48).apply(planes);
    const at = (x: number, y: number) => planes.y[y * 48 + x];
    expect([at(2, 12), at(12, 1), at(10, 12), at(46, 1), at(46, 22)]).toEqual([16, 16, 100, 235, 235]);
    // The middle of the picture is not the middle of what is seen: nearer things are larger.
    const map = squareTo(pulled({ x: 0, y: 0, width: 48, height: 24 }, corners));
    const middle = through(map, { x: 0.5, y: 0.5 }).x;
    expect(middle).toBeLessThan(28);
    expect([at(Math.floor(middle) - 2, 12), at(Math.ceil(middle) + 1, 12)]).toEqual([100, 235]);
  });

  it('is none where nothing is done', () => {
    const { surface } = pier();
    expect(finishOf(surface, surface.screens[2]!.outputId!, { width: 48, height: 24 })).toBeNull();
  });
});

describe('screens on a canvas', () => {
  it('follow their real sizes, and line up with a gap or an overlap without rounding adding up', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 300, max: 4000, noNaN: true }), { minLength: 2, maxLength: 6 }),
        fc.integer({ min: -20, max: 40 }),
        fc.double({ min: 1, max: 9, noNaN: true }),
        (sizes, gap, pitch) => {
          let desk = must(sampleDesk(), 'surface.add', { width: 4000, height: 600, pitch });
          const surface = desk.show.screens.surfaces[0]!.id;
          for (let i = 0; i < sizes.length; i += 1)
            desk = must(desk, 'surface.addScreen', { surface, rect: { x: 0, y: 0, width: 10, height: 10 } });
          const ids = desk.show.screens.surfaces[0]!.screens.map((s) => s.id);
          sizes.forEach(
            (width, i) => (desk = must(desk, 'surface.setScreens', { surface, screens: [ids[i]], size: { width, height: 500 } })),
          );
          const rects = () => desk.show.screens.surfaces[0]!.screens.map((s) => s.rect);
          rects().forEach((r, i) => expect(Math.abs(r.width * pitch - sizes[i]!)).toBeLessThanOrEqual(pitch / 2 + 1e-9));
          fc.pre(rects().every((r) => r.width > 20));
          desk = must(desk, 'surface.lineUp', { surface, screens: ids, axis: 'across', gap });
          const all = [...rects()].sort((a, b) => a.x - b.x);
          const sum = all.reduce((total, r) => total + r.width, 0) + gap * (all.length - 1);
          expect(all.at(-1)!.x + all.at(-1)!.width - all[0]!.x).toBe(sum);
          desk = must(desk, 'surface.fit', { surface });
          const { width } = desk.show.screens.surfaces[0]!;
          expect([sum, sum + 1]).toContain(width);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('keep what they really measure when the scale changes', () => {
    const { desk, id, surface } = pier();
    const finer = must(desk, 'surface.rescale', { surface: id, pitch: 5 }).show.screens.surfaces[0]!;
    expect([finer.width, finer.height]).toEqual([192, 96]);
    finer.screens.forEach((s, i) => expect(s.rect.width * 5).toBe(surface.screens[i]!.rect.width * 10));
  });

  it('refuse overlaps as large as themselves, odd canvases, and moves while they are locked', () => {
    const { desk, id, surface } = pier();
    const screens = surface.screens.map((s) => s.id);
    const refusal = (type: string, args: Record<string, unknown>) => {
      const outcome = attempt(desk, type, { surface: id, ...args });
      return outcome.ok ? null : [outcome.error.code, outcome.error.field];
    };
    expect(refusal('surface.lineUp', { screens: screens.slice(0, 2), axis: 'across', gap: -40 })).toEqual(['bad-value', 'gap']);
    expect(refusal('surface.set', { width: 97 })).toEqual(['odd-canvas', 'width']);
    expect(refusal('surface.nudgeScreens', { screens: ['gone'], x: 1, y: 0 })).toEqual(['unknown-screen', 'screens']);
    const locked = must(desk, 'surface.setScreens', { surface: id, screens, locked: true });
    expect(attempt(locked, 'surface.nudgeScreens', { surface: id, screens, x: 1, y: 0 })).toMatchObject({
      ok: false,
      error: { code: 'locked' },
    });
    expect(attempt(desk, 'surface.nudgeScreens', { surface: id, screens, x: -20000, y: 0 }).ok).toBe(true);
    expect(refusal('surface.setScreens', { screens, outputId: 'nobody' })).toEqual(['nothing-there', 'outputId']);
  });

  it('go dark, and keep their place, when their output is removed', () => {
    const { desk } = pier();
    const gone = must(desk, 'screen.remove', { output: desk.show.screens.outputs[0]!.id });
    expect(gone.show.screens.surfaces[0]!.screens.map((s) => s.outputId === null)).toEqual([true, false, false]);
    const none = must(desk, 'surface.remove', { surface: desk.show.screens.surfaces[0]!.id });
    expect(none.show.screens.outputs.map((o) => o.shows)).toEqual(Array(3).fill({ kind: 'surface', surfaceId: null }));
    expect(shown(none, 'Left').plan.base).toEqual([]);
  });
});

describe('what is seen on a surface', () => {
  const withLayer = () => {
    const { desk, id } = pier();
    const set = must(desk, 'layer.background', { surface: id, content: colour('#102030') });
    const layered = must(set, 'layer.add', { surface: id, content: colour('#ff0000'), rect: { x: 34, y: 4, width: 10, height: 10 } });
    return { desk: layered, id, layer: layered.show.screens.surfaces[0]!.look.layers[0]!.id };
  };

  it('is what was taken: Next is built beside it, and taken by its own transition', () => {
    const { desk, id } = withLayer();
    expect(shown(desk, 'Left').plan.base).toEqual([]);
    const taken = must(desk, 'surface.take', { surfaces: [] }, 100);
    const half = shown(taken, 'Left', 112);
    expect(half.plan.mix).toMatchObject({ kind: 'dissolve' });
    const after = shown(taken, 'Left', 130).plan;
    expect([after.mix, after.base.length]).toEqual([null, 2]);
    // On both of the screens that overlap, each in its own pixels.
    expect(after.base[1]?.target.x).toBe(34);
    expect(shown(taken, 'Right', 130).plan.base[1]?.target.x).toBe(4);
    // The sail has only the background: what lies beside it is not drawn.
    expect(shown(taken, 'Sail', 130).plan.base.length).toBe(1);
    const edited = must(taken, 'layer.background', { surface: id, content: colour('#445566') }, 140);
    expect(shown(edited, 'Left', 150).plan).toEqual(shown(taken, 'Left', 150).plan);
    const back = must(edited, 'surface.asOnAir', { surface: id }, 150);
    expect(back.show.screens.surfaces[0]!.look).toEqual(taken.show.screens.surfaces[0]!.look);
    expect(attempt(back, 'surface.take', { surfaces: [] }, 160)).toMatchObject({ ok: false, error: { code: 'nothing-changes' } });
  });

  it('glides, dips and cuts; a second take waits, a cut ends it', () => {
    const { desk, id, layer } = withLayer();
    const first = must(desk, 'surface.take', { surfaces: [], cut: true }, 100);
    expect(shown(first, 'Left', 100).plan.base.length).toBe(2);
    const moved = must(first, 'layer.set', { surface: id, layers: [layer], rect: { x: 0, y: 4, width: 10, height: 10 } });
    const gliding = must(
      must(moved, 'surface.set', { surface: id, change: { kind: 'glide', frames: 20, colour: '#000000' } }),
      'surface.take',
      { surfaces: [] },
      200,
    );
    const middle = surfacePlan(gliding.show, gliding.air, gliding.show.screens.surfaces[0]!, 'air', 210);
    expect(middle.mix).toBeNull();
    expect(attempt(gliding, 'surface.take', { surfaces: [id] }, 210)).toMatchObject({ ok: false });
    const ended = must(gliding, 'surface.take', { surfaces: [id], cut: true }, 210);
    expect(surfaceNow(ended.air.screens, id, 210).change).toBeNull();
    const dipped = must(
      must(must(ended, 'layer.remove', { surface: id, layers: [layer] }), 'surface.set', {
        surface: id,
        change: { kind: 'dip', frames: 20, colour: '#ffffff' },
      }),
      'surface.take',
      { surfaces: [] },
      300,
    );
    expect(shown(dipped, 'Left', 310).plan.mix).toMatchObject({ kind: 'dip', colour: '#ffffff' });
  });

  it('goes with the programme’s take where that is wanted', () => {
    const { desk, id } = withLayer();
    const with_ = must(must(desk, 'surface.set', { surface: id, withTake: true }), 'picture.setNext', { picture: 'b' });
    expect(takenWith(with_.show, with_.air.screens).map((s) => s.name)).toEqual(['Pier wall']);
    expect(takeSummary(with_.show, with_.air, 90).map((c) => c.text)).toContain('Pier wall: background the colour #102030, Layer 1 comes');
    const taken = must(with_, 'picture.take', {}, 100);
    expect(surfaceNow(taken.air.screens, id, 100).change).toMatchObject({ kind: 'dissolve', start: 100 });
    expect(takenWith(taken.show, taken.air.screens)).toEqual([]);
    const cut = must(with_, 'picture.cut', {}, 100);
    expect(surfaceNow(cut.air.screens, id, 100)).toMatchObject({ change: null, look: { layers: [{ name: 'Layer 1' }] } });
    // A surface by itself stays.
    const alone = must(must(desk, 'picture.setNext', { picture: 'b' }), 'picture.take', {}, 100);
    expect(surfaceNow(alone.air.screens, id, 100).look.layers).toEqual([]);
  });

  it('is covered and frozen across all of its screens', () => {
    const { desk, id } = withLayer();
    const on = must(desk, 'surface.take', { surfaces: [], cut: true }, 100);
    const black = must(on, 'surface.over', { surfaces: [id], over: { kind: 'black' } }, 110);
    expect(shown(black, 'Left', 120).plan.base).toEqual([]);
    const test = must(on, 'surface.over', { surfaces: [], over: { kind: 'test', pattern: 'bars' } }, 110);
    // One picture across all: eight bars of twelve pixels, of which the left screen sees four.
    expect(shown(test, 'Left', 120).plan.base.length).toBe(4);
    expect(shown(must(on, 'surface.over', { surfaces: [], over: { kind: 'frozen' } }, 110), 'Left', 120).frozen).toBe(true);
    expect(shown(must(on, 'surface.over', { surfaces: [], over: { kind: 'card' } }, 110), 'Left', 120).plan.base.length).toBeGreaterThan(6);
    const free = must(black, 'surface.over', { surfaces: [], over: null }, 130);
    expect(shown(free, 'Left', 140).plan).toEqual(shown(on, 'Left', 140).plan);
    const one = must(on, 'screen.over', { outputs: [on.show.screens.outputs[0]!.id], over: { kind: 'frozen' } });
    expect([shown(one, 'Left', 120).frozen, shown(one, 'Right', 120).frozen]).toEqual([true, undefined]);
  });

  it('is kept as presets, for one surface or several, which change on purpose only', () => {
    const { desk, id } = withLayer();
    const stored = must(desk, 'surface.storePreset', { name: 'Welcome', surfaces: [id] });
    const preset = stored.show.screens.presets[0]!.id;
    const emptied = must(stored, 'layer.background', { surface: id, content: null });
    expect(emptied.show.screens.presets[0]!.looks[0]!.look.background).toEqual(colour('#102030'));
    const next = must(emptied, 'surface.recallPreset', { preset, to: 'next' }, 100);
    expect(next.show.screens.surfaces[0]!.look).toEqual(desk.show.screens.surfaces[0]!.look);
    expect(surfaceNow(next.air.screens, id, 100).look.layers).toEqual([]);
    const air = must(emptied, 'surface.recallPreset', { preset, to: 'air' }, 100);
    expect(surfaceNow(air.air.screens, id, 100).look.layers.length).toBe(1);
    const over = must(emptied, 'surface.overwritePreset', { preset });
    expect(over.show.screens.presets[0]!.looks[0]!.look.background).toBeNull();
    // A surface that goes takes its look along, and nothing else of the preset.
    const both = must(must(desk, 'surface.add', {}), 'surface.storePreset', { surfaces: [] });
    expect(must(both, 'surface.remove', { surface: id }).show.screens.presets[0]!.looks.length).toBe(1);
  });

  it('is taken as it is now by a macro, from any other state', () => {
    const { desk, id } = withLayer();
    const on = must(desk, 'surface.take', { surfaces: [], cut: true }, 100);
    const prepared = must(on, 'layer.background', { surface: id, content: colour('#445566') }, 110);
    const covered = must(prepared, 'surface.over', { surfaces: [id], over: { kind: 'black' } }, 110);
    const commands = asItIsNow(covered, [`surface ${id}`], 120);
    let other = must(must(covered, 'layer.background', { surface: id, content: null }), 'surface.take', { surfaces: [], cut: true }, 130);
    other = must(other, 'surface.over', { surfaces: [], over: null }, 130);
    for (const { type, args } of commands) other = must(other, type, args, 140);
    expect(standOf(other, 140)).toEqual(standOf(covered, 140));
    expect(other.show.screens.surfaces).toEqual(covered.show.screens.surfaces);
    // The same again is no refusal.
    for (const { type, args } of commands) other = must(other, type, args, 150);
    expect(
      attempt(desk, 'surface.setLook', { surface: id, to: 'next', look: { background: { kind: 'source', id: 'nobody' }, layers: [] } }),
    ).toMatchObject({ ok: false, error: { code: 'nothing-there' } });
  });

  it('is put on screens, halves, thirds and named places', () => {
    const { desk, id, layer } = withLayer();
    const surface = desk.show.screens.surfaces[0]!;
    const rect = (d: Desk) => d.show.screens.surfaces[0]!.look.layers[0]!.rect;
    const on = (args: Record<string, unknown>) => rect(must(desk, 'layer.on', { surface: id, layers: [layer], ...args }));
    expect(on({ screens: [surface.screens[2]!.id] })).toEqual({ x: 72, y: 0, width: 24, height: 48 });
    expect(on({ screens: surface.screens.slice(0, 2).map((s) => s.id) })).toEqual({ x: 0, y: 0, width: 70, height: 32 });
    expect(on({})).toEqual({ x: 0, y: 0, width: 96, height: 48 });
    expect(on({ screens: [surface.screens[0]!.id], part: 'right half' })).toEqual({ x: 20, y: 0, width: 20, height: 32 });
    const placed = must(desk, 'surface.addPlace', { surface: id, name: 'Middle', rect: { x: 20, y: 8, width: 30, height: 16 } });
    expect(rect(must(placed, 'layer.on', { surface: id, layers: [layer], place: placed.show.screens.surfaces[0]!.places[0]!.id }))).toEqual(
      { x: 20, y: 8, width: 30, height: 16 },
    );
    expect(attempt(desk, 'layer.nudge', { surface: id, layers: [layer], x: -500, y: 0 })).toMatchObject({
      ok: false,
      error: { code: 'outside' },
    });
  });

  it('can be the programme, and a layout in its own coordinates', () => {
    const { desk, id } = pier();
    const set = must(must(desk, 'layer.add', { surface: id, shows: 'programme' }), 'surface.take', { surfaces: [], cut: true }, 100);
    expect(shown(set, 'Left', 110).plan.base[0]?.texture).toEqual({ kind: 'output', id: 'programme' });
    const canvas = must(desk, 'screen.add', { name: 'Stage', shows: { kind: 'canvas', surfaceId: id, which: 'next', drawn: true } });
    const planned = shown(canvas, 'Stage', 110);
    expect(planned.raster).toEqual({ width: 96, height: 48 });
    expect(planned.plan.lanes.length).toBeGreaterThan(12);
  });
});
