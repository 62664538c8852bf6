/** Arguments of the commands for elements: every property may be given, and only what is given changes. */
import { EASINGS, EDGES } from '../show/moves';
import { Flag, Id, Ids, ListOf, Nested, Num, OneOf, Ref, Text, Variant, Whole } from '../schema/fields';
import {
  ACROSS,
  CAPITALS,
  Corners,
  DOWN,
  ElementMask,
  ElementMove,
  HoldMove,
  Keyframe,
  MOST_ELEMENTS,
  OVERFLOWS,
  type TextStyle,
} from './element';
import { DropShadow, ElementCrop, type Fill, fillClass, Glow, Reflection, Stroke } from './fill';

/** A place in the graphic’s raster, pixels; flat ones too, as a level line is. */
export class AreaField {
  @Num(-20000, 20000, 'left edge') x!: number;
  @Num(-20000, 20000, 'top edge') y!: number;
  @Num(0, 20000, 'width') width!: number;
  @Num(0, 20000, 'height') height!: number;
}

export class GraphicArg {
  @Ref('graphic', 'graphic') graphic!: string;
}
export class ElementsArg extends GraphicArg {
  @Ids(MOST_ELEMENTS, 'elements of the graphic') elements!: string[];
}

const may = { optional: true };
const mayBeNone = { optional: true, nullable: true };

/** Every property of an element but its content, its place in the tree and its identity. */
export class ElementChange {
  @Text(60, 'name', { min: 1, ...may }) name?: string;
  @Flag('shown', may) visible?: boolean;
  @Flag('protected from edits', may) locked?: boolean;
  @Num(-20000, 20000, 'left edge, pixels', may) x?: number;
  @Num(-20000, 20000, 'top edge, pixels', may) y?: number;
  @Num(0, 20000, 'width, pixels', may) width?: number;
  @Num(0, 20000, 'height, pixels', may) height?: number;
  @Num(-3600, 3600, 'rotation, degrees clockwise', may) rotation?: number;
  @Num(-360, 360, 'turn about the upright axis, degrees', may) turnY?: number;
  @Num(-360, 360, 'turn about the level axis, degrees', may) turnX?: number;
  @Num(-80, 80, 'skew sideways, degrees', may) skewX?: number;
  @Num(-80, 80, 'skew downwards, degrees', may) skewY?: number;
  @Flag('flipped left to right', may) flipX?: boolean;
  @Flag('flipped top to bottom', may) flipY?: boolean;
  @Nested(() => Corners, 'radius of the corners', may) corners?: Corners;
  @Num(0, 1, 'opacity', may) opacity?: number;
  @Variant(fillClass, 'what fills it', may) fill?: Fill;
  @Nested(() => Stroke, 'outline', may) stroke?: Stroke;
  @Nested(() => DropShadow, 'shadow', mayBeNone) shadow?: DropShadow | null;
  @Nested(() => Glow, 'glow', mayBeNone) glow?: Glow | null;
  @Nested(() => Reflection, 'reflection', mayBeNone) reflection?: Reflection | null;
  @Nested(() => ElementCrop, 'what is cut away', mayBeNone) crop?: ElementCrop | null;
  @Nested(() => ElementMask, 'mask', mayBeNone) mask?: ElementMask | null;
  @Flag('hides while a field of its own is empty', may) hideWhenEmpty?: boolean;
  @Nested(() => ElementMove, 'how it comes', mayBeNone) in?: ElementMove | null;
  @Nested(() => ElementMove, 'how it goes', mayBeNone) out?: ElementMove | null;
  @Nested(() => ElementMove, 'how it changes', mayBeNone) change?: ElementMove | null;
  @Nested(() => HoldMove, 'what it does while it stands', mayBeNone) hold?: HoldMove | null;
}

/** Every property of the type of a text or clock. */
export class TypeChange {
  @Text(80, 'family of the font', may) family?: string;
  @Whole(100, 900, 'weight', may) weight?: number;
  @Flag('italic', may) italic?: boolean;
  @Num(1, 2000, 'size, pixels', may) size?: number;
  @Num(0.5, 4, 'distance of lines, times the size', may) lineHeight?: number;
  @Num(-200, 400, 'added between letters, pixels', may) letterSpacing?: number;
  @OneOf(CAPITALS, 'capitals', may) capitals?: TextStyle['capitals'];
  @OneOf(ACROSS, 'alignment across', may) across?: TextStyle['across'];
  @OneOf(DOWN, 'alignment downwards', may) down?: TextStyle['down'];
  @Flag('goes on in the next line', may) wrap?: boolean;
  @OneOf(OVERFLOWS, 'when it does not fit', may) overflow?: TextStyle['overflow'];
  @Num(0, 200, 'depth, pixels', may) depth?: number;
  @Num(-360, 360, 'where the light comes from, degrees', may) light?: number;
}

export class SetArgs extends ElementChange {
  @Ref('graphic', 'graphic') graphic!: string;
  @Ids(MOST_ELEMENTS, 'elements of the graphic') elements!: string[];
}
export class TypeArgs extends TypeChange {
  @Ref('graphic', 'graphic') graphic!: string;
  @Ids(MOST_ELEMENTS, 'elements of the graphic') elements!: string[];
}
export class KeyframesArgs extends GraphicArg {
  @Id('element') element!: string;
  @ListOf(() => Keyframe, 200, 'all keyframes of the element') keyframes!: Keyframe[];
}
export class MoveArgs extends ElementsArg {
  @OneOf(['in', 'out', 'change'], 'phase') phase!: 'in' | 'out' | 'change';
  @OneOf(['fade', 'slide', 'wipe', 'scale', 'blur', 'turn', 'letters', 'words', 'count'], 'how', may) way?: ElementMove['way'];
  @OneOf(EDGES, 'edge', may) edge?: ElementMove['edge'];
  @OneOf(EASINGS, 'pace', may) easing?: ElementMove['easing'];
  @Whole(0, 3000, 'begins after so many frames', may) start?: number;
  @Whole(0, 3000, 'length, frames', may) frames?: number;
}
