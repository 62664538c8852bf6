/** Filling in and counting values of entries. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Entry, type Field, type Graphic, type Value } from './document';
import { checkValue, entryOf, fieldOf } from './edit';
import { valueOf } from './values';

/** Fills a field in. @throws CommandError when the value does not fit it. */
export function fillIn(desk: Desk, graphic: Graphic, entry: Entry, field: Field, value: Value | null, at: string): void {
  if (value) checkValue(desk, graphic, field, value, at);
  // In its place, so that the same words are the same values, whichever was typed last.
  const place = entry.values.findIndex((v) => v.fieldId === field.id);
  if (value === null) entry.values = entry.values.filter((v) => v.fieldId !== field.id);
  else if (place < 0) entry.values.push({ fieldId: field.id, value });
  else entry.values[place] = { fieldId: field.id, value };
}

/** The number field that is meant. @throws CommandError when there is none. */
function numberField(graphic: Graphic, id: string | undefined): Field {
  const field = id === undefined ? graphic.fields.find((f) => f.default.kind === 'number') : fieldOf(graphic, id);
  if (field?.default.kind !== 'number')
    throw new CommandError('no-number', `${graphic.name} has no number that could be counted.`, 'field');
  return field;
}

/** Adds to a number of an entry, within the limits of its field. */
export function stepEntry(desk: Desk, id: string, fieldId: string | undefined, by: number): void {
  const { graphic, entry } = entryOf(desk, id);
  const field = numberField(graphic, fieldId);
  const value = valueOf(field, entry.values);
  const now = value.kind === 'number' ? value.number : 0;
  const next = Math.min(field.most ?? 1e12, Math.max(field.least ?? -1e12, now + by));
  if (next === now) throw new CommandError('at-limit', `${field.name} is ${now} already, and goes no further.`, 'by');
  fillIn(desk, graphic, entry, field, { kind: 'number', number: next }, 'by');
}
