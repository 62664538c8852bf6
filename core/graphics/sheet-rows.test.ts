/** Entries from the rows of a sheet: added once, changed where they differ, marked, sorted, passed over. */
import { describe, expect, it } from 'vitest';
import { attempt, must, sampleDesk } from '#tests/support/sample-show';
import { type Desk } from '../desk/air';
import { rowsFor } from '../sheets/match';
import { readDelimited } from '../sheets/table';
import { type Graphic } from './document';
import { entryName } from './find';

const names = ({ show }: Desk): Graphic => show.graphics.list[0] as Graphic;
const MAP = { name: 'Name', role: 'Role' };
const rows = (desk: Desk, text: string) => rowsFor(names(desk).fields, readDelimited(text), MAP, 'Name').rows;
const take = (desk: Desk, text: string, change: object = {}) =>
  must(desk, 'entry.takeRows', { graphic: 'names', rows: rows(desk, text), ...change });
const words = (desk: Desk) => names(desk).entries.map((e) => entryName(names(desk), e));

const SHEET = 'Name,Role\nBo Lind,Judge\nEdda Quill,Pilot\n';

describe('rows of a sheet', () => {
  it('are entries: added once, and changed just where they differ', () => {
    const first = take(sampleDesk(), SHEET);
    expect(words(first)).toEqual(['Ada Holm, Pilot', 'Bo Lind, Judge', 'Edda Quill, Pilot']);
    const outcome = attempt(first, 'entry.takeRows', { graphic: 'names', rows: rows(first, SHEET.replace('Judge', 'Line judge')) });
    expect(outcome).toMatchObject({ ok: true, result: { added: 0, changed: 1, removed: 0 } });
    const again = take(first, SHEET.replace('Judge', 'Line judge'));
    expect(names(again).entries[2]).toBe(names(first).entries[2]);
    expect(names(again).entries[1]?.id).toBe(names(first).entries[1]?.id);
    // What was filled in by hand stays.
    expect(names(again).entries[0]).toBe(names(first).entries[0]);
  });

  it('that are gone stay, or go when they are to; what is in a lane stays', () => {
    let desk = take(sampleDesk(), SHEET);
    const bo = names(desk).entries[1]?.id ?? '';
    desk = must(desk, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: bo } });
    expect(words(take(desk, 'Name,Role\nNew One,Pilot\n'))).toHaveLength(4);
    expect(words(take(desk, 'Name,Role\nNew One,Pilot\n', { remove: true }))).toEqual([
      'Ada Holm, Pilot',
      'Bo Lind, Judge',
      'New One, Pilot',
    ]);
  });

  it('change on air where the lane follows', () => {
    let desk = take(sampleDesk(), SHEET);
    const bo = names(desk).entries[1]?.id ?? '';
    desk = must(must(desk, 'lane.set', { lane: 'lane-1', follows: true }), 'lane.showPicture', { lane: 'lane-1', picture: bo }, 10);
    desk = must(desk, 'entry.takeRows', { graphic: 'names', rows: rows(desk, SHEET.replace('Judge', 'Head judge')) }, 100);
    expect(JSON.stringify(desk.air.lanes['lane-1']?.picture)).toContain('Head judge');
  });

  it('are refused whole, with the place of the fault, and nothing changes', () => {
    const desk = must(sampleDesk(), 'field.set', { graphic: 'names', field: 'name', longest: 4 });
    const bad = { key: 'x', values: [{ fieldId: 'name', value: { kind: 'text', text: 'too long' } }] };
    expect(attempt(desk, 'entry.takeRows', { graphic: 'names', rows: [{ key: 'a', values: [] }, bad] })).toMatchObject({
      ok: false,
      error: { code: 'bad-value', field: 'rows[1].values[0].value' },
    });
    const many = Array.from({ length: 1000 }, (_, i) => ({ key: `r${i}`, values: [] }));
    expect(attempt(desk, 'entry.takeRows', { graphic: 'names', rows: many })).toMatchObject({ ok: false, error: { code: 'too-many' } });
  });
});

describe('the table', () => {
  it('sorts by a field, numbers as numbers, empty ones last', () => {
    let desk = take(sampleDesk(), 'Name,Role\nHeat 10,b\nHeat 9,\nHeat 2,a\n');
    desk = must(desk, 'entry.sort', { graphic: 'names', field: 'name' });
    expect(words(desk).map((w) => w.split(',')[0])).toEqual(['Ada Holm', 'Heat 2', 'Heat 9', 'Heat 10']);
    desk = must(desk, 'entry.sort', { graphic: 'names', field: 'role', down: true });
    expect(words(desk).at(-1)).toBe('Heat 9');
  });

  it('passes over what is done, and over empty rows, when a lane goes on', () => {
    let desk = take(sampleDesk(), 'Name,Role\nOne,x\nTwo,x\nThree,x\n');
    const [card, one, two, three] = names(desk).entries.map((e) => e.id);
    desk = must(desk, 'entry.mark', { entry: one, done: true });
    desk = must(desk, 'lane.setContent', { lane: 'lane-1', content: { kind: 'picture', id: card } });
    desk = must(desk, 'lane.next', { lane: 'lane-1' });
    expect(desk.show.lanes[0]?.content?.id).toBe(two);
    desk = must(desk, 'lane.next', { lane: 'lane-1' });
    expect(desk.show.lanes[0]?.content?.id).toBe(three);
    expect(attempt(desk, 'lane.next', { lane: 'lane-1' })).toMatchObject({ ok: false, error: { code: 'no-entry' } });
    desk = must(must(desk, 'lane.next', { lane: 'lane-1', by: -1 }), 'lane.next', { lane: 'lane-1', by: -1 });
    expect(desk.show.lanes[0]?.content?.id).toBe(card);
  });
});
