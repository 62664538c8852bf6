/** Groups of sources and name cards in the show document. */
import { Flag, Id, Text } from '../schema/fields';

export class SourceGroup {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Flag('folded away in the list') folded!: boolean;
}

/** A name card: two lines on the designed plate. */
export class NameCard {
  @Id('identity') id!: string;
  @Text(60, 'first line: the name') name!: string;
  @Text(90, 'second line: who that is') role!: string;
}
