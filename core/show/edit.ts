/** Finding sources for the commands that change them. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { findSource } from '../desk/pictures';

/** @throws CommandError when the show has no such source. */
export function requireSource(desk: Desk, id: string, field = 'source') {
  const source = findSource(desk.show, id);
  if (!source) throw new CommandError('unknown-source', `There is no source "${id}" in this show.`, field);
  return source;
}
