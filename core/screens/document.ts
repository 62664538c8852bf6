/** Screens in the show document: the outputs that leave Bivoca beside programme and clean programme, and what each shows. */
import { byKind, Flag, Id, ListOf, Nested, OneOf, Ref, Text, Variant, Whole } from '../schema/fields';
import { Raster } from '../show/raster';
import { MOST_SURFACE_PRESETS, MOST_SURFACES, Surface, SurfacePreset } from './surface';

export const MOST_OUTPUTS = 64;
/** Fewest frames: each so many-th one of the show. */
export const MOST_FRAME_STEP = 10;

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
/** The last frame stays. */
export class ShowsFrozen {
  @OneOf(['frozen'], 'the frame that it showed last') kind!: 'frozen';
}
/** What the screens of a surface that this output feeds look into. */
export class ShowsSurface {
  @OneOf(['surface'], 'its part of a surface') kind!: 'surface';
  @Ref('surface', 'the surface; null for black', { nullable: true }) surfaceId!: string | null;
}
/** A whole canvas as one picture. */
export class ShowsCanvas {
  @OneOf(['canvas'], 'a whole canvas, for monitors') kind!: 'canvas';
  @Ref('surface', 'the surface; null for black', { nullable: true }) surfaceId!: string | null;
  @OneOf(['air', 'next'], 'what is on air, or in Next') which!: 'air' | 'next';
  @Flag('its screens are drawn over it, with their names') drawn!: boolean;
}
export type Shows = ShowsProgramme | ShowsClean | ShowsPicture | ShowsSurface | ShowsCanvas | ShowsTest | ShowsCard | ShowsBlack;
export const showsClass = byKind<Shows['kind']>({
  programme: ShowsProgramme,
  clean: ShowsClean,
  picture: ShowsPicture,
  surface: ShowsSurface,
  canvas: ShowsCanvas,
  test: ShowsTest,
  card: ShowsCard,
  black: ShowsBlack,
});

/** What may stand in the place of everything for a moment. */
export const overClass = byKind<'black' | 'test' | 'card' | 'frozen'>({
  black: ShowsBlack,
  test: ShowsTest,
  card: ShowsCard,
  frozen: ShowsFrozen,
});

export class ScreenOutput {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => Raster, 'pixels that leave; null for those of the show', { nullable: true }) raster!: Raster | null;
  @Whole(1, MOST_FRAME_STEP, 'each how many-th frame of the show leaves, 1 for all') frameStep!: number;
  @Variant(showsClass, 'what it shows') shows!: Shows;
  @Text(200, 'label of the display that its window stands on; empty for a window that is dragged by hand') display!: string;
}

export class Screens {
  @ListOf(() => ScreenOutput, MOST_OUTPUTS, 'outputs in order of the list') outputs!: ScreenOutput[];
  @ListOf(() => Surface, MOST_SURFACES, 'surfaces in order of the list') surfaces!: Surface[];
  @ListOf(() => SurfacePreset, MOST_SURFACE_PRESETS, 'stored looks of surfaces') presets!: SurfacePreset[];
}
