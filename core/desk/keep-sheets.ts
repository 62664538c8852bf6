/** After every act: entries, tables and tickers show what their sheets and formulas say, whichever act has changed either. */
import { type Patch, produceWithPatches } from 'immer';
import { readsClocks } from '../formula/evaluate';
import { wholeSeconds } from '../graphics/clocks';
import { type Entry, type Graphic } from '../graphics/document';
import { type Content } from '../graphics/element';
import { meant } from '../graphics/for-mixer';
import { type Sheet } from '../sheets/document';
import { type Around, aroundAt } from '../sheets/around';
import { entriesFor } from '../sheets/into-entries';
import { sitterOf } from '../guests/sitter';
import { contentFor } from '../sheets/into-elements';
import { type Desk } from './air';
import { KeepLast } from './keep-last';
import { walkRefs } from './refs';
import { Show } from './show';

interface Needs {
  sheets: ReadonlySet<string>;
  formulas: boolean;
  clocks: boolean;
}

const needs = new WeakMap<Graphic, Needs | null>();

/** What a graphic takes from outside of it; null for nothing, as most do. */
function needsOf(graphic: Graphic): Needs | null {
  const known = needs.get(graphic);
  if (known !== undefined) return known;
  const sheets = new Set<string>(graphic.sheet ? [graphic.sheet.sheetId] : []);
  for (const { content } of graphic.elements)
    if ((content.kind === 'table' || content.kind === 'ticker') && content.sheetId !== null) sheets.add(content.sheetId);
  const formulas = graphic.fields.flatMap((f) => f.formula ?? []);
  const found = sheets.size + formulas.length === 0 ? null : { sheets, formulas: formulas.length > 0, clocks: formulas.some(readsClocks) };
  needs.set(graphic, found);
  return found;
}

/** True when a formula of the show reads clocks: they are looked at each second then. */
export const needsSeconds = ({ graphics }: Pick<Show, 'graphics'>): boolean => graphics.list.some((g) => needsOf(g)?.clocks);

/** What each graphic is up to date with. One that has to change is not noted: an act may still be refused, and the graphic come again as it was. */
const done = new WeakMap<Graphic, { sheets: readonly Sheet[]; seconds: string }>();

/** Entries that something in the show or on air points at, or holds. */
function usedEntries(desk: Desk): ReadonlySet<string> {
  const ids = meant(desk, Object.keys(desk.air.graphics.shown));
  walkRefs(Show, desk.show, ({ id }) => ids.add(id), new Set(['entry'] as const));
  for (const { picture } of Object.values(desk.air.lanes)) if (picture) ids.add(picture.id);
  return ids;
}

const seatings = new KeepLast<string>();

/** Who sits where, for formulas that ask; worked out once for each state. */
const seatingOf = (show: Show): string =>
  seatings.get([show.seats, show.guests, show.sources, show.framings], () =>
    JSON.stringify(show.seats.map((seat) => [seat.name, sitterOf(show, seat)])),
  );

interface Change {
  index: number;
  entries: readonly Entry[] | null;
  contents: ReadonlyMap<number, Content>;
}

function changeOf(graphic: Graphic, index: number, desk: Desk, around: Around): Change | null {
  const { sheets } = desk.show;
  const sheet = sheets.find((s) => s.id === graphic.sheet?.sheetId) ?? null;
  const entries = entriesFor(graphic, sheet, around, () => usedEntries(desk));
  const contents = new Map<number, Content>();
  graphic.elements.forEach(({ content }, i) => {
    const next = contentFor(content, (id) => sheets.find((s) => s.id === id));
    if (next !== content) contents.set(i, next);
  });
  const same = entries === graphic.entries;
  return same && contents.size === 0 ? null : { index, entries: same ? null : entries, contents };
}

/** Entries of the draft made those that are wanted; of entries that stay, just the values that differ are touched. */
function putEntries(graphic: Graphic, wanted: readonly Entry[]): void {
  const kept = new Set(wanted.map((e) => e.id));
  if (graphic.entries.some((e) => !kept.has(e.id))) graphic.entries = graphic.entries.filter((e) => kept.has(e.id));
  wanted.forEach((entry, i) => {
    const now = graphic.entries[i];
    if (!now) graphic.entries.push(entry);
    else if (now.values !== entry.values) now.values = entry.values;
  });
}

/** The desk with everything from sheets and formulas in order, with the patches of that; the same desk where nothing was to be done. */
export function keepSheets(desk: Desk, frame: number): readonly [Desk, Patch[], Patch[]] {
  const { show, air } = desk;
  const seconds = needsSeconds(show)
    ? show.graphics.clocks.map((c) => `${c.name} ${wholeSeconds(c, air.graphics, frame, show.rate)}`).join('\n')
    : '';
  const around = aroundAt(desk, frame);
  const changes = show.graphics.list.flatMap((graphic, index): Change[] => {
    const wants = needsOf(graphic);
    if (!wants) return [];
    const last = done.get(graphic);
    const own = `${wants.clocks ? seconds : ''}${wants.formulas ? seatingOf(show) : ''}`;
    if (last?.seconds === own && (last.sheets === show.sheets || (!wants.formulas && sameSheets(wants.sheets, last.sheets, show.sheets))))
      return [];
    const change = changeOf(graphic, index, desk, around);
    if (change) return [change];
    done.set(graphic, { sheets: show.sheets, seconds: own });
    return [];
  });
  if (changes.length === 0) return [desk, [], []];
  return produceWithPatches(desk, (draft: Desk) => {
    for (const { index, entries, contents } of changes) {
      const graphic = draft.show.graphics.list[index] as Graphic;
      if (entries) putEntries(graphic, entries);
      for (const [i, content] of contents) (graphic.elements[i] as Graphic['elements'][0]).content = content;
    }
  });
}

const sameSheets = (ids: ReadonlySet<string>, before: readonly Sheet[], now: readonly Sheet[]): boolean =>
  [...ids].every((id) => before.find((s) => s.id === id) === now.find((s) => s.id === id));
