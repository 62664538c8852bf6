/** Finding entries by their words. */
import { type Entry, type Graphic } from './document';
import { entryName } from './find';
import { valueOf, wordsOf } from './values';

/** Entries that have all words of a search in their values, or its number; all of them without one. Capitals do not matter. */
export function foundEntries(graphic: Graphic, search: string): readonly Entry[] {
  const words = search.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  if (words.length === 0) return graphic.entries;
  return graphic.entries.filter((entry) => {
    const values = graphic.fields.map((f) => wordsOf(valueOf(f, entry.values)));
    const text = [entry.number ?? '', entryName(graphic, entry), ...values].join(' ').toLocaleLowerCase();
    return words.every((w) => text.includes(w));
  });
}
