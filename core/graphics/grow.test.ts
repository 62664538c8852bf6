/** Boxes that grow, what they push, and groups that turn. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk, valueFor } from '#tests/support/sample-show';
import { type Rect } from '../show/geometry';
import { createGraphicsAir } from './air';
import { contentOf, createElement, createField, createGraphic, textStyle } from './create';
import { type Graphic } from './document';
import { type Element, type TextStyle } from './element';
import { grown, growingOf, sizeKey } from './grow';
import { wantedSizes } from './growing';
import { inGroup } from './in-group';
import { graphicItems } from './items';
import { drawnElements, withValues } from './values';

const at = (x: number, width: number, y = 0, height = 20): Rect => ({ x, y, width, height });
const grows = (id: string, place: Rect, parentId: string | null, style: Partial<TextStyle> = {}): Element =>
  createElement(id, 'text', place, {
    parentId,
    content: { kind: 'text', text: id, style: textStyle(20, { overflow: 'grow', ...style }), accents: [] },
  });
const group = (
  id: string,
  place: Rect,
  flow: 'row' | 'column',
  align: 'start' | 'middle' | 'end' = 'start',
  parentId: string | null = null,
) => createElement(id, 'group', place, { parentId, content: { kind: 'group', flow, align } });
const plate = (id: string, place: Rect, parentId: string | null) => createElement(id, 'rectangle', place, { parentId });
const sizes = (elements: readonly Element[], wide: Record<string, [number, number]>) =>
  Object.fromEntries(
    elements.flatMap((e) => {
      const [width, height] = wide[e.id] ?? [];
      return e.content.kind === 'text' && width !== undefined && height !== undefined
        ? [[sizeKey(e.content, e.width), { width, height }]]
        : [];
    }),
  );
const across = (elements: readonly Element[]) => Object.fromEntries(elements.map((e) => [e.id, [e.x, e.width]]));

describe('a box that grows', () => {
  it('pushes what stands behind it, and what stands around it grows too', () => {
    const elements = [
      group('g', at(0, 130), 'row'),
      plate('plate', at(0, 80), 'g'),
      grows('name', at(10, 60), 'g'),
      plate('sign', at(90, 40), 'g'),
      plate('apart', at(90, 40), null),
    ];
    expect(across(grown(elements, sizes(elements, { name: [100, 20] })))).toEqual({
      g: [0, 170],
      plate: [0, 120],
      name: [10, 100],
      sign: [130, 40],
      apart: [90, 40],
    });
    // Fewer words: the box stays as it was drawn.
    expect(grown(elements, sizes(elements, { name: [20, 10] }))).toEqual(elements);
    expect(grown(elements, {})).toEqual(elements);
  });

  it('goes the way that its group stands, or as it is set where it is in none', () => {
    const of = (align: 'start' | 'middle' | 'end') => [group('g', at(0, 60), 'row', align), grows('name', at(0, 60), 'g')];
    const left = (align: 'start' | 'middle' | 'end') => grown(of(align), sizes(of(align), { name: [100, 20] }))[1]?.x;
    expect([left('start'), left('middle'), left('end')]).toEqual([0, -20, -40]);
    const alone = (set: TextStyle['across']) =>
      grown(
        [grows('name', at(0, 60), null, { across: set })],
        sizes([grows('name', at(0, 60), null, { across: set })], { name: [100, 20] }),
      )[0]?.x;
    expect([alone('left'), alone('centre'), alone('right')]).toEqual([0, -20, -40]);
  });

  it('pushes through groups inside of groups', () => {
    const elements = [
      group('page', at(0, 100, 0, 100), 'column'),
      group('row', at(0, 100, 0, 20), 'row', 'start', 'page'),
      grows('name', at(0, 50), 'row', { wrap: true }),
      plate('below', at(0, 100, 30, 10), 'page'),
    ];
    const done = grown(elements, sizes(elements, { name: [50, 60] }));
    expect(done.map((e) => [e.id, e.y, e.height])).toEqual([
      ['page', 0, 140],
      ['row', 0, 60],
      ['name', 0, 60],
      ['below', 70, 10],
    ]);
  });

  it('keeps every gap along a row, whatever grows', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 5, max: 60 }), fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 200 })), {
          minLength: 1,
          maxLength: 6,
        }),
        (boxes) => {
          let x = 0;
          const elements: Element[] = [group('g', at(0, 1000), 'row')];
          boxes.forEach(([width, gap], i) => {
            elements.push(grows(`t${i}`, at(x + gap, width), 'g'));
            x += gap + width;
          });
          const done = grown(elements, sizes(elements, Object.fromEntries(boxes.map(([, , wide], i) => [`t${i}`, [wide, 10]]))));
          boxes.forEach(([width, gap, wide], i) => {
            const [now, before] = [done[i + 1] as Element, i === 0 ? null : (done[i] as Element)];
            expect(now.width).toBe(Math.max(width, wide));
            expect(now.x - (before ? before.x + before.width : 0)).toBeCloseTo(gap, 6);
          });
        },
      ),
    );
  });

  it('moves its neighbours smoothly when words change on air', () => {
    const elements = [
      group('g', at(0, 60), 'row'),
      {
        ...grows('name', at(0, 40), 'g'),
        change: { way: 'fade' as const, edge: 'left' as const, easing: 'linear' as const, start: 0, frames: 10 },
      },
      plate('sign', at(50, 10), 'g'),
    ];
    const graphic: Graphic = {
      ...createGraphic('g1', 'Row', { width: 400, height: 100 }),
      elements,
      fields: [
        createField('name', 'name', { kind: 'text', text: '' }, { targets: [{ elementId: 'name', property: 'content', part: null }] }),
      ],
    };
    const filled = (text: string) => ({ graphic, values: [valueFor('name', text)] });
    const air = createGraphicsAir();
    for (const [text, width] of [
      ['Bo', 40],
      ['Bo the long', 140],
    ] as const)
      for (const g of growingOf(withValues(graphic, [valueFor('name', text)]))) air.sizes[g.key] = { width, height: 20 };
    const signAt = (frames: number): number => {
      const items = graphicItems({
        filled: filled('Bo the long'),
        before: { filled: filled('Bo'), frames },
        phase: { in: Infinity, out: null },
        frame: 0,
        target: { x: 0, y: 0, width: 400, height: 100 },
        clocks: [],
        air,
        rate: { num: 25, den: 1 },
        slot: 's',
        window: () => null,
      });
      const sign = items.find((i) => i.texture.kind === 'paint' && i.texture.slot.endsWith('sign'));
      return sign?.target.x ?? NaN;
    };
    const [first, middle, last] = [signAt(0), signAt(5), signAt(10)];
    expect(last - first).toBe(100);
    expect(middle).toBeGreaterThan(first);
    expect(middle).toBeLessThan(last);
  });
});

describe('sizes', () => {
  it('are wanted of entries in lanes, and kept by the engine’s word', () => {
    let desk = must(
      must(sampleDesk(), 'element.setType', { graphic: 'names', elements: ['name'], overflow: 'grow' }),
      'lane.showPicture',
      { lane: 'lane-1', picture: 'card' },
      0,
    );
    const wanted = [...wantedSizes(desk).values()];
    expect(wanted.map((w) => w.content.text)).toContain('Ada Holm');
    const [first] = wanted;
    desk = must(desk, 'graphic.sizes', { sizes: [{ key: first?.key, width: 300, height: 40 }] });
    expect(desk.air.graphics.sizes[first?.key ?? '']).toEqual({ width: 300, height: 40 });
    expect([...wantedSizes(sampleDesk()).keys()]).toEqual([]);
  });

  it('draw anew just what they change', () => {
    const frozen = <T extends object>(o: T): T => Object.freeze(o);
    const elements = frozen([group('g', at(0, 60), 'row'), grows('name', at(0, 60), 'g')]);
    const graphic = { ...createGraphic('g1', 'Row', { width: 400, height: 100 }), elements, fields: frozen([]) };
    const filled = { graphic: graphic as unknown as Graphic, values: frozen([]) as never };
    const known = sizes(elements, { name: [90, 20] });
    expect(drawnElements(filled, known)).toBe(drawnElements(filled, { ...known, other: { width: 1, height: 1 } }));
    expect(drawnElements(filled, known)[0]?.element.width).toBe(90);
    expect(drawnElements(filled)[0]?.element.width).toBe(60);
  });
});

describe('a group', () => {
  it('turns what is in it about its own middle', () => {
    const turned = inGroup(plate('p', at(0, 20, 0, 20), 'g'), { ...group('g', at(0, 100, 0, 100), 'row'), rotation: 90 });
    expect([turned.x, turned.y, turned.rotation]).toEqual([expect.closeTo(80, 9), expect.closeTo(0, 9), 90]);
  });

  it('mirrored twice, or turned all the way, is as it was', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 150 }),
        fc.integer({ min: -180, max: 180 }),
        fc.constantFrom('flipX' as const, 'flipY' as const),
        (x, rotation, flip) => {
          const e = { ...plate('p', at(x, 20, 7, 30), 'g'), rotation, skewX: 10 };
          const g = { ...group('g', at(0, 100, 0, 100), 'row'), [flip]: true };
          const back = inGroup(inGroup(e, g), g);
          expect(back).toEqual({
            ...e,
            x: expect.closeTo(x, 9) as number,
            y: expect.closeTo(7, 9) as number,
            rotation: expect.closeTo(rotation, 9) as number,
          });
        },
      ),
    );
  });

  it('is a plate behind what is in it when it has a fill', () => {
    const bare = {
      ...createGraphic('g1', 'Row', { width: 400, height: 100 }),
      elements: [group('g', at(0, 60), 'row'), plate('p', at(0, 20), 'g')],
    };
    const ids = (elements: Element[]) => drawnElements({ graphic: { ...bare, elements }, values: [] }).map((d) => d.element.id);
    expect(ids(bare.elements)).toEqual(['p']);
    expect(
      ids([{ ...(bare.elements[0] as Element), fill: { kind: 'colour', colour: '#102030', opacity: 1 } }, bare.elements[1] as Element]),
    ).toEqual(['g', 'p']);
    expect(contentOf('group', 10)).toMatchObject({ flow: 'none' });
  });
});
