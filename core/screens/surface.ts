/**
 * Surfaces in the show document: canvases of a venue, the screens on them, the layers in Next, presets and named places. Places on a canvas
 * are its pixels from its upper left corner; an active area is pixels of the output that feeds the screen.
 */
import { Colour, Flag, Id, ListOf, Nested, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { type Rect, RectField } from '../show/geometry';
import { Box, BoxContent } from '../layout/document';

export const MOST_SURFACES = 16;
export const MOST_SCREENS = 64;
export const MOST_LAYERS = 64;
export const MOST_PLACES = 100;
export const MOST_SURFACE_PRESETS = 200;
export const MOST_MASKS = 8;
/** Widest and highest canvas, pixels. */
export const LARGEST_CANVAS = 20_000;

/** Quarter turns of a picture within the output, clockwise. */
export const TURNS = ['none', 'right', 'half', 'left'] as const;
export type Turn = (typeof TURNS)[number];

/** How a blend falls from full light to none. */
export const CURVES = ['straight', 'smooth', 'cosine'] as const;
export type Curve = (typeof CURVES)[number];

/** What a screen really measures. */
export class RealSize {
  @Num(1, 1_000_000, 'width, millimetres') width!: number;
  @Num(1, 1_000_000, 'height, millimetres') height!: number;
}

export class Gain {
  @Num(0, 1, 'share of red') red!: number;
  @Num(0, 1, 'share of green') green!: number;
  @Num(0, 1, 'share of blue') blue!: number;
}

/** Widths of the blended edges, pixels of the canvas; null for as wide as the overlap. */
export class Edges {
  @Whole(0, 8000, 'at the left; null for the overlap', { nullable: true }) left!: number | null;
  @Whole(0, 8000, 'at the top; null for the overlap', { nullable: true }) top!: number | null;
  @Whole(0, 8000, 'at the right; null for the overlap', { nullable: true }) right!: number | null;
  @Whole(0, 8000, 'at the bottom; null for the overlap', { nullable: true }) bottom!: number | null;
}

export class Offset {
  @Num(-4000, 4000, 'to the right, pixels of the output') x!: number;
  @Num(-4000, 4000, 'downwards, pixels of the output') y!: number;
}

/** How far each corner of the picture is pulled from its own place, so that it fits what it is thrown upon. */
export class Corners {
  @Nested(() => Offset, 'upper left') topLeft!: Offset;
  @Nested(() => Offset, 'upper right') topRight!: Offset;
  @Nested(() => Offset, 'lower right') bottomRight!: Offset;
  @Nested(() => Offset, 'lower left') bottomLeft!: Offset;
}

/** A screen of a venue on the canvas: a projector's picture, an LED wall or a part of one. */
export class Screen {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => RectField, 'place on the canvas') rect!: Rect;
  @Ref('screen', 'output that feeds it; null for none yet', { nullable: true }) outputId!: string | null;
  @Nested(() => RectField, 'active area: the part of the output’s pixels that it uses; null for all of them', { nullable: true })
  area!: Rect | null;
  @OneOf(TURNS, 'how the picture is turned in the output, clockwise') turn!: Turn;
  @Nested(() => RealSize, 'what it really measures; null for the scale of the canvas', { nullable: true }) size!: RealSize | null;
  @Flag('its edges are blended where it overlaps others that blend') blends!: boolean;
  @Nested(() => Edges, 'widths of its blended edges') edges!: Edges;
  @Nested(() => Gain, 'light of each colour') gain!: Gain;
  @Nested(() => Corners, 'four-corner fit; null for none', { nullable: true }) corners!: Corners | null;
  @ListOf(() => RectField, MOST_MASKS, 'masks: parts of the output that stay black, pixels') masks!: Rect[];
  @Flag('protected from being moved') locked!: boolean;
}

export class Blend {
  @OneOf(CURVES, 'how light falls across an overlap') curve!: Curve;
  @Num(1, 4, 'gamma of the projectors') gamma!: number;
  @Num(0, 0.3, 'lift of black where only one projector shines, share of full signal') lift!: number;
}

/** What a layer shows: a picture of the show, or what the audience of the stream gets. */
export const LAYER_SHOWS = ['picture', 'programme', 'clean'] as const;

/** A picture on a surface. */
export class Layer extends Box {
  @OneOf(LAYER_SHOWS, 'its own content, programme, or clean programme') shows!: (typeof LAYER_SHOWS)[number];
}

/** All that is seen on a surface. */
export class Look {
  @Nested(() => BoxContent, 'behind the layers; null for black', { nullable: true, as: 'background of' }) background!: BoxContent | null;
  @ListOf(() => Layer, MOST_LAYERS, 'layers from back to front') layers!: Layer[];
}

export const SURFACE_CHANGES = ['cut', 'dissolve', 'dip', 'glide'] as const;

export class SurfaceChange {
  @OneOf(SURFACE_CHANGES, 'how one look becomes the other') kind!: (typeof SURFACE_CHANGES)[number];
  @Whole(1, 1500, 'length, frames') frames!: number;
  @Colour('colour that a dip goes through') colour!: string;
}

/** A place on a canvas by name, for layers. */
export class NamedPlace {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => RectField, 'place on the canvas') rect!: Rect;
}

/** A canvas that outputs look into. */
export class Surface {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Whole(16, LARGEST_CANVAS, 'width of the canvas, pixels') width!: number;
  @Whole(16, LARGEST_CANVAS, 'height of the canvas, pixels') height!: number;
  @Num(0.05, 1000, 'what a pixel of the canvas measures, millimetres') pitch!: number;
  @ListOf(() => Screen, MOST_SCREENS, 'screens in order of the list') screens!: Screen[];
  @Nested(() => Blend, 'how overlapping screens are blended') blend!: Blend;
  @Ref('source', 'still made for the venue that lies under the layers while they are placed; null for none', {
    nullable: true,
    seen: false,
    as: 'the template of',
  })
  templateId!: string | null;
  @Nested(() => Look, 'what is in Next') look!: Look;
  @Nested(() => SurfaceChange, 'how Next comes on air') change!: SurfaceChange;
  @Flag('it is taken together with the programme') withTake!: boolean;
  @ListOf(() => NamedPlace, MOST_PLACES, 'named places') places!: NamedPlace[];
}

export class PresetLook {
  @Ref('surface', 'surface') surfaceId!: string;
  @Nested(() => Look, 'its look') look!: Look;
}

/** A stored look of one surface, or of several at once. */
export class SurfacePreset {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number by which it is found; null for none', { nullable: true }) number!: number | null;
  @ListOf(() => PresetLook, MOST_SURFACES, 'looks of the surfaces that it sets') looks!: PresetLook[];
}
