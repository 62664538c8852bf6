/** Graphics: fields, gaps, moves and changes as functions of the frame, commands. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk, valueFor } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { EMPTY_HISTORY } from '../desk/history';
import { perform } from '../desk/session';
import { type DrawItem } from '../picture/draw';
import { planFrame } from '../picture/plan';
import { takeSummary } from '../picture/summary';
import { type Shown } from './air';
import { createElement, createField, createGraphic, move } from './create';
import { type Graphic } from './document';
import { GALLERY } from './gallery/gallery';
import { rolled } from './rolled';
import { changing, keyedValue, progressOf } from './motion';
import { hashOf } from './hash';
import { showProblems } from '../desk/validate';
import { drawnElements, withValues } from './values';

const text = (value: string) => ({ kind: 'text' as const, text: value });
const names = ({ show }: Desk): Graphic => show.graphics.list[0] as Graphic;
const laneItems = ({ show, air }: Desk, frame: number): DrawItem[] => planFrame(show, air, frame).programme.lanes;
const slotOf = (item: DrawItem): string =>
  item.texture.kind === 'paint' ? (item.texture.slot.split('/').at(-1) ?? '') : item.texture.kind;
const keyOf = (item: DrawItem | undefined): string => (item?.texture.kind === 'paint' ? item.texture.paint.key : '');

/** The sample's graphic with moves of its own, up in the first lane at rest. */
function shownDesk(): Desk {
  let desk = sampleDesk();
  desk = must(desk, 'element.move', { graphic: 'names', elements: ['plate'], phase: 'in', way: 'slide', edge: 'left', frames: 10 });
  desk = must(desk, 'element.move', { graphic: 'names', elements: ['name'], phase: 'change', way: 'fade', frames: 12 });
  return must(desk, 'lane.showPicture', { lane: 'lane-1', picture: 'card' }, 0);
}

describe('values', () => {
  it('give their elements what is filled in, or the default; a value of another kind gives nothing', () => {
    const graphic = names(sampleDesk());
    const words = (values: Parameters<typeof withValues>[1]) =>
      withValues(graphic, values).flatMap(({ content }) => (content.kind === 'text' ? [content.text] : []));
    expect(words([valueFor('name', 'Bo Lind')])).toEqual(['Bo Lind', '']);
    expect(words([{ fieldId: 'name', value: { kind: 'number', number: 7 } }])).toEqual(['', '']);
  });

  it('hide an element whose field is empty, and close the gap in a group that flows', () => {
    const line = (id: string, y: number) =>
      createElement(id, 'text', { x: 0, y, width: 50, height: 10 }, { parentId: 'g', hideWhenEmpty: true });
    const graphic: Graphic = {
      ...createGraphic('g1', 'Three lines', { width: 100, height: 100 }),
      elements: [
        createElement('g', 'group', { x: 0, y: 0, width: 50, height: 50 }, { content: { kind: 'group', flow: 'column', align: 'start' } }),
        ...['a', 'b', 'c'].map((id, i) => line(id, i * 20)),
      ],
      fields: ['a', 'b', 'c'].map((id) => createField(id, id, text(''), { targets: [{ elementId: id, property: 'content', part: null }] })),
    };
    const places = (...filled: string[]) =>
      drawnElements({ graphic, values: filled.map((id) => valueFor(id, 'x')) }).map(({ element: e }) => [e.id, e.y]);
    expect(places('a', 'b', 'c')).toEqual([
      ['a', 0],
      ['b', 20],
      ['c', 40],
    ]);
    // The gap before each stays: ten pixels.
    expect(places('a', 'c')).toEqual([
      ['a', 0],
      ['c', 20],
    ]);
    expect(places('c')).toEqual([['c', 0]]);
    expect(places()).toEqual([]);
  });

  it('are refused with their limit', () => {
    let desk = sampleDesk();
    desk = must(desk, 'field.set', { graphic: 'names', field: 'name', longest: 5 });
    const set = (value: object) => attempt(desk, 'entry.set', { entry: 'card', field: 'name', value });
    expect(set(text('123456'))).toMatchObject({
      ok: false,
      error: { code: 'bad-value', message: 'name holds 5 characters at most; these are 6.' },
    });
    expect(set({ kind: 'number', number: 3 })).toMatchObject({ ok: false, error: { code: 'bad-value' } });
    expect(set({ kind: 'number', number: Number('9'.repeat(300)) })).toMatchObject({ ok: false, error: { code: 'bad-argument' } });
    expect(set(text('12345'))).toMatchObject({ ok: true });
  });
});

describe('on air', () => {
  it('stays as it was while it is edited, and changes on air when it is told to', () => {
    const desk = must(shownDesk(), 'entry.set', { entry: 'card', field: 'name', value: text('Bo Lind') }, 100);
    const before = laneItems(shownDesk(), 200).map(keyOf);
    expect(laneItems(desk, 200).map(keyOf)).toEqual(before);
    const changed = must(desk, 'lane.show', { lane: 'lane-1' }, 200);
    expect(laneItems(changed, 230).map(keyOf)).not.toEqual(before);
  });

  it('follows edits at once where the lane follows', () => {
    const desk = must(
      must(shownDesk(), 'lane.set', { lane: 'lane-1', follows: true }),
      'entry.set',
      { entry: 'card', field: 'role', value: text('Judge') },
      50,
    );
    const shown = (desk.air.lanes['lane-1']?.picture as { shown: Shown }).shown;
    expect(JSON.stringify(shown.values)).toContain('Judge');
  });

  it('follows their undoing too', () => {
    const start = { desk: must(shownDesk(), 'lane.set', { lane: 'lane-1', follows: true }), history: EMPTY_HISTORY };
    const run = (session: typeof start, type: string, args = {}) => {
      const done = perform(session, [{ type, args }], { frame: 60, newId: () => 'x' }, { at: 0 });
      if (!done.ok) throw new Error(done.error.message);
      return done.session;
    };
    const edited = run(start, 'entry.set', { entry: 'card', field: 'role', value: text('Judge') });
    const words = ({ desk }: typeof start) => JSON.stringify((desk.air.lanes['lane-1']?.picture as { shown: Shown }).shown.values);
    expect(words(edited)).toContain('Judge');
    expect(words(run(edited, 'history.undo'))).toContain('Pilot');
  });

  it('moves only what changed: all else is the same paint in the same place, in every frame of the change', () => {
    const still = laneItems(shownDesk(), 200);
    const desk = must(
      must(shownDesk(), 'entry.set', { entry: 'card', field: 'name', value: text('Bo Lind') }),
      'lane.show',
      { lane: 'lane-1' },
      200,
    );
    const seen: (number | undefined)[] = [];
    for (let frame = 200; frame <= 215; frame += 1) {
      const items = laneItems(desk, frame);
      for (const slot of ['plate', 'role'])
        expect(
          items.find((i) => slotOf(i) === slot),
          `${slot} at ${frame}`,
        ).toEqual(still.find((i) => slotOf(i) === slot));
      seen.push(items.find((i) => slotOf(i) === 'name')?.opacity);
    }
    // Half-way nothing is there: the old name has gone, and the new one comes.
    expect(seen[0]).toBe(1);
    expect(seen[6] ?? 0).toBeLessThan(0.05);
    expect(seen[12]).toBe(1);
    expect(keyOf(laneItems(desk, 200).find((i) => slotOf(i) === 'name'))).toBe(keyOf(still.find((i) => slotOf(i) === 'name')));
    expect(keyOf(laneItems(desk, 212).find((i) => slotOf(i) === 'name'))).not.toBe(keyOf(still.find((i) => slotOf(i) === 'name')));
  });

  it('lets what is hidden by a change leave between the elements that it stood between', () => {
    let desk = must(sampleDesk(), 'element.move', { graphic: 'names', elements: ['name'], phase: 'change', way: 'fade', frames: 12 });
    desk = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: 'card' }, 0);
    desk = must(desk, 'entry.set', { entry: 'card', field: 'name', value: text('') });
    desk = must(desk, 'lane.show', { lane: 'lane-1' }, 100);
    expect(laneItems(desk, 102).map(slotOf)).toEqual(['plate', 'name', 'role']);
    expect(laneItems(desk, 120).map(slotOf)).toEqual(['plate', 'role']);
  });

  it('changes from one entry to the next, and into a duplicate of its design, without leaving', () => {
    let desk = must(shownDesk(), 'entry.add', { graphic: 'names', values: [valueFor('name', 'Bo Lind')] });
    desk = must(desk, 'lane.next', { lane: 'lane-1' }, 100);
    const state = desk.air.lanes['lane-1'];
    expect(state?.leaving).toBeNull();
    expect((state?.picture as { shown: Shown }).shown.before?.start).toBe(100);
    const twin = must(desk, 'graphic.duplicate', { graphic: 'names' });
    const id = twin.show.graphics.list[1]?.id;
    expect(must(twin, 'lane.showPicture', { lane: 'lane-1', picture: id }, 200).air.lanes['lane-1']?.leaving).toBeNull();
    expect(attempt(desk, 'lane.next', { lane: 'lane-1' }, 300)).toMatchObject({ ok: false, error: { code: 'no-entry' } });
  });

  it('counts a number up by a command, on air by its change move, within its limits', () => {
    let desk = must(sampleDesk(), 'graphic.bring', { graphic: GALLERY.find((g) => g.id === 'score')?.make() });
    const score = desk.show.graphics.list.at(-1) as Graphic;
    desk = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: score.entries[0]?.id }, 0);
    desk = must(desk, 'lane.step', { lane: 'lane-1', field: 'heat', by: 1 }, 50);
    const heat = (frame: number) => laneItems(desk, frame).filter((i) => slotOf(i) === 'heat');
    expect(JSON.stringify((desk.air.lanes['lane-1']?.picture as { shown: Shown }).shown.values)).toContain('"number":4');
    expect(heat(54)[0]?.target.y).not.toBe(heat(90)[0]?.target.y);
    desk = must(desk, 'lane.step', { lane: 'lane-1', field: 'heat', by: 999 }, 60);
    expect(attempt(desk, 'lane.step', { lane: 'lane-1', field: 'heat', by: 1 }, 61)).toMatchObject({
      ok: false,
      error: { code: 'at-limit' },
    });
  });

  it('slides in from outside and stands still then, as a picture too, in boxes and as artwork', () => {
    let desk = shownDesk();
    const plate = (frame: number) => laneItems(desk, frame).find((i) => slotOf(i) === 'plate')?.target.x;
    expect(plate(2)).toBeLessThan(plate(8) as number);
    expect(plate(10)).toBe(plate(500));
    desk = must(desk, 'picture.cut', { picture: 'card' }, 20);
    expect(planFrame(desk.show, desk.air, 40).programme.base.map(slotOf)).toEqual(['plate', 'name', 'role']);
    expect(Object.keys(desk.air.graphics.shown)).toEqual(['card']);
    // Off air its copy is forgotten.
    expect(must(desk, 'picture.cut', { picture: 'a' }, 60).air.graphics.shown).toEqual({});
    const layout = must(desk, 'layout.add', {}, 60);
    const id = layout.show.layouts[0]?.id;
    const boxed = must(
      must(layout, 'box.add', { layout: id, rect: { x: 0, y: 0, width: 32, height: 18 }, content: { kind: 'entry', id: 'card' } }),
      'layout.edit',
      { layout: id, frameId: 'names' },
    );
    expect(() => must(boxed, 'box.set', { layout: id, boxes: [boxed.show.layouts[0]?.boxes[0]?.id], fit: 'contain' })).not.toThrow();
    const fitted = must(boxed, 'box.set', { layout: id, boxes: [boxed.show.layouts[0]?.boxes[0]?.id], fit: 'contain' });
    const scene = planFrame(must(fitted, 'picture.cut', { picture: id }, 70).show, must(fitted, 'picture.cut', { picture: id }, 70).air, 90)
      .programme.base;
    // In the box at half its size, as geometry; over all of it as artwork.
    expect(scene[0]?.target.width).toBe((scene.find((i) => i.layer === 'frame')?.target.width ?? 0) / 2);
  });

  it('is a stinger with its own length and cut frame', () => {
    let desk = must(sampleDesk(), 'graphic.bring', { graphic: GALLERY.find((g) => g.id === 'opening')?.make() });
    const opening = desk.show.graphics.list.at(-1) as Graphic;
    desk = must(desk, 'picture.arm', { kind: 'stinger', stingerId: opening.id, frames: 10 });
    desk = must(desk, 'picture.take', {}, 100);
    expect(desk.air.transition?.frames).toBe(opening.stingerFrames);
    const base = (frame: number) => planFrame(desk.show, desk.air, frame).programme.base;
    expect(base(100 + opening.cutFrame - 1)[0]?.sourceId).toBe('a');
    expect(base(100 + opening.cutFrame)[0]?.sourceId).toBe('b');
    // At the cut the sails cover everything.
    const covers = base(100 + opening.cutFrame).find((i) => slotOf(i) === 'sail-3');
    expect(covers?.opacity).toBe(1);
    expect(covers?.target.x).toBeLessThanOrEqual(0);
  });

  it('is not removed while it is the picture on air; in a lane its copy stays', () => {
    const desk = must(shownDesk(), 'picture.cut', { picture: 'card' }, 20);
    expect(attempt(desk, 'graphic.remove', { graphic: 'names' })).toMatchObject({ ok: false, error: { code: 'on-air' } });
    const gone = must(shownDesk(), 'graphic.remove', { graphic: 'names' }, 50);
    expect(laneItems(gone, 60)).toHaveLength(3);
    expect(gone.show.lanes[0]?.content).toBeNull();
    expect(showProblems(JSON.parse(JSON.stringify(gone.show)))).toEqual([]);
  });
});

describe('a graphic as a whole', () => {
  const moving = (way: string, frames = 10) => {
    // The name can change by itself, so that there are layers.
    let desk = must(sampleDesk(), 'element.move', { graphic: 'names', elements: ['name'], phase: 'in', way: 'fade', frames: 1 });
    desk = must(desk, 'graphic.set', { graphic: 'names', in: { ...move('fade', frames, { easing: 'linear' }), way, edge: 'left' } });
    return must(desk, 'lane.showPicture', { lane: 'lane-1', picture: 'card' }, 0);
  };
  const middle = ({ target: t }: DrawItem) => t.x + t.width / 2;

  it('grows about one middle, with all its layers', () => {
    const desk = moving('scale');
    const [half, rest] = [laneItems(desk, 5), laneItems(desk, 50)];
    expect(half).toHaveLength(rest.length);
    const scale = (half[0]?.target.width ?? 0) / (rest[0]?.target.width ?? 1);
    expect(scale).toBeCloseTo(0.5, 5);
    // Distances between layers shrink as the layers do.
    const apart = (items: DrawItem[]) => middle(items[1] as DrawItem) - middle(items[0] as DrawItem);
    expect(apart(half)).toBeCloseTo(apart(rest) * scale, 5);
    expect(half.every((i) => i.scaled)).toBe(true);
  });

  it('is wiped over all of it at once, not layer by layer', () => {
    const clips = laneItems(moving('wipe'), 5).map((i) => (i.clip?.x ?? 0) + (i.clip?.width ?? 0));
    expect(clips.length).toBeGreaterThan(1);
    expect(new Set(clips.map((c) => c.toFixed(6))).size).toBe(1);
  });

  it('moves only in ways that need no drawing anew', () => {
    const set = (way: string) => attempt(sampleDesk(), 'graphic.set', { graphic: 'names', in: { ...move('fade', 10), way } }).ok;
    expect(['fade', 'slide', 'wipe', 'scale', 'turn', 'letters', 'blur', 'count'].map(set)).toEqual([
      true,
      true,
      true,
      true,
      true,
      false,
      false,
      false,
    ]);
  });
});

describe('tableaux', () => {
  it('leave a lane alone that shows what the show no longer has', () => {
    const shown = shownDesk();
    const lane = shown.show.lanes.find((l) => shown.air.lanes[l.id]?.picture)!;
    const graphic = shown.show.graphics.list.find((g) => g.entries.some((e) => e.id === lane.content?.id) || g.id === lane.content?.id)!;
    const gone = must(shown, 'graphic.remove', { graphic: graphic.id }, 20);
    const kept = must(gone, 'tableau.add', { from: 'air' }, 30);
    expect(showProblems(JSON.parse(JSON.stringify(kept.show)))).toEqual([]);
    expect(kept.show.tableaux[0]?.lanes.map((l) => l.laneId)).not.toContain(lane.id);
  });

  it('move only what differs from what is on air, and the take says what', () => {
    let desk = must(shownDesk(), 'tableau.add', { from: 'air' }, 30);
    const id = desk.show.tableaux[0]?.id;
    // Nothing differs: there is nothing to take.
    let next = must(desk, 'tableau.next', { tableau: id }, 40);
    expect(takeSummary(next.show, next.air, 40)).toEqual([]);
    desk = must(desk, 'entry.add', { graphic: 'names', values: [valueFor('name', 'Bo Lind')] });
    const other = names(desk).entries[1]?.id;
    desk = must(desk, 'tableau.setLanes', { tableau: id, lanes: [{ laneId: 'lane-1', contentId: other }] });
    next = must(desk, 'tableau.next', { tableau: id }, 50);
    expect(takeSummary(next.show, next.air, 50).map((c) => c.text)).toEqual(['Names changes to Bo Lind']);
    const taken = must(next, 'picture.take', {}, 60);
    expect(taken.air.onAirId).toBe('a');
    expect(taken.air.lanes['lane-1']?.picture?.id).toBe(other);
    // Other lanes it leaves alone.
    expect(taken.air.lanes['lane-2']).toEqual(desk.air.lanes['lane-2']);
  });

  it('goes straight to air with its picture and its transition', () => {
    let desk = must(sampleDesk(), 'tableau.add', { from: 'next' });
    const id = desk.show.tableaux[0]?.id;
    desk = must(desk, 'tableau.set', { tableau: id, transition: { ...desk.show.transition, kind: 'wipe', frames: 9 } });
    const taken = must(desk, 'tableau.take', { tableau: id }, 10);
    expect(taken.air.transition).toMatchObject({ toId: 'b', frames: 9, settings: { kind: 'wipe' } });
    const empty = must(must(desk, 'tableau.setLanes', { tableau: id, lanes: [] }), 'tableau.set', { tableau: id, pictureId: null });
    expect(attempt(empty, 'tableau.next', { tableau: id })).toMatchObject({ ok: false, error: { code: 'empty-tableau' } });
  });
});

describe('moves', () => {
  it('begin at their start, end with their length, and never go back on the way', () => {
    fc.assert(
      fc.property(fc.nat(50), fc.nat(50), fc.constantFrom('linear', 'in', 'out', 'in-out'), (start, frames, easing) => {
        const m = move('fade', frames, { start, easing: easing as 'linear' });
        const at = Array.from({ length: start + frames + 2 }, (_, f) => progressOf(m, f));
        expect(at.at(-1)).toBe(1);
        if (start > 0) expect(at[0]).toBe(0);
        at.forEach((p, f) => expect(p).toBeGreaterThanOrEqual(f === 0 ? 0 : (at[f - 1] as number)));
      }),
    );
  });

  it('change in two halves: the old goes, then the new comes', () => {
    const m = move('fade', 10, { easing: 'linear' });
    expect([0, 4, 5, 10].map((f) => changing(m, f))).toEqual(
      [
        { which: 'old', level: 1 },
        { which: 'old', level: 1 - 0.8 },
        { which: 'new', level: 0 },
        { which: 'new', level: 1 },
      ].map((x) => ({ which: x.which, level: expect.closeTo(x.level, 9) as number })),
    );
  });

  it('run keyed values from key to key, and hold them before the first and after the last', () => {
    const element = createElement(
      'e',
      'rectangle',
      { x: 0, y: 0, width: 10, height: 10 },
      {
        keyframes: [
          { phase: 'in', property: 'x', frame: 10, value: 100, easing: 'linear' },
          { phase: 'in', property: 'x', frame: 20, value: 200, easing: 'linear' },
        ],
      },
    );
    expect([0, 10, 15, 20, 99].map((f) => keyedValue(element, 'in', 'x', f))).toEqual([100, 100, 150, 200, 200]);
    expect(keyedValue(element, 'in', 'y', 5)).toBeUndefined();
  });

  it('roll numbers in the form of their end', () => {
    expect(rolled('3', '4', 0.5)).toBe('4');
    expect(rolled('0', '128', 0.5)).toBe('64');
    expect(rolled('1,50', '2,50', 0.5)).toBe('2,00');
    expect(rolled('heat 3', 'heat 9', 0)).toBe('heat 3');
    expect(rolled('x', 'no number', 0.5)).toBeNull();
  });
});

describe('editing', () => {
  it('groups, moves together, takes apart and undoes nothing of what was drawn', () => {
    let desk = must(sampleDesk(), 'element.group', { graphic: 'names', elements: ['name', 'role'] });
    const group = names(desk).elements.find((e) => e.content.kind === 'group')?.id as string;
    desk = must(desk, 'element.nudge', { graphic: 'names', elements: [group], x: 3, y: 2 });
    expect(
      names(desk)
        .elements.filter((e) => e.parentId === group)
        .map((e) => [e.id, e.x, e.y]),
    ).toEqual([
      ['name', 7, 23],
      ['role', 7, 30],
    ]);
    expect(attempt(desk, 'element.into', { graphic: 'names', elements: [group], group })).toMatchObject({ ok: false });
    desk = must(desk, 'element.ungroup', { graphic: 'names', elements: [group] });
    expect(names(desk).elements.every((e) => e.parentId === null)).toBe(true);
  });

  it('keeps locked elements as they are', () => {
    const desk = must(sampleDesk(), 'element.set', { graphic: 'names', elements: ['plate'], locked: true });
    for (const [type, args] of [
      ['element.nudge', { x: 1, y: 1 }],
      ['element.set', { opacity: 0.5 }],
      ['element.remove', {}],
    ] as const)
      expect(attempt(desk, type, { graphic: 'names', elements: ['plate'], ...args }), type).toMatchObject({
        ok: false,
        error: { code: 'locked' },
      });
  });

  it('refuses circles of masks and windows, and damaged elements, with their place', () => {
    let desk = must(sampleDesk(), 'element.set', { graphic: 'names', elements: ['name'], mask: { elementId: 'plate', inside: true } });
    expect(
      attempt(desk, 'element.set', { graphic: 'names', elements: ['plate'], mask: { elementId: 'name', inside: true } }),
    ).toMatchObject({ ok: false });
    desk = must(desk, 'element.add', { graphic: 'names', kind: 'window' });
    const window = names(desk).elements.at(-1)?.id;
    const show = (pictureId: string) =>
      attempt(desk, 'element.setContent', { graphic: 'names', element: window, content: { kind: 'window', pictureId, fit: 'cover' } });
    expect(show('names')).toMatchObject({ ok: false, error: { code: 'circle' } });
    expect(show('card')).toMatchObject({ ok: false, error: { code: 'circle' } });
    expect(show('a')).toMatchObject({ ok: true });
    expect(attempt(desk, 'element.paste', { graphic: 'names', from: { elements: [{ id: 'x', constructor: 1 }] } })).toMatchObject({
      ok: false,
      error: { code: 'bad-argument' },
    });
    expect(attempt(desk, 'graphic.bring', { graphic: { name: 'x' } })).toMatchObject({ ok: false, error: { code: 'bad-argument' } });
  });

  it('pastes copies with identities of their own, and their ties', () => {
    const desk = must(sampleDesk(), 'element.set', { graphic: 'names', elements: ['name'], mask: { elementId: 'plate', inside: true } });
    const copied = names(desk).elements.filter((e) => e.id !== 'role');
    const pasted = names(must(desk, 'element.paste', { graphic: 'names', from: { elements: copied } })).elements;
    expect(new Set(pasted.map((e) => e.id)).size).toBe(5);
    const masked = pasted.filter((e) => e.mask);
    expect(masked.map((e) => pasted.some((p) => p.id === e.mask?.elementId))).toEqual([true, true]);
    expect(masked[0]?.mask?.elementId).not.toBe(masked[1]?.mask?.elementId);
  });
});

describe('the gallery', () => {
  it('holds twelve graphics at least, each a sound one that can be brought in and shown', () => {
    expect(GALLERY.length).toBeGreaterThanOrEqual(12);
    for (const { id, make } of GALLERY) {
      const desk = must(sampleDesk(), 'graphic.bring', { graphic: make() });
      const graphic = desk.show.graphics.list.at(-1) as Graphic;
      expect(showProblems(JSON.parse(JSON.stringify(desk.show))), id).toEqual([]);
      const up = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: graphic.entries[0]?.id ?? graphic.id }, 0);
      expect(laneItems(up, 300).length, id).toBeGreaterThan(0);
    }
  });
});

describe('keys of paints', () => {
  it('differ for texts that differ', () => {
    fc.assert(fc.property(fc.string(), fc.string(), (a, b) => a === b || hashOf(a) !== hashOf(b)));
  });
});
