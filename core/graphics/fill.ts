/** What surfaces are made of: fill, stroke, and the effects around them. Lengths are pixels of the graphic's own raster. */
import { byKind, Colour, Flag, ListOf, Nested, Num, OneOf, Ref, Text, Id, Variant } from '../schema/fields';

export const SPREADS = ['pad', 'repeat', 'mirror'] as const;
export type Spread = (typeof SPREADS)[number];

export const IMAGE_FITS = ['contain', 'cover', 'fill', 'tile'] as const;
export type ImageFit = (typeof IMAGE_FITS)[number];

export class NoFill {
  @OneOf(['none'], 'nothing') kind!: 'none';
}
export class ColourFill {
  @OneOf(['colour'], 'one colour') kind!: 'colour';
  @Colour('the colour') colour!: string;
  @Num(0, 1, 'opacity') opacity!: number;
}
export class GradientStop {
  @Num(0, 1, 'place along the gradient') at!: number;
  @Colour('the colour') colour!: string;
  @Num(0, 1, 'opacity') opacity!: number;
}
export const MOST_STOPS = 16;
export class GradientFill {
  @OneOf(['linear', 'radial'], 'along a line, or from the middle outwards') kind!: 'linear' | 'radial';
  @ListOf(() => GradientStop, MOST_STOPS, 'colours by place') stops!: GradientStop[];
  @Num(-360, 360, 'direction, degrees clockwise from rightwards') angle!: number;
  @Num(0.01, 4, 'length, share of the way across the element') length!: number;
  @OneOf(SPREADS, 'what follows after the last colour') spread!: Spread;
}
export class PictureFill {
  @OneOf(['picture'], 'an image file') kind!: 'picture';
  @Ref('asset', 'asset that holds the bytes', { nullable: true }) assetId!: string | null;
  @OneOf(IMAGE_FITS, 'how it meets the element') fit!: ImageFit;
  @Num(0, 1, 'opacity') opacity!: number;
}
export type Fill = NoFill | ColourFill | GradientFill | PictureFill;
export const fillClass = byKind<Fill['kind']>({
  none: NoFill,
  colour: ColourFill,
  linear: GradientFill,
  radial: GradientFill,
  picture: PictureFill,
});

export const STROKE_PLACES = ['inside', 'centre', 'outside'] as const;
export type StrokePlace = (typeof STROKE_PLACES)[number];
export const DASHES = ['solid', 'dashed', 'dotted'] as const;

export class Stroke {
  @Num(0, 400, 'width, pixels; 0 for none') width!: number;
  @Colour('the colour') colour!: string;
  @Num(0, 1, 'opacity') opacity!: number;
  @OneOf(STROKE_PLACES, 'where it runs') place!: StrokePlace;
  @OneOf(DASHES, 'dash') dash!: (typeof DASHES)[number];
}

export class DropShadow {
  @Num(-2000, 2000, 'pixels to the right') x!: number;
  @Num(-2000, 2000, 'pixels downwards') y!: number;
  @Num(0, 400, 'blur, pixels') blur!: number;
  @Num(0, 200, 'spread, pixels: how much larger than the element') spread!: number;
  @Colour('the colour') colour!: string;
  @Num(0, 1, 'opacity') opacity!: number;
}
export class Glow {
  @Num(0, 400, 'reach, pixels') blur!: number;
  @Colour('the colour') colour!: string;
  @Num(0, 1, 'opacity') opacity!: number;
}
export class Reflection {
  @Num(0, 1, 'height, share of the element') height!: number;
  @Num(0, 1, 'opacity where it begins; it fades to nothing') opacity!: number;
  @Num(-200, 400, 'gap below the element, pixels') gap!: number;
}
/** Shares of the element that are cut away, each side with a soft edge of its own. */
export class ElementCrop {
  @Num(0, 1, 'cut from the left, share') left!: number;
  @Num(0, 1, 'cut from the top, share') top!: number;
  @Num(0, 1, 'cut from the right, share') right!: number;
  @Num(0, 1, 'cut from the bottom, share') bottom!: number;
  @Num(0, 400, 'soft edge at the left, pixels') featherLeft!: number;
  @Num(0, 400, 'soft edge at the top, pixels') featherTop!: number;
  @Num(0, 400, 'soft edge at the right, pixels') featherRight!: number;
  @Num(0, 400, 'soft edge at the bottom, pixels') featherBottom!: number;
  @Flag('stroke, corners and shadow follow the cropped edge; otherwise they are cut') follows!: boolean;
}

/** Fill, stroke and effects of an element. */
export class Finish {
  @Variant(fillClass, 'what fills it') fill!: Fill;
  @Nested(() => Stroke, 'its outline') stroke!: Stroke;
  @Nested(() => DropShadow, 'shadow', { nullable: true }) shadow!: DropShadow | null;
  @Nested(() => Glow, 'glow', { nullable: true }) glow!: Glow | null;
  @Nested(() => Reflection, 'reflection', { nullable: true }) reflection!: Reflection | null;
}

/** A finish kept by name. */
export class StoredFinish {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => Finish, 'what it is') finish!: Finish;
}
