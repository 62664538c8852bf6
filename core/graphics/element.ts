/**
 * The elements that a graphic is drawn of. Places and lengths are pixels of the graphic's own raster, origin at the top left, y downwards;
 * angles are degrees clockwise. Identities of elements count within their graphic only: a duplicate keeps them, so that what is the same in
 * both is known to be the same.
 */
import { byKind, Colour, Flag, Id, ListOf, Nested, Num, OneOf, Ref, Text, TextList, Variant, Whole } from '../schema/fields';
import { EASINGS, type Easing, type Edge, EDGES } from '../show/moves';
import { AnimationContent } from './animation/document';
import { ElementCrop, Finish, IMAGE_FITS, type ImageFit } from './fill';

export const MOST_ELEMENTS = 400;
export const MOST_TEXT = 10_000;
export const MOST_TICKER_ITEMS = 1000;
export const MOST_TABLE_ROWS = 60;
export const MOST_TABLE_COLUMNS = 12;

export const CAPITALS = ['none', 'upper', 'small'] as const;
export const ACROSS = ['left', 'centre', 'right'] as const;
export const DOWN = ['top', 'middle', 'bottom'] as const;
export const OVERFLOWS = ['shrink', 'squeeze', 'ellipsis', 'spill', 'grow'] as const;

export class TextStyle {
  @Text(80, 'family of the font') family!: string;
  @Whole(100, 900, 'weight: 400 regular, 700 bold') weight!: number;
  @Flag('italic') italic!: boolean;
  @Num(1, 2000, 'size, pixels') size!: number;
  @Num(0.5, 4, 'distance of lines, times the size') lineHeight!: number;
  @Num(-200, 400, 'added between letters, pixels') letterSpacing!: number;
  @OneOf(CAPITALS, 'capitals') capitals!: (typeof CAPITALS)[number];
  @OneOf(ACROSS, 'alignment across') across!: (typeof ACROSS)[number];
  @OneOf(DOWN, 'alignment downwards') down!: (typeof DOWN)[number];
  @Flag('goes on in the next line where it is too wide') wrap!: boolean;
  @OneOf(OVERFLOWS, 'when it does not fit: smaller, narrower, cut with an ellipsis, out of its box, or the box grows')
  overflow!: (typeof OVERFLOWS)[number];
  @Num(0, 200, 'depth behind the letters, pixels') depth!: number;
  @Num(-360, 360, 'where the light of the depth comes from, degrees') light!: number;
}

/** Signs that set part of a text in another style, where the text has an accent for them. */
export const ACCENT_SIGNS = ['*', '_', '~', '^'] as const;
export type AccentSign = (typeof ACCENT_SIGNS)[number];

/** Another style inside a text: for what stands between two of its signs. */
export class Accent {
  @OneOf(ACCENT_SIGNS, 'sign that stands before and behind what is set so') sign!: AccentSign;
  @Text(80, 'family of the font; null for that of the text', { nullable: true }) family!: string | null;
  @Whole(100, 900, 'weight; null for that of the text', { nullable: true }) weight!: number | null;
  @Flag('italic') italic!: boolean;
  @Num(0.2, 4, 'size, times that of the text') size!: number;
  @Colour('colour; null for the fill of the text', { nullable: true }) colour!: string | null;
}

export const CLOCK_FORMATS = ['m:ss', 'm:ss.t', 'h:mm:ss', 'frames', 'hh:mm'] as const;
export type ClockFormat = (typeof CLOCK_FORMATS)[number];

export class GroupContent {
  @OneOf(['group'], 'several elements together') kind!: 'group';
  @OneOf(['none', 'row', 'column'], 'closes the gap of hidden elements: sideways, downwards, or not') flow!: 'none' | 'row' | 'column';
  @OneOf(['start', 'middle', 'end'], 'where what is left stands') align!: 'start' | 'middle' | 'end';
}
export class TextContent {
  @OneOf(['text'], 'text') kind!: 'text';
  @Text(MOST_TEXT, 'the words; lines are parted by a line feed') text!: string;
  @Nested(() => TextStyle, 'how it is set') style!: TextStyle;
  @ListOf(() => Accent, ACCENT_SIGNS.length, 'other styles inside it, one for a sign') accents!: Accent[];
}
export class RectangleContent {
  @OneOf(['rectangle'], 'rectangle') kind!: 'rectangle';
}
export class EllipseContent {
  @OneOf(['ellipse'], 'ellipse') kind!: 'ellipse';
}
export class PolygonContent {
  @OneOf(['polygon'], 'polygon, its first corner up') kind!: 'polygon';
  @Whole(3, 12, 'sides') sides!: number;
}
export class LineContent {
  @OneOf(['line'], 'line from corner to corner, or level where the box is flat') kind!: 'line';
}
export class ImageContent {
  @OneOf(['image'], 'image file') kind!: 'image';
  @Ref('asset', 'asset that holds the bytes', { nullable: true }) assetId!: string | null;
  @Text(256, 'name of the file as it came') fileName!: string;
  @OneOf(IMAGE_FITS, 'how it meets the box') fit!: ImageFit;
}
export class ClockContent {
  @OneOf(['clock'], 'time of a clock') kind!: 'clock';
  @Ref('clock', 'the clock; null shows nothing', { nullable: true }) clockId!: string | null;
  @OneOf(CLOCK_FORMATS, 'how time is written') format!: ClockFormat;
  @Nested(() => TextStyle, 'how it is set') style!: TextStyle;
  @Num(0, 3600, 'the last seconds wear another colour; 0 for none') lastSeconds!: number;
  @Colour('colour of the last seconds') lastColour!: string;
}
export class WindowContent {
  @OneOf(['window'], 'live picture') kind!: 'window';
  @Ref('picture', 'picture that is shown', { nullable: true, as: 'window of' }) pictureId!: string | null;
  @OneOf(['contain', 'cover'], 'how it meets the box') fit!: 'contain' | 'cover';
}
/** Items that pass in a line. */
export class TickerContent {
  @OneOf(['ticker'], 'items that pass in a line') kind!: 'ticker';
  @TextList(MOST_TICKER_ITEMS, 1000, 'the items, in order; those of its sheet while it has one') items!: string[];
  @Ref('sheet', 'sheet that the items come from', { nullable: true, as: 'ticker of' }) sheetId!: string | null;
  @Text(80, 'column of the sheet') column!: string;
  @Text(20, 'what stands between two items') separator!: string;
  @Ref('asset', 'image that stands between two items in its place', { nullable: true }) separatorId!: string | null;
  @Num(1, 4000, 'pixels of the graphic’s raster a second') speed!: number;
  @OneOf(['left', 'right'], 'where the items go') direction!: 'left' | 'right';
  @Flag('begins anew after the last item; otherwise it ends') loops!: boolean;
  @Num(0, 2000, 'room on each side of what stands between two items, pixels') gap!: number;
  @Nested(() => TextStyle, 'how the items are set') style!: TextStyle;
}
/** A column of a table. */
export class TableColumn {
  @Text(80, 'column of the sheet') column!: string;
  @Num(0.1, 50, 'share of the width') share!: number;
  @OneOf(ACROSS, 'alignment across') across!: (typeof ACROSS)[number];
}
/** A row as a table shows it. */
export class TableRow {
  @Text(200, 'what tells it from other rows') key!: string;
  @TextList(MOST_TABLE_COLUMNS, 1000, 'words of its cells') cells!: string[];
}
/** Rows of a sheet under one another. */
export class TableContent {
  @OneOf(['table'], 'rows of a sheet') kind!: 'table';
  @Ref('sheet', 'the sheet', { nullable: true, as: 'table of' }) sheetId!: string | null;
  @ListOf(() => TableColumn, MOST_TABLE_COLUMNS, 'its columns from left to right') columns!: TableColumn[];
  @Text(80, 'column that the rows are sorted by; null for the order of the sheet', { nullable: true }) sortBy!: string | null;
  @Flag('the largest first') down!: boolean;
  @Whole(1, MOST_TABLE_ROWS, 'rows at most') count!: number;
  @Flag('rows are numbered; equal ones of the sorted column alike') numbered!: boolean;
  @Num(1, 2000, 'height of a row, pixels') rowHeight!: number;
  @Num(0, 500, 'between two rows, pixels') gap!: number;
  @Colour('plate behind each row; null for none', { nullable: true }) plate!: string | null;
  @Num(0, 1, 'opacity of the plates') plateOpacity!: number;
  @Nested(() => TextStyle, 'how the cells are set') style!: TextStyle;
  @ListOf(() => TableRow, MOST_TABLE_ROWS, 'rows as they are shown: kept up with the sheet') rows!: TableRow[];
}

export type Content =
  | AnimationContent
  | GroupContent
  | TextContent
  | RectangleContent
  | EllipseContent
  | PolygonContent
  | LineContent
  | ImageContent
  | ClockContent
  | WindowContent
  | TickerContent
  | TableContent;
export type ElementKind = Content['kind'];
export const contentClass = byKind<ElementKind>({
  group: GroupContent,
  text: TextContent,
  rectangle: RectangleContent,
  ellipse: EllipseContent,
  polygon: PolygonContent,
  line: LineContent,
  image: ImageContent,
  clock: ClockContent,
  window: WindowContent,
  animation: AnimationContent,
  ticker: TickerContent,
  table: TableContent,
});

export const MOVE_WAYS = ['fade', 'slide', 'wipe', 'scale', 'blur', 'turn', 'letters', 'words', 'count'] as const;
export type MoveWay = (typeof MOVE_WAYS)[number];

/** Ways of a graphic as a whole: those that the mixer does with what is drawn already. */
export const WHOLE_WAYS = ['fade', 'slide', 'wipe', 'scale', 'turn'] as const satisfies readonly MoveWay[];

/** How an element comes, goes or changes. Frames count from the beginning of the phase. */
export class ElementMove {
  @OneOf(MOVE_WAYS, 'how') way!: MoveWay;
  @OneOf(EDGES, 'edge that a slide or wipe comes from') edge!: Edge;
  @OneOf(EASINGS, 'pace') easing!: Easing;
  @Whole(0, 3000, 'begins after so many frames') start!: number;
  @Whole(0, 3000, 'length, frames') frames!: number;
}

/** How a graphic comes or goes as a whole. */
export class WholeMove extends ElementMove {
  @OneOf(WHOLE_WAYS, 'how') override way!: (typeof WHOLE_WAYS)[number];
}

/** What an element does again and again while its graphic stands: it goes part of the way out, and comes back. */
export class HoldMove extends WholeMove {
  @Num(0, 1, 'how far it goes: 1 is all the way') depth!: number;
  @Whole(0, 9000, 'frames that it rests before the next time') rest!: number;
  @Whole(0, 1000, 'how often; 0 for as long as it stands') times!: number;
}

export const KEYED = ['x', 'y', 'width', 'height', 'opacity', 'rotation'] as const;
export type Keyed = (typeof KEYED)[number];

/** A value of a property at a frame of a phase; between two of them it runs from one to the other. */
export class Keyframe {
  @OneOf(['in', 'hold', 'out'], 'phase') phase!: 'in' | 'hold' | 'out';
  @OneOf(KEYED, 'property') property!: Keyed;
  @Whole(0, 9000, 'frame of the phase') frame!: number;
  @Num(-20000, 20000, 'value, in the property’s unit') value!: number;
  @OneOf(EASINGS, 'pace on the way to it') easing!: Easing;
}

export class Corners {
  @Num(0, 4000, 'top left, pixels') topLeft!: number;
  @Num(0, 4000, 'top right, pixels') topRight!: number;
  @Num(0, 4000, 'bottom right, pixels') bottomRight!: number;
  @Num(0, 4000, 'bottom left, pixels') bottomLeft!: number;
}

/** Another element whose shape masks this one. */
export class ElementMask {
  @Id('element of the same graphic') elementId!: string;
  @Flag('shown inside of it; otherwise outside') inside!: boolean;
}

export class Element extends Finish {
  @Id('identity in its graphic') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Id('group it belongs to; null for none', { nullable: true }) parentId!: string | null;
  @Flag('shown') visible!: boolean;
  @Flag('protected from edits') locked!: boolean;
  @Num(-20000, 20000, 'left edge, pixels') x!: number;
  @Num(-20000, 20000, 'top edge, pixels') y!: number;
  @Num(0, 20000, 'width, pixels') width!: number;
  @Num(0, 20000, 'height, pixels') height!: number;
  @Num(-3600, 3600, 'rotation, degrees clockwise') rotation!: number;
  @Num(-360, 360, 'turn about the upright axis, degrees') turnY!: number;
  @Num(-360, 360, 'turn about the level axis, degrees') turnX!: number;
  @Num(-80, 80, 'skew sideways, degrees') skewX!: number;
  @Num(-80, 80, 'skew downwards, degrees') skewY!: number;
  @Flag('flipped left to right') flipX!: boolean;
  @Flag('flipped top to bottom') flipY!: boolean;
  @Nested(() => Corners, 'radius of the corners') corners!: Corners;
  @Num(0, 1, 'opacity') opacity!: number;
  @Nested(() => ElementCrop, 'what is cut away', { nullable: true }) crop!: ElementCrop | null;
  @Nested(() => ElementMask, 'mask', { nullable: true }) mask!: ElementMask | null;
  @Flag('hides while a field of its own is empty') hideWhenEmpty!: boolean;
  @Nested(() => ElementMove, 'how it comes', { nullable: true }) in!: ElementMove | null;
  @Nested(() => ElementMove, 'how it goes', { nullable: true }) out!: ElementMove | null;
  @Nested(() => ElementMove, 'how it changes when a value changes on air', { nullable: true }) change!: ElementMove | null;
  @Nested(() => HoldMove, 'what it does while it stands', { nullable: true }) hold!: HoldMove | null;
  @ListOf(() => Keyframe, 200, 'keyframes') keyframes!: Keyframe[];
  @Variant(contentClass, 'what it is; fields depend on `kind`') content!: Content;
}
