/** Finds graphics and entries by their identity, and says what they are called. */
import { isDraft, original } from 'immer';
import { type Show } from '../desk/show';
import { type Filled } from './air';
import { type Clock, type Entry, type EntryValue, type Graphic } from './document';
import { liveIn } from './animation/layers';
import { drawnElements, isEmpty, valueOf, wordsOf } from './values';

/** A graphic, or one of its entries. */
export interface FoundGraphic {
  graphic: Graphic;
  entry: Entry | null;
}

const entryIndexes = new WeakMap<readonly Entry[], ReadonlyMap<string, Entry>>();

/** Entries by identity. An edit changes one graphic: those of the others are not gone through again. */
function entriesOf({ entries }: Graphic): ReadonlyMap<string, Entry> {
  const known = entryIndexes.get(entries);
  if (known) return known;
  const index = new Map(entries.map((entry) => [entry.id, entry]));
  if (Object.isFrozen(entries)) entryIndexes.set(entries, index);
  return index;
}

function inList(list: readonly Graphic[], id: string): FoundGraphic | null {
  for (const graphic of list) {
    if (graphic.id === id) return { graphic, entry: null };
    const entry = entriesOf(graphic).get(id);
    if (entry) return { graphic, entry };
  }
  return null;
}

/** Where in a draft the graphic or entry stands that it began with in this place; null when it is there no more. Drafts are made of nothing else. */
function inDraft(list: readonly Graphic[], id: string): FoundGraphic | null {
  const began = isDraft(list) ? original(list as Graphic[]) : undefined;
  const found = began && Object.isFrozen(began) ? inList(began, id) : null;
  if (!began || !found) return null;
  const graphic = list[began.indexOf(found.graphic)];
  if (graphic?.id !== found.graphic.id) return null;
  if (!found.entry) return { graphic, entry: null };
  const entry = graphic.entries[found.graphic.entries.indexOf(found.entry)];
  return entry?.id === id ? { graphic, entry } : null;
}

/** The graphic or entry with this identity; null when the show has none. */
export function findGraphic({ graphics: { list } }: Pick<Show, 'graphics'>, id: string | null): FoundGraphic | null {
  if (id === null) return null;
  if (Object.isFrozen(list)) return inList(list, id);
  const known = inDraft(list, id);
  if (known) return known;
  // New in this draft, moved in it, or nowhere: looked for one by one.
  for (const graphic of list) {
    if (graphic.id === id) return { graphic, entry: null };
    const entry = graphic.entries.find((e) => e.id === id);
    if (entry) return { graphic, entry };
  }
  return null;
}

/** Nothing filled in: every field has its default. */
export const NO_VALUES: EntryValue[] = [];
Object.freeze(NO_VALUES);

/** A graphic with the values of an entry. */
export const filledOf = ({ graphic, entry }: FoundGraphic): Filled => ({ graphic, values: entry?.values ?? NO_VALUES });

/** What an entry is called: the words of its first fields that have some, after its number. */
export function entryName(graphic: Graphic, { number, values }: Entry): string {
  const words = graphic.fields
    .map((f) => valueOf(f, values))
    .filter((v) => !isEmpty(v))
    .map(wordsOf)
    .filter(Boolean);
  const name = words.slice(0, 2).join(', ').replaceAll('\n', ' ').slice(0, 80);
  return name || `${graphic.name}${number === null ? '' : ` ${number}`}`;
}

/** What an audience reads of a graphic: the words filled in, `otherwise` where there are none. */
export const shownWords = ({ graphic, values }: Filled, otherwise: string): string =>
  graphic.fields
    .map((f) => valueOf(f, values))
    .filter((v) => v.kind === 'text' && !isEmpty(v))
    .map(wordsOf)
    .join(', ') || otherwise;

export const graphicName = ({ graphic, entry }: FoundGraphic): string => (entry ? entryName(graphic, entry) : graphic.name);

/** Identities of the pictures in the windows of a filled graphic. */
export const windowsOf = (filled: Filled): string[] =>
  drawnElements(filled).flatMap(({ element: { content } }) => {
    if (content.kind === 'animation') return liveIn(content).map(({ pictureId }) => pictureId);
    return content.kind === 'window' && content.pictureId !== null ? [content.pictureId] : [];
  });

/** Identities of all pictures that a graphic could show, whatever is filled in. */
export const allWindowsOf = (graphic: Graphic): string[] => [
  ...graphic.elements.flatMap(({ content }) => (content.kind === 'window' && content.pictureId !== null ? [content.pictureId] : [])),
  ...[...graphic.fields.map((f) => f.default), ...graphic.entries.flatMap((e) => e.values.map((v) => v.value))].flatMap((v) =>
    v.kind === 'picture' && v.pictureId !== null ? [v.pictureId] : [],
  ),
];

export const findClock = ({ graphics }: Pick<Show, 'graphics'>, id: string | null): Clock | undefined =>
  id === null ? undefined : graphics.clocks.find((c) => c.id === id);

/** A clock by its name, whatever the capitals: as formulas and messages call it. */
export const clockNamed = ({ graphics }: Pick<Show, 'graphics'>, name: string): Clock | undefined =>
  graphics.clocks.find((c) => c.name.toLowerCase() === name.trim().toLowerCase());
