/** Outputs by their identities, for commands. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type ScreenOutput } from './document';
import { screenOutput } from './outputs';

/** @throws CommandError naming `field` when the show has no such output */
export function outputOf({ show }: Desk, id: string, field = 'output'): ScreenOutput {
  const output = screenOutput(show, id);
  if (!output) throw new CommandError('nothing-there', `The show has no output "${id}" of its own.`, field);
  return output;
}
