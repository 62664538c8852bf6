/** Finding and checking boxes, seats, framings and styles for the commands that change them. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { intersect, type Rect } from '../show/geometry';
import { type Box, type BoxContent, type Framing, type Layout, type Seat, type Style } from './document';
import { cropLeaves, type Crop, type Key } from './look';
import { circleThrough, findPicture, pictureByNumber } from '../desk/pictures';
import { type Raster } from '../show/raster';

type What = 'layout' | 'box' | 'seat' | 'framing' | 'style';

/** The thing of a list with this identity. @throws CommandError when there is none. */
function need<T extends { id: string }>(list: readonly T[], what: What, id: string, field: string = what): T {
  const found = list.find((item) => item.id === id);
  if (!found) throw new CommandError(`unknown-${what}`, `There is no ${what} "${id}" in this show.`, field);
  return found;
}

/** A layout or preset. @throws CommandError when there is none. */
export const layoutOf = ({ show }: Desk, id: string, field?: string): Layout =>
  need(show.layouts.some((l) => l.id === id) ? show.layouts : show.presets, 'layout', id, field);
export const boxOf = (layout: Layout, id: string): Box => need(layout.boxes, 'box', id);
export const seatOf = ({ show }: Desk, id: string, field?: string): Seat => need(show.seats, 'seat', id, field);
export const framingOf = ({ show }: Desk, id: string, field?: string): Framing => need(show.framings, 'framing', id, field);
export const styleOf = ({ show }: Desk, id: string): Style => need(show.styles, 'style', id);

/** Boxes by their identities, in the order asked for. @throws CommandError for the first that is not there. */
export const boxesOf = (layout: Layout, ids: readonly string[]): Box[] => ids.map((id) => boxOf(layout, id));

/** @throws CommandError when a crop leaves nothing; the message names what is cropped. */
export function checkCrop(crop: Crop, name: string, field = 'crop'): void {
  if (!cropLeaves(crop))
    throw new CommandError(
      'empty-crop',
      `This crop leaves nothing of ${name}: left and right, and top and bottom, must stay under 99.5 % together.`,
      field,
    );
}

/** @throws CommandError when a box would lie wholly outside the picture. */
export function checkInside(rect: Rect, raster: Raster, name: string): void {
  if (!intersect(rect, { x: 0, y: 0, ...raster })) {
    throw new CommandError('outside', `Box ${name} would lie wholly outside the picture of ${raster.width} × ${raster.height}.`, 'rect');
  }
}

/** @throws CommandError when the show has no such source or graphic. */
export function requireOverlay({ show }: Desk, id: string, field: string): void {
  const picture = findPicture(show, id);
  if (picture?.kind !== 'source' && picture?.kind !== 'graphic')
    throw new CommandError('unknown-source', `There is no source or graphic "${id}" in this show.`, field);
}

/** @throws CommandError when the content is unknown, or when a layout would show itself: the circle is named. */
export function checkContent(desk: Desk, layout: Pick<Layout, 'id' | 'name'>, content: BoxContent | null, field = 'content'): void {
  if (!content) return;
  if (content.kind === 'colour') {
    if (content.colour === undefined) throw new CommandError('bad-argument', 'A colour content needs a colour.', `${field}.colour`);
    return;
  }
  const picture = content.id === undefined ? null : findPicture(desk.show, content.id);
  const kind = picture?.kind === 'graphic' && picture.entry ? 'entry' : picture?.kind;
  if (!picture || kind !== content.kind)
    throw new CommandError('unknown-content', `There is no ${content.kind} "${content.id ?? ''}" in this show.`, `${field}.id`);
  const circle = circleThrough(desk.show, layout.id, picture.id);
  if (circle) throw new CommandError('circle', `${layout.name} would show itself: ${circle.join(' → ')}.`, `${field}.id`);
}

/** @throws CommandError when another picture wears the number. */
export function checkNumber(desk: Desk, number: number | null | undefined, id: string): void {
  const holder = number ? pictureByNumber(desk.show, number) : undefined;
  if (holder && holder.id !== id)
    throw new CommandError('number-taken', `${holder.name} wears the number ${number}. Unpin it there first.`, 'number');
}

/** @throws CommandError when a fill key names no source. */
export function checkKey(desk: Desk, key: Key | null | undefined): void {
  if (key?.kind === 'fill' && findPicture(desk.show, key.keyId)?.kind !== 'source') {
    throw new CommandError('unknown-source', `There is no source "${key.keyId}" for the key.`, 'key.keyId');
  }
}
