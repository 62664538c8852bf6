/** What the operator's page works out: search, where entries are, counting on air, trials, close-ups. */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { must, sampleDesk, valueFor } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { type DrawItem } from '../picture/draw';
import { type Shown } from './air';
import { closeUp, fromCorner } from './close-up';
import { move } from './create';
import { type Graphic } from './document';
import { GALLERY } from './gallery/gallery';
import { foundEntries } from './search';
import { trialOf, trialPhase } from './trial';
import { whereEntries } from './where';

const names = ({ show }: Desk): Graphic => show.graphics.list[0] as Graphic;
const words = (value: string) => ({ kind: 'text', text: value });

describe('the search', () => {
  it('finds entries that have all words in any order, or the number, whatever the capitals', () => {
    const desk = must(sampleDesk(), 'entry.add', {
      graphic: 'names',
      values: [valueFor('name', 'Bo Lind'), valueFor('role', 'Judge at home')],
    });
    const found = (search: string) => foundEntries(names(desk), search).map((e) => e.number);
    expect([found(''), found('lind'), found('HOME bo'), found('2'), found('ada judge')]).toEqual([[1, 2], [2], [2], [2], []]);
  });
});

describe('where entries are', () => {
  const sign = (desk: Desk, id = 'card') => whereEntries(desk.show, desk.air, names(desk)).get(id);

  it('says ready, on air, and on air with other words, with the lane', () => {
    let desk = must(sampleDesk(), 'lane.setContent', { lane: 'lane-2', content: { kind: 'picture', id: 'card' } });
    expect(sign(desk)).toEqual({ sign: 'ready', laneId: 'lane-2' });
    desk = must(desk, 'lane.show', { lane: 'lane-2' }, 0);
    expect(sign(desk)).toEqual({ sign: 'air', laneId: 'lane-2' });
    desk = must(desk, 'entry.set', { entry: 'card', field: 'name', value: words('Bo') }, 10);
    expect(sign(desk)).toEqual({ sign: 'edited', laneId: 'lane-2' });
    expect(sign(must(desk, 'entry.set', { entry: 'card', field: 'name', value: words('Ada Holm') }, 20))?.sign).toBe('air');
  });

  it('says so of the picture too, and a command brings the edits on air', () => {
    let desk = must(
      must(sampleDesk(), 'picture.cut', { picture: 'card' }, 0),
      'entry.set',
      { entry: 'card', field: 'name', value: words('Bo') },
      10,
    );
    expect(sign(desk)).toEqual({ sign: 'edited', laneId: null });
    desk = must(desk, 'graphic.changeOnAir', { picture: 'card' }, 20);
    expect(sign(desk)).toEqual({ sign: 'air', laneId: null });
    expect(desk.air.graphics.shown.card?.before?.start).toBe(20);
  });
});

describe('counting', () => {
  it('changes on air just the number: other edits go on waiting', () => {
    let desk = must(sampleDesk(), 'graphic.bring', { graphic: GALLERY.find((g) => g.id === 'score')?.make() });
    const entry = desk.show.graphics.list.at(-1)?.entries[0]?.id;
    desk = must(desk, 'lane.showPicture', { lane: 'lane-1', picture: entry }, 0);
    desk = must(desk, 'entry.set', { entry, field: 'left', value: words('Somebody else') }, 10);
    desk = must(desk, 'entry.step', { entry, field: 'heat', by: 1 }, 20);
    const { shown } = desk.air.lanes['lane-1']?.picture as { shown: Shown };
    const value = (field: string) => shown.values.find((v) => v.fieldId === field)?.value;
    expect(value('heat')).toEqual({ kind: 'number', number: 4 });
    expect(value('left')).toEqual(words('Tolv'));
    expect(shown.before?.start).toBe(20);
  });
});

describe('a trial', () => {
  it('comes, stays, and has gone at its end', () => {
    const desk = must(sampleDesk(), 'graphic.set', { graphic: 'names', in: move('fade', 10), out: move('fade', 6) });
    const { comes, hold, goes, all } = trialOf(names(desk));
    expect([comes, goes, all]).toEqual([10, 6, 16 + hold]);
    const phase = (frame: number | null) => trialPhase(names(desk), frame);
    expect([phase(null), phase(4), phase(comes + hold + 2)]).toEqual([
      { in: Infinity, out: null },
      { in: 4, out: null },
      { in: comes + hold, out: 2 },
    ]);
  });
});

describe('a close-up', () => {
  it('holds all that is drawn inside of the picture, within it and in its proportions', () => {
    const side = fc.integer({ min: 1, max: 640 });
    fc.assert(
      fc.property(fc.integer({ min: -300, max: 640 }), fc.integer({ min: -200, max: 360 }), side, side, (x, y, width, height) => {
        const item: DrawItem = { texture: { kind: 'colour', colour: '#000000' }, target: { x, y, width, height }, fit: 'fill', opacity: 1 };
        const part = closeUp([item], { width: 640, height: 360 });
        expect(part.width / part.height).toBeCloseTo(640 / 360, 6);
        expect(part.x).toBeGreaterThanOrEqual(0);
        expect(part.x + part.width).toBeLessThanOrEqual(640 + 1e-6);
        if (x >= 640 || y >= 360 || x + width <= 0 || y + height <= 0) return;
        expect(part.x).toBeLessThanOrEqual(Math.max(0, x) + 1e-6);
        expect(part.x + part.width).toBeGreaterThanOrEqual(Math.min(640, x + width) - 1e-6);
        expect(fromCorner([item], part)[0]?.target.x).toBeCloseTo(x - part.x, 6);
      }),
    );
  });
});
