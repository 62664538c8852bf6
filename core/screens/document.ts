/** Screens in the show document: the outputs that leave Bivoca beside programme and clean programme, and what each shows. */
import { byKind, Id, ListOf, Nested, OneOf, Ref, Text, Variant } from '../schema/fields';
import { Raster } from '../show/raster';

export const MOST_OUTPUTS = 64;

/** The programme, or the programme below its lanes. */
export class ShowsProgramme {
  @OneOf(['programme'], 'what the audience of the stream gets') kind!: 'programme';
}
export class ShowsClean {
  @OneOf(['clean'], 'the programme below its lanes') kind!: 'clean';
}
export class ShowsPicture {
  @OneOf(['picture'], 'one picture of the show by itself') kind!: 'picture';
  @Ref('picture', 'the picture; null for black', { nullable: true }) pictureId!: string | null;
}

export const PATTERNS = ['bars', 'grid', 'ramp', 'lines', 'sweep'] as const;
export type Pattern = (typeof PATTERNS)[number];

export class ShowsTest {
  @OneOf(['test'], 'a test picture') kind!: 'test';
  @OneOf(PATTERNS, 'which one') pattern!: Pattern;
}
/** Name, pixels and place of the output, large enough to be read across a hall. */
export class ShowsCard {
  @OneOf(['card'], 'its identification card') kind!: 'card';
}
export class ShowsBlack {
  @OneOf(['black'], 'black') kind!: 'black';
}
export type Shows = ShowsProgramme | ShowsClean | ShowsPicture | ShowsTest | ShowsCard | ShowsBlack;
export const showsClass = byKind<Shows['kind']>({
  programme: ShowsProgramme,
  clean: ShowsClean,
  picture: ShowsPicture,
  test: ShowsTest,
  card: ShowsCard,
  black: ShowsBlack,
});

export class ScreenOutput {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => Raster, 'pixels that leave; null for those of the show', { nullable: true }) raster!: Raster | null;
  @Variant(showsClass, 'what it shows') shows!: Shows;
  @Text(200, 'label of the display that its window stands on; empty for a window that is dragged by hand') display!: string;
}

export class Screens {
  @ListOf(() => ScreenOutput, MOST_OUTPUTS, 'outputs in order of the list') outputs!: ScreenOutput[];
}
