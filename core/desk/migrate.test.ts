/** Shows of every version before, made by the code of their time. */
import { describe, expect, it } from 'vitest';
import { fixture } from '#tests/support/fixtures';
import { guestAirMigrations } from '../guests/migrations';
import { type Air } from './air';
import { readAir, readShow } from './migrate';
import { SHOW_VERSION } from './version';
import { showProblems } from './validate';

const VERSIONS = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12] as const;

describe.each(VERSIONS)('a show of version %i', (version) => {
  const { show: old, air } = fixture(version);
  const now = readShow(old);

  it('becomes a sound show of today, and is left as it was', () => {
    expect(now.version).toBe(SHOW_VERSION);
    expect(showProblems(now)).toEqual([]);
    expect(old).toEqual(fixture(version).show);
  });

  it('keeps its sources, lanes and cards', () => {
    const sources = old.sources as { id: string; name: string; number: number | null }[];
    expect(now.sources.filter((s) => s.settings.kind !== 'deck' || version > 2).map((s) => [s.id, s.name, s.number])).toEqual(
      sources.map((s) => [s.id, s.name, s.number]),
    );
    expect(now.lanes.map((l) => [l.id, l.content?.id ?? null])).toEqual(
      (old.lanes as { id: string; content: { id: string } | null }[]).map((l) => [l.id, l.content?.id ?? null]),
    );
    // Cards have become entries of one graphic, under their old identities, with their words.
    if (!('cards' in old)) return;
    const cards = old.cards as { id: string; name: string; role: string }[];
    const graphic = now.graphics.list[0];
    expect(graphic?.entries.map((e) => [e.id, ...e.values.map((v) => v.value)])).toEqual(
      cards.map(({ id, name, role }) => [id, { kind: 'text', text: name }, { kind: 'text', text: role }]),
    );
  });

  it('goes on with what was on air', () => {
    const read = readAir(air as unknown as Air, version, now);
    expect(read.onAirId).toBe('a');
    expect(read.lanes['lane-2']?.picture).toEqual({ kind: 'picture', id: 'bug' });
  });
});

describe('what a version brought', () => {
  it('is in what was on air too: guests of version 12 do not see the running order before they are shown it', () => {
    const vik = { state: 'admitted', lost: false, since: 3, said: 'Vik', note: 'Soon' };
    const guests = { ...readAir(fixture(12).air as unknown as Air, 12, readShow(fixture(12).show)).guests, now: { vik } };
    expect(guestAirMigrations[13]?.({ guests }, {})).toEqual({ guests: { ...guests, now: { vik: { ...vik, seesOrder: false } } } });
  });

  it('is there with its first settings in shows from before, shared by none of them', () => {
    const [one, two] = [readShow(fixture(1).show), readShow(fixture(1).show)];
    expect([one.layouts, one.replay.reels.length, one.sound.buses.length]).toEqual([[], 12, 1]);
    expect(one.sources[0]?.sound.eq).not.toBe(one.sources[1]?.sound.eq);
    expect(one.sound.presets[0]).not.toBe(two.sound.presets[0]);
  });

  it('takes ties, angles, eyes and outputs of version 4 over', () => {
    const now = readShow(fixture(4).show);
    const framing = now.framings[0]?.id;
    expect(now.styles[0]?.framingIds).toEqual([framing]);
    expect(now.replay.angles).toEqual([
      { pictureId: 'a', soundId: 'a' },
      { pictureId: 'b', soundId: 'programme' },
    ]);
    expect(now.output).toMatchObject({ recording: { outputId: 'programme' }, stream: { outputId: 'programme' } });
    expect(now.overrides.map((o) => o.toId)).toEqual(['b', framing]);
    expect(now.presets[0]?.layoutId).toBe(now.layouts[0]?.id);
  });

  it('gives lanes the numbers of the keys that found them by their place', () => {
    expect(readShow(fixture(5).show).lanes.map((l) => l.number)).toEqual([1, 2, 3, 4]);
  });

  it('makes a sheet without rows of what a graphic said of its own, and keeps its entries', () => {
    const now = readShow(fixture(8).show);
    const graphic = now.graphics.list.find((g) => g.id === 'results');
    expect(now.sheets).toMatchObject([{ id: 'sheet-results', name: 'heats.csv', key: 'Bib', columns: ['Bib', 'Pilot'], rows: [] }]);
    expect(graphic?.sheet).toEqual({ sheetId: 'sheet-results', all: false, columns: [{ fieldId: 'f-name', column: 'Pilot' }] });
    expect(graphic?.entries).toMatchObject([{ id: 'row-1', rowKey: '12', done: true }]);
    expect(graphic?.fields.map((f) => f.formula)).toEqual([null]);
  });

  it('lets a preset of a layout that is gone stay', () => {
    const { show } = fixture(4);
    (show.presets as { layoutId: string }[]).forEach((p) => (p.layoutId = 'gone'));
    expect(readShow(show).presets[0]?.layoutId).toBeNull();
  });
});
