/** Seats, framings, layouts of boxes, and styles: what a picture is built from. */
import { Colour, Flag, Id, ListOf, Nested, Num, OneOf, SomeOf, Text, Variant, Whole, Ref, RefBy, Refs } from '../schema/fields';
import { PlaceField, type Rect, RectField } from '../show/geometry';
import { Crop, Grade, type Key, keyClass, MOST_ZOOM, NO_CROP } from './look';

/** A role that stands in layouts; who fills it can change at any time. */
export class Seat {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Colour('colour of its placeholder card') colour!: string;
  @Ref('occupant', 'source or framing that fills it; null while it is empty', { nullable: true }) occupantId!: string | null;
}

/** Where a person's eyes are: shares of the whole picture of the source, also for a framing of it. */
export class EyePoint extends PlaceField {
  @Ref('occupant', 'source or framing', { counts: false }) pictureId!: string;
}

/** One way of using a source. */
export class Framing {
  @Id('identity') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Ref('source', 'source') sourceId!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @Nested(() => Crop, 'cut away on four sides') crop!: Crop;
  @Num(1, MOST_ZOOM, 'zoom') zoom!: number;
  @Num(-1, 1, 'part shown when zoomed, −1 left to 1 right') panX!: number;
  @Num(-1, 1, 'part shown when zoomed, −1 top to 1 bottom') panY!: number;
  @Num(0.1, 10, 'true proportions of the source, width by height; null for as it comes', { nullable: true }) aspect!: number | null;
  @Flag('mirrored left to right') mirror!: boolean;
  @Nested(() => Grade, 'colour correction', { nullable: true }) grade!: Grade | null;
  @Variant(keyClass, 'key', { nullable: true }) key!: Key | null;
}

export const BOX_CONTENTS = ['seat', 'source', 'framing', 'layout', 'gathering', 'graphic', 'entry', 'colour'] as const;

/** What a box shows. */
export class BoxContent {
  @OneOf(BOX_CONTENTS, 'what it is') kind!: (typeof BOX_CONTENTS)[number];
  @RefBy(
    'kind',
    ['seat', 'source', 'framing', 'layout', 'gathering', 'graphic', 'entry'],
    'seat, source, framing, layout, gathered view, graphic or entry',
    { optional: true },
  )
  id?: string;
  @Colour('an even colour', { optional: true }) colour?: string;
}

export const FITS = ['cover', 'contain', 'fill', 'eye'] as const;
/** How a picture meets a box: filled without distortion, whole, pulled to fit, or filled with the eyes in place. */
export type Fit = (typeof FITS)[number];

export class Border {
  @Num(0, 400, 'width, pixels; drawn inside the box') width!: number;
  @Colour('colour') colour!: string;
}

export class Shadow {
  @Num(-400, 400, 'to the right, pixels') x!: number;
  @Num(-400, 400, 'downwards, pixels') y!: number;
  @Num(0, 400, 'softness, pixels') blur!: number;
  @Num(0, 1, 'opacity') opacity!: number;
}

/** The properties of a box that a style can hold. */
export const STYLE_PROPERTIES = [
  'position',
  'size',
  'crop',
  'view',
  'fit',
  'rotation',
  'radius',
  'border',
  'shadow',
  'opacity',
  'key',
] as const;
export type StyleProperty = (typeof STYLE_PROPERTIES)[number];

/** Geometry and look of a box: what styles, copy and paste, and glide work on. */
export class BoxLook {
  @Nested(() => RectField, 'place on the raster') rect!: Rect;
  @Nested(() => Crop, 'cut away from the picture') crop!: Crop;
  @OneOf(FITS, 'how the picture meets the box') fit!: Fit;
  @Num(1, MOST_ZOOM, 'zoom inside the box') zoom!: number;
  @Num(-1, 1, 'part shown, −1 left to 1 right') panX!: number;
  @Num(-1, 1, 'part shown, −1 top to 1 bottom') panY!: number;
  @Num(-360, 360, 'rotation, degrees clockwise') rotation!: number;
  @Num(0, 4000, 'corner radius, pixels') radius!: number;
  @Nested(() => Border, 'border') border!: Border;
  @Nested(() => Shadow, 'shadow') shadow!: Shadow;
  @Num(0, 1, 'opacity') opacity!: number;
  @Variant(keyClass, 'key', { nullable: true }) key!: Key | null;
}

export class Box extends BoxLook {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Nested(() => BoxContent, 'what it shows; null for nothing', { nullable: true }) content!: BoxContent | null;
  @Flag('shown') visible!: boolean;
  @Flag('protected from edits in the editor') locked!: boolean;
  @Ref('style', 'style it follows; null for none', { nullable: true }) styleId!: string | null;
  @SomeOf(STYLE_PROPERTIES, 'properties set by hand, that do not follow a style') own!: StyleProperty[];
}

export const MOST_BOXES = 64;

export class Layout {
  @Id('identity') id!: string;
  @Text(80, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number on keys; null for none', { nullable: true }) number!: number | null;
  @Nested(() => BoxContent, 'behind the boxes; null for black', { nullable: true, as: 'background of' }) background!: BoxContent | null;
  @ListOf(() => Box, MOST_BOXES, 'boxes from back to front') boxes!: Box[];
  @Ref('overlay', 'source or graphic over the boxes as frame artwork; null for none', { nullable: true, as: 'frame of' }) frameId!:
    string | null;
}

/** A stored state of a layout, switched like a layout of its own. */
export class Preset extends Layout {
  @Ref('layout', 'layout it was stored from; null when that is gone', { nullable: true, seen: false, counts: false }) layoutId!:
    string | null;
}

/** Framings that one style can be tied to. */
export const MOST_TIES = 100;

/** A stored subset of a box's properties. */
export class Style {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @SomeOf(STYLE_PROPERTIES, 'which properties it holds') properties!: StyleProperty[];
  @Nested(() => BoxLook, 'their values; the others are not used') look!: BoxLook;
  @Refs('framing', MOST_TIES, 'framings it is tied to: boxes that show one of them follow', { seen: false }) framingIds!: string[];
}

export const plainLook = (rect: Rect): BoxLook => ({
  rect: { ...rect },
  crop: { ...NO_CROP },
  fit: 'cover',
  zoom: 1,
  panX: 0,
  panY: 0,
  rotation: 0,
  radius: 0,
  border: { width: 0, colour: '#e8efe9' },
  shadow: { x: 0, y: 0, blur: 0, opacity: 0 },
  opacity: 1,
  key: null,
});

export const createBox = (id: string, name: string, rect: Rect, content: BoxContent | null): Box => ({
  ...plainLook(rect),
  id,
  name,
  content,
  visible: true,
  locked: false,
  styleId: null,
  own: [],
});

export const createLayout = (id: string, name: string, boxes: Box[] = []): Layout => ({
  id,
  name,
  number: null,
  background: null,
  boxes,
  frameId: null,
});

export const createFraming = (id: string, name: string, sourceId: string): Framing => ({
  id,
  name,
  sourceId,
  number: null,
  crop: { ...NO_CROP },
  zoom: 1,
  panX: 0,
  panY: 0,
  aspect: null,
  mirror: false,
  grade: null,
  key: null,
});

/** Names of what a `Box` may be asked to change, for commands. */
export type BoxChange = Partial<Omit<Box, 'id'>>;
