/** Finding pictures for the commands that switch them. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { findPicture } from '../desk/pictures';

/** @throws CommandError when the show has no such source, framing, layout, preset or seat. */
export function requirePicture(desk: Desk, id: string, field = 'picture') {
  const picture = findPicture(desk.show, id);
  if (!picture) throw new CommandError('unknown-picture', `There is no picture "${id}" in this show.`, field);
  return picture;
}
