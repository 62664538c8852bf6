/** Groups of sources and name cards in the show document. */
import { Colour, Flag, Id, ListOf, Nested, Num, OneOf, Text, Variant, Whole } from '../schema/fields';
import { type Rate } from '../time/rate';
import { type Rect, RectField } from './geometry';
import { EyePoint, Framing, Layout, Preset, Seat, Style } from '../layout/document';
import { type Key, keyClass } from '../layout/look';
import { Replay } from '../replay/document';
import { Sound } from '../sound/document';
import { Source } from './source';

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
