/** Animations: read and checked, their parts, where they wait, and what is drawn of them while values change. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createGraphicsAir } from '../air';
import { type Desk } from '../../desk/air';
import { type Value } from '../document';
import { graphicItems } from '../items';
import { inLength, outLength } from '../lengths';
import { showProblems } from '../../desk/validate';
import { planFrame } from '../../picture/plan';
import { must, sampleDesk } from '#tests/support/sample-show';
import { animationContent, animationGraphic } from './create';
import { type AnimationContent } from './document';
import { type Lottie, LottieError, type Raw, readLottie } from './lottie';
import { changingFrame, comesFrames, frameAt, goesFrames } from './motion';
import { filledLottie, layerGroups, layerUnits, partsOf } from './parts';
import { problemsOf } from './problems';
import { holdsOf, settledFrame, stillsOf } from './stills';
import { heldUntil } from './timed';

const still = (k: unknown) => ({ a: 0, k });
const transform = (change: Raw = {}): Raw => ({
  o: still(100),
  r: still(0),
  a: still([0, 0]),
  s: still([100, 100]),
  p: still([0, 0]),
  ...change,
});
const keys = (...list: [number, number[]][]) => ({
  a: 1,
  k: list.map(([t, s]) => ({ t, s, i: { x: [0.5], y: [1] }, o: { x: [0.5], y: [0] } })),
});
const layer = (change: Raw): Raw => ({ ip: 0, op: 100, st: 0, sr: 1, ks: transform(), ...change });
const text = (nm: string, t: string, change: Raw = {}): Raw =>
  layer({ ty: 5, nm, t: { d: { k: [{ t: 0, s: { t, f: 'Oswald', s: 40, fc: [1, 0, 0] } }] }, p: {}, m: {}, a: [] }, ...change });
const shape = (nm: string, change: Raw = {}): Raw =>
  layer({
    ty: 4,
    nm,
    shapes: [
      {
        ty: 'gr',
        it: [
          { ty: 'rc', p: still([0, 0]), s: still([9, 9]), r: still(0) },
          { ty: 'fl', nm: 'Fill', c: still([0, 0.5, 1]), o: still(100) },
          { ty: 'tr', ...transform() },
        ],
      },
    ],
    ...change,
  });
const doc = (layers: Raw[], change: Raw = {}): Lottie =>
  readLottie({ v: '5.7', fr: 25, ip: 0, op: 100, w: 640, h: 360, layers, ...change });

/** A plate that slides in until frame 20 and out from frame 80 on, with a name over it. */
const plate = () =>
  doc([
    text('Name', 'Ada', { ks: transform({ o: keys([0, [0]], [15, [100]], [85, [100]], [99, [0]]) }) }),
    shape('Plate', { ks: transform({ p: keys([0, [-100, 0]], [20, [0, 0]], [80, [0, 0]], [99, [-100, 0]]) }) }),
  ]);

describe('an animation that comes in', () => {
  it('is refused with place and cause when it is none, damaged, or too large', () => {
    const refused = (data: unknown, why: RegExp) => {
      expect(() => readLottie(data)).toThrow(LottieError);
      expect(() => readLottie(data)).toThrow(why);
    };
    const ok = { fr: 25, ip: 0, op: 10, w: 100, h: 100, layers: [] };
    expect(readLottie(ok).op).toBe(10);
    refused(null, /no layers/);
    refused({ ...ok, w: -3 }, /Its w is -3/);
    refused({ ...ok, fr: 'x' }, /fr is "x"/);
    refused({ ...ok, op: 0 }, /no length/);
    refused({ ...ok, layers: Array.from({ length: 10_000 }, () => ({ ty: 3 })) }, /more than 3000 layers/);
    const comp = (id: string, refId: string) => ({ id, layers: [{ ty: 0, refId }] });
    refused({ ...ok, assets: [comp('a', 'b'), comp('b', 'a')] }, /shows itself/);
    // Twice two, thirty times over.
    const deep = Array.from({ length: 12 }, (_, i) => ({
      id: `c${i}`,
      layers: Array.from({ length: 9 }, () => ({ ty: 0, refId: `c${i + 1}` })),
    }));
    refused({ ...ok, assets: deep, layers: [{ ty: 0, refId: 'c0' }] }, /more than 3000 layers/);
    let nested: unknown = 1;
    for (let i = 0; i < 300; i += 1) nested = { a: nested };
    refused({ ...ok, nested }, /too deep/);
  });

  it('never runs an expression and fetches nothing: both are said by layer', () => {
    const came = {
      fr: 25,
      ip: 0,
      op: 10,
      w: 9,
      h: 9,
      layers: [shape('Wheel', { ks: transform({ r: { a: 0, k: 0, x: 'time * 99' } }), ef: [{ en: 1 }] }), layer({ ty: 13, nm: 'Lens' })],
      assets: [{ id: 'i', p: 'https://elsewhere.example/x.png', w: 1, h: 1 }],
      fonts: { list: [{ fName: 'Nowhere-Bold', fFamily: 'Nowhere' }] },
    };
    const read = readLottie(came);
    expect(JSON.stringify(read)).not.toContain('time * 99');
    expect(read.assets).toMatchObject([{ p: '', missing: 'https://elsewhere.example/x.png' }]);
    const said = problemsOf(came, read, new Set(['Oswald'])).join('\n');
    for (const what of [
      'Wheel: an expression is not run',
      'Wheel: its effects',
      'Lens: it is a camera',
      'elsewhere.example',
      'the font Nowhere is not here',
    ])
      expect(said).toContain(what);
    // The bytes that came are not touched.
    expect(JSON.stringify(came)).toContain('time * 99');
  });

  it('whatever it holds is read or refused in words', () => {
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), fc.jsonValue({ maxDepth: 4 }), (layers, assets) => {
        try {
          const read = readLottie({ fr: 25, ip: 0, op: 50, w: 64, h: 36, layers, assets });
          const parts = partsOf(read);
          stillsOf(read);
          problemsOf({ layers, assets }, read, new Set());
          filledLottie(
            read,
            parts.map(({ kind, path }) => ({ kind, path, value: kind === 'colour' ? '#102030' : 'x' })),
            [0],
          );
        } catch (error) {
          expect(error).toBeInstanceOf(LottieError);
        }
      }),
    );
  });
});

describe('parts', () => {
  it('are found by kind and named from their layers, in compositions too', () => {
    const d = doc(
      [
        text('Name', 'Ada'),
        layer({ ty: 0, nm: 'Card', refId: 'c' }),
        layer({ ty: 2, nm: 'Face', refId: 'img' }),
        layer({ ty: 1, nm: 'Ground', sc: '#102030', sw: 9, sh: 9 }),
      ],
      {
        assets: [
          { id: 'c', nm: 'Inside', layers: [text('Role', 'Pilot'), shape('Dot')] },
          { id: 'img', w: 4, h: 4, p: 'data:image/png;base64,AA==' },
        ],
      },
    );
    expect(partsOf(d).map((p) => [p.kind, p.name, p.layers, p.was])).toEqual(
      expect.arrayContaining([
        ['text', 'Name', [0], 'Ada'],
        ['text', 'Inside / Role', [1], 'Pilot'],
        ['image', 'Face', [2], ''],
        ['colour', 'Name: colour', [0], '#ff0000'],
        ['colour', 'Ground: colour', [3], '#102030'],
        ['colour', 'Inside / Dot: Fill', [1], '#0080ff'],
        ['flag', 'Card: shown', [1], ''],
      ]),
    );
  });

  it('are filled in without touching what came', () => {
    const d = plate();
    const before = JSON.stringify(d);
    const by = new Map(partsOf(d).map((p) => [p.name, p]));
    const given = (name: string, value: string) => ({ kind: by.get(name)?.kind ?? 'text', path: by.get(name)?.path ?? '', value });
    const filled = filledLottie(d, [given('Name', 'Bo\nLind'), given('Plate: Fill', '#ff0080'), given('Plate: shown', '')], null);
    expect(JSON.stringify(d)).toBe(before);
    expect(filled.layers[0]).toMatchObject({ t: { d: { k: [{ s: { t: 'Bo\rLind' } }] } } });
    expect(filled.layers[1]).toMatchObject({ hd: true, shapes: [{ it: [{}, { c: { k: [1, 0, 128 / 255, 1] } }, {}] }] });
    // A path that leads nowhere, or to the language itself, changes nothing.
    for (const path of ['layers/9/t', 'constructor/prototype/x', '__proto__/x', ''])
      expect(filledLottie(d, [{ kind: 'text', path, value: 'x' }], null)).toEqual(filledLottie(d, [], null));
    expect(({} as Raw).x).toBeUndefined();
  });

  it('split the layers just where something is filled in, and keep a matte with its layer', () => {
    const d = doc([shape('Top'), shape('Matte', { td: 1 }), text('Under', 'x', { tt: 1 }), shape('Low'), shape('Lowest')]);
    const units = layerUnits(d);
    expect(units).toEqual([[4], [3], [2, 1], [0]]);
    expect(layerGroups(units, new Set([2]))).toEqual([[4, 3], [2, 1], [0]]);
    expect(layerGroups(units, new Set())).toEqual([[4, 3, 2, 1, 0]]);
  });
});

describe('where it waits', () => {
  it('is at its markers, else where nothing moves for longest, else at its end', () => {
    const d = plate();
    expect(stillsOf(d)).toEqual([{ from: 20, to: 79 }]);
    expect(holdsOf(d, stillsOf(d))).toEqual({ frames: [20], why: 'stillness' });
    const marked = doc(plate().layers, {
      markers: [
        { cm: 'Hold', tm: 50, dr: 0 },
        { cm: 'x', tm: 3 },
        { cm: 'hold', tm: 30 },
      ],
    });
    expect(holdsOf(marked, [])).toEqual({ frames: [30, 50], why: 'markers' });
    const moving = doc([shape('S', { ks: transform({ r: keys([0, [0]], [100, [360]]) }) })]);
    expect(holdsOf(moving, stillsOf(moving))).toEqual({ frames: [99], why: 'end' });
  });

  it('sees what moves inside of compositions, at its own pace, and what comes and goes at once', () => {
    const inside = shape('In', { ks: transform({ r: keys([0, [0]], [10, [90]]) }) });
    const d = doc([layer({ ty: 0, refId: 'c', st: 30, sr: 2 }), shape('Late', { ip: 70 })], { assets: [{ id: 'c', layers: [inside] }] });
    expect(stillsOf(d)).toEqual([
      { from: 0, to: 29 },
      { from: 50, to: 69 },
      { from: 70, to: 99 },
    ]);
    expect(settledFrame(stillsOf(d), 63.5)).toBe(50);
    expect(settledFrame(stillsOf(d), 40.25)).toBe(40.25);
  });
});

const graphic = () => {
  const made = animationContent(plate(), { assetId: 'file', fileName: 'plate.json', rate: { num: 50, den: 1 }, problems: 0 });
  return animationGraphic('anim', 'Plate', made, { width: 640, height: 360 });
};
const contentOf = () => {
  const { content } = graphic().elements[0] as { content: { kind: string } };
  return content as never;
};

describe('on its way', () => {
  it('comes to where it waits, and goes to its end, at the pace of the show', () => {
    const a = contentOf();
    expect([comesFrames(a), goesFrames(a), inLength(graphic()), outLength(graphic())]).toEqual([40, 42, 40, 42]);
    expect([0, 10, 40, 999].map((f) => frameAt(a, f, null))).toEqual([0, 5, 20, 20]);
    // What stands still before it goes is skipped.
    expect([0, 2, 22, 42].map((f) => frameAt(a, Infinity, f))).toEqual([20, 80, 90, null]);
    expect(frameAt(a, 10, 0)).toBe(5);
  });

  it('with several hold points goes on to the next when it is shown again', () => {
    const twice = doc([shape('S', { ks: transform({ p: keys([0, [0, 0]], [20, [10, 0]], [60, [10, 0]], [80, [20, 0]]) }) })], {
      markers: [
        { cm: 'hold', tm: 30 },
        { cm: 'hold', tm: 85 },
      ],
    });
    const made = animationContent(twice, { assetId: 'file', fileName: 'two.json', rate: { num: 25, den: 1 }, problems: 0 });
    let desk = must(sampleDesk(), 'graphic.bring', {
      graphic: animationGraphic('two', 'Two', made, { width: 640, height: 360 }) as unknown as Raw,
    });
    const id = desk.show.graphics.list.at(-1)?.id as string;
    const frame = (at: number) =>
      planFrame(desk.show, desk.air, at).programme.lanes.map(
        (i) => i.texture.kind === 'paint' && i.texture.paint.inked[0]?.moment?.animation?.frame,
      )[0];
    desk = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: id }, 100);
    expect([frame(110), frame(200)]).toEqual([10, 20]);
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 200);
    // What stands still at the first is left at once.
    expect([frame(201), frame(210), frame(300)]).toEqual([60, 69, 80]);
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 300);
    expect(frame(400)).toBe(80);
  });

  it('goes on after the seconds of a hold, and leaves after those of the last', () => {
    const twice = doc([shape('S', { ks: transform({ p: keys([0, [0, 0]], [20, [10, 0]], [60, [10, 0]], [80, [20, 0]]) }) })], {
      markers: [
        { cm: 'hold', tm: 20 },
        { cm: 'hold', tm: 80 },
      ],
    });
    const made = animationContent(twice, { assetId: 'file', fileName: 'two.json', rate: { num: 25, den: 1 }, problems: 0 });
    made.content.holds = made.content.holds.map((h) => ({ ...h, seconds: 2 }));
    const brought = animationGraphic('two', 'Two', made, { width: 640, height: 360 });
    // Made for 25 frames a second, it comes from a show of 50.
    (brought.elements[0]?.content as AnimationContent).pace = 0.5;
    let desk = must(sampleDesk(), 'graphic.bring', { graphic: brought as unknown as Raw });
    const graphic = desk.show.graphics.list.at(-1);
    expect(graphic?.elements[0]?.content).toMatchObject({ pace: 1, rate: 25 });
    desk = must(
      must(desk, 'lane.set', { lane: 'lane-1', holdSeconds: null }),
      'lane.showPicture',
      { lane: 'lane-1', picture: graphic?.id },
      100,
    );
    const until = (now: Desk) => {
      const picture = now.air.lanes['lane-1']?.picture;
      return picture?.kind === 'graphic' ? heldUntil(picture.shown, now.show.rate) : null;
    };
    // 20 frames to the first, two seconds there; 21 to the second from the last frame of what stands still, two seconds there.
    expect(until(desk)).toBe(170);
    expect(must(desk, 'lane.holdOver', { lane: 'lane-1' }, 169)).toBe(desk);
    desk = must(desk, 'lane.holdOver', { lane: 'lane-1' }, 170);
    expect(until(desk)).toBe(241);
    desk = must(desk, 'lane.holdOver', { lane: 'lane-1' }, 241);
    expect(desk.air.lanes['lane-1']?.fade.to).toBe(0);
  });

  it('lets changed layers go and come by their own animation while the others stand', () => {
    const a = contentOf();
    expect(changingFrame(a, 22)).toEqual({ which: 'old', frame: 90 });
    expect(changingFrame(a, 52)).toEqual({ which: 'new', frame: 5 });
    const g = graphic();
    const values = (name: string) => [{ fieldId: g.fields[0]?.id ?? '', value: { kind: 'text', text: name } as Value }];
    const paints = (frames: number | null) =>
      graphicItems({
        filled: { graphic: g, values: values('Bo') },
        before: frames === null ? null : { filled: { graphic: g, values: values('Ada') }, frames },
        phase: { in: Infinity, out: null },
        frame: 0,
        target: { x: 0, y: 0, width: 640, height: 360 },
        clocks: [],
        air: createGraphicsAir(),
        rate: { num: 50, den: 1 },
        slot: 's',
        window: () => null,
      }).map((i) => (i.texture.kind === 'paint' ? { key: i.texture.paint.key, at: i.texture.paint.inked[0]?.moment?.animation } : null));
    const rest = paints(null);
    expect(rest.map((p) => p?.at)).toEqual([
      { frame: 20, layers: [1] },
      { frame: 20, layers: [0] },
    ]);
    const changing = paints(52);
    // The plate is the very same picture, the name is on its way.
    expect(changing[0]).toEqual(rest[0]);
    expect(changing[1]?.at).toEqual({ frame: 5, layers: [0] });
    expect(paints(400)).toEqual(rest);
  });
});

describe('moved in the drawing', () => {
  it('stands where it was moved to, its layers too', () => {
    const x = (by: number) => {
      const g = graphic();
      const elements = Object.freeze(g.elements.map((e) => Object.freeze({ ...e, x: e.x + by, content: SHARED })));
      const air = createGraphicsAir();
      const at = { phase: { in: Infinity, out: null }, frame: 0, target: { x: 0, y: 0, width: 640, height: 360 }, clocks: [], air };
      const filled = {
        graphic: { ...g, elements: elements as never, fields: Object.freeze([]) as never },
        values: Object.freeze([]) as never,
      };
      return graphicItems({ ...at, filled, rate: { num: 50, den: 1 }, slot: 's', window: () => null })[0]?.target.x;
    };
    // Content is the same object in both, as it is after a move.
    const SHARED = graphic().elements[0]?.content as never;
    expect([x(0), x(80)]).toEqual([0, 80]);
  });
});

describe('a graphic of it', () => {
  it('is a sound one, whose parts become fields and are shared', () => {
    let desk = must(sampleDesk(), 'graphic.bring', { graphic: graphic() as unknown as Raw });
    const id = desk.show.graphics.list.at(-1)?.id as string;
    const found = () => desk.show.graphics.list.at(-1);
    expect(found()?.fields.map((f) => [f.name, f.default])).toEqual([['Name', { kind: 'text', text: 'Ada' }]]);
    const colour = partsOf(plate()).find((p) => p.kind === 'colour');
    desk = must(desk, 'field.add', { graphic: id, element: 'animation', property: 'part', part: colour?.id });
    expect(found()?.fields.at(-1)).toMatchObject({
      name: colour?.name,
      default: { kind: 'colour' },
      targets: [{ property: 'part', part: colour?.id }],
    });
    expect(showProblems(JSON.parse(JSON.stringify(desk.show)) as never)).toEqual([]);
  });
});
