/** Filling in and counting values of entries. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Shown } from './air';
import { type Entry, type EntryValue, type Field, type Graphic, type Value } from './document';
import { checkValue, entryOf, fieldOf } from './edit';
import { filledElsewhere } from '../sheets/into-entries';
import { changedTo, plain } from './showing';
import { valueOf } from './values';

/** Values with one of them set; in its place, so that the same words are the same values, whichever was typed last. */
function withValue(values: readonly EntryValue[], fieldId: string, value: Value): EntryValue[] {
  const set = { fieldId, value };
  return values.some((v) => v.fieldId === fieldId) ? values.map((v) => (v.fieldId === fieldId ? set : v)) : [...values, set];
}

/** Fills a field in. @throws CommandError when the value does not fit it. */
export function fillIn(desk: Desk, graphic: Graphic, entry: Entry, field: Field, value: Value | null, at: string): void {
  const elsewhere = filledElsewhere(graphic, entry, field);
  if (elsewhere === 'formula')
    throw new CommandError('from-sheet', `${field.name} is worked out by its formula. Change that under Draw, Fields.`, at);
  if (elsewhere === 'sheet')
    throw new CommandError(
      'from-sheet',
      `${field.name} comes from the row ${entry.rowKey} of a sheet. Change it there, or duplicate the entry: a copy is filled in by hand.`,
      at,
    );
  if (value) checkValue(desk, graphic, field, value, at);
  entry.values = value ? withValue(entry.values, field.id, value) : entry.values.filter((v) => v.fieldId !== field.id);
}

/** The number field that is meant. @throws CommandError when there is none. */
function numberField(graphic: Graphic, id: string | undefined): Field {
  const field = id === undefined ? graphic.fields.find((f) => f.default.kind === 'number') : fieldOf(graphic, id);
  if (field?.default.kind !== 'number')
    throw new CommandError('no-number', `${graphic.name} has no number that could be counted.`, 'field');
  return field;
}

/** Gives a value to every copy of an entry on air, by its change move; what else was edited meanwhile goes on waiting. */
function changeCopies({ air }: Desk, id: string, fieldId: string, value: Value, frame: number): void {
  const next = (copy: Shown): Shown => {
    const shown = plain(copy);
    return changedTo(shown, { graphic: shown.graphic, values: withValue(shown.values, fieldId, value) }, frame);
  };
  for (const { picture } of Object.values(air.lanes))
    if (picture?.kind === 'graphic' && picture.id === id) picture.shown = next(picture.shown);
  const shown = air.graphics.shown[id];
  if (shown) air.graphics.shown[id] = next(shown);
}

/** Adds to a number of an entry, within the limits of its field; where the entry is on air, there too. */
export function stepEntry(desk: Desk, id: string, fieldId: string | undefined, by: number, frame: number): void {
  const { graphic, entry } = entryOf(desk, id);
  const field = numberField(graphic, fieldId);
  const value = valueOf(field, entry.values);
  const now = value.kind === 'number' ? value.number : 0;
  const number = Math.min(field.most ?? 1e12, Math.max(field.least ?? -1e12, now + by));
  if (number === now) throw new CommandError('at-limit', `${field.name} is ${now} already, and goes no further.`, 'by');
  fillIn(desk, graphic, entry, field, { kind: 'number', number }, 'by');
  changeCopies(desk, id, field.id, { kind: 'number', number }, frame);
}
