/** Which deck a command is for. */
import { Whole } from '../schema/fields';
import { type DeckNumber } from './air';

export class DeckArg {
  @Whole(1, 2, 'deck') deck!: DeckNumber;
}
