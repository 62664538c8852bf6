/** Groups of sources in the show document. */
import { Flag, Id, Text } from '../schema/fields';

export class SourceGroup {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Flag('folded away in the list') folded!: boolean;
}
