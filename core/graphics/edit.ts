/** Finding and checking parts of graphics for the commands that change them. */
import { type ErrorCode } from '../commands/codes';
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { circleThrough, findPicture } from '../desk/pictures';
import { type Clock, type Entry, type Field, type Graphic, type Value } from './document';
import { type Element } from './element';
import { findGraphic } from './find';

function need<T>(found: T | undefined | null, code: ErrorCode, message: string, field: string): T {
  if (found === undefined || found === null) throw new CommandError(code, message, field);
  return found;
}

/** @throws CommandError when the show has no such graphic. */
export const graphicOf = ({ show }: Desk, id: string, field = 'graphic'): Graphic =>
  need(
    show.graphics.list.find((g) => g.id === id),
    'unknown-graphic',
    `There is no graphic "${id}" in this show.`,
    field,
  );

/** @throws CommandError when the graphic has no such element. */
export const elementOf = (graphic: Graphic, id: string, field = 'element'): Element =>
  need(
    graphic.elements.find((e) => e.id === id),
    'unknown-element',
    `${graphic.name} has no element "${id}".`,
    field,
  );

/** Elements by their identities. @throws CommandError for the first that is not there. */
export const elementsOf = (graphic: Graphic, ids: readonly string[]): Element[] => ids.map((id) => elementOf(graphic, id, 'elements'));

/** @throws CommandError when the graphic has no such field. */
export const fieldOf = (graphic: Graphic, id: string, field = 'field'): Field =>
  need(
    graphic.fields.find((f) => f.id === id),
    'unknown-field',
    `${graphic.name} has no field "${id}".`,
    field,
  );

/** An entry with its graphic. @throws CommandError when the show has no such entry. */
export function entryOf({ show }: Desk, id: string, field = 'entry'): { graphic: Graphic; entry: Entry } {
  const found = findGraphic(show, id);
  return {
    graphic: found?.graphic as Graphic,
    entry: need(found?.entry, 'unknown-entry', `There is no entry "${id}" in this show.`, field),
  };
}

/** The lowest number above all that are used. */
export const nextNumber = (graphic: Graphic): number | null => {
  const next = graphic.entries.reduce((most, e) => Math.max(most, e.number ?? 0), 0) + 1;
  return next <= 9999 ? next : null;
};

/** @throws CommandError when the show has no such clock. */
export const clockOf = ({ show }: Desk, id: string, field = 'clock'): Clock =>
  need(
    show.graphics.clocks.find((c) => c.id === id),
    'unknown-clock',
    `There is no clock "${id}" in this show.`,
    field,
  );

/** @throws CommandError when a graphic could show itself through this picture: the circle is named. */
export function checkWindow({ show }: Desk, graphic: Graphic, pictureId: string | null, field: string): void {
  if (pictureId === null) return;
  if (!findPicture(show, pictureId)) throw new CommandError('unknown-picture', `There is no picture "${pictureId}" in this show.`, field);
  const circle = circleThrough(show, graphic.id, pictureId);
  if (circle) throw new CommandError('circle', `${graphic.name} would show itself: ${circle.join(' → ')}.`, field);
}

/** @throws CommandError when a value is not of the field's kind, or beyond its limits; the message says which. */
export function checkValue(desk: Desk, graphic: Graphic, field: Field, value: Value, at: string): void {
  if (value.kind !== field.default.kind)
    throw new CommandError('bad-value', `${field.name} is a ${field.default.kind}, and was given a ${value.kind}.`, at);
  if (value.kind === 'text' && field.longest !== null && value.text.length > field.longest)
    throw new CommandError('bad-value', `${field.name} holds ${field.longest} characters at most; these are ${value.text.length}.`, at);
  if (
    value.kind === 'number' &&
    ((field.least !== null && value.number < field.least) || (field.most !== null && value.number > field.most))
  )
    throw new CommandError('bad-value', `${field.name} must be ${limits(field)}, not ${value.number}.`, at);
  if (value.kind === 'choice' && value.choice !== '' && !field.choices.includes(value.choice))
    throw new CommandError('bad-value', `${field.name} is one of ${field.choices.join(', ') || 'no choices yet'}.`, at);
  if (value.kind === 'clock' && value.clockId !== null) clockOf(desk, value.clockId, `${at}.clockId`);
  if (value.kind === 'picture') checkWindow(desk, graphic, value.pictureId, `${at}.pictureId`);
}

const limits = ({ least, most }: Field): string =>
  least !== null && most !== null ? `${least} to ${most}` : least !== null ? `${least} or more` : `${most} or less`;

/** @throws CommandError when one is locked. */
export function checkFree(elements: readonly Element[]): void {
  const locked = elements.find((e) => e.locked);
  if (locked) throw new CommandError('locked', `${locked.name} is locked. Unlock it first.`, 'elements');
}

/** All that is in these elements, themselves included, in the order of the graphic. */
export function withParts(graphic: Graphic, ids: readonly string[]): Element[] {
  const wanted = new Set(ids);
  for (let more = true; more;) {
    more = false;
    for (const e of graphic.elements)
      if (e.parentId !== null && wanted.has(e.parentId) && !wanted.has(e.id)) {
        wanted.add(e.id);
        more = true;
      }
  }
  return graphic.elements.filter((e) => wanted.has(e.id));
}
