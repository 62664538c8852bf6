/** Lanes and transitions in the show document. */
import { Colour, Flag, Id, Nested, Num, OneOf, Text, Variant, Whole, Ref, RefBy, ListOf } from '../schema/fields';
import { type Rect, RectField } from '../show/geometry';
import { EASINGS, type Easing, EDGES, type Edge } from '../show/moves';
import { type Key, keyClass } from '../layout/look';

export const MOST_LANES = 24;

/** What a lane holds ready: a picture of any kind, by identity; a graphic by itself has its fields' defaults, an entry its values. */
export class LaneContent {
  @OneOf(['picture'], 'a picture of any kind') kind!: 'picture';
  @RefBy('kind', ['picture'], 'the picture', { as: 'held ready in' }) id!: string;
}

export const MOVE_KINDS = ['fade', 'slide', 'wipe'] as const;

/** How a lane comes or goes. */
export class Move {
  @OneOf(MOVE_KINDS, 'fade, slide over an edge of the picture, or wipe from an edge') kind!: (typeof MOVE_KINDS)[number];
  @OneOf(EDGES, 'edge that a slide or wipe comes from or goes to') edge!: Edge;
  @OneOf(EASINGS, 'pace') easing!: Easing;
  @Whole(0, 600, 'length, frames; 0 cuts') frames!: number;
}

/** A place over the programme picture for one thing at a time. */
export class Lane {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Whole(1, MOST_LANES, 'number, by which keys find it wherever it lies; null for none', { nullable: true }) number!: number | null;
  @Nested(() => LaneContent, 'what it holds ready', { nullable: true }) content!: LaneContent | null;
  @Nested(() => Move, 'how it comes') in!: Move;
  @Nested(() => Move, 'how it goes') out!: Move;
  @Num(0.2, 86400, 'leaves by itself after so many seconds; null stays', { nullable: true }) holdSeconds!: number | null;
  @Nested(() => RectField, 'place on the raster; null for the content’s own', { nullable: true }) rect!: Rect | null;
  @Variant(keyClass, 'key', { nullable: true }) key!: Key | null;
  @Ref('picture', 'up while this picture is on air; null for none', { nullable: true, as: 'what brings' }) whileId!: string | null;
  @Flag('stays over a fade to black') throughBlack!: boolean;
  @Flag('an entry that is up follows edits at once; otherwise it waits until it is changed') follows!: boolean;
}

export const TRANSITION_KINDS = ['cut', 'dissolve', 'dip', 'wipe', 'push', 'slide', 'zoom', 'luma', 'stinger', 'glide'] as const;

export type TransitionKind = (typeof TRANSITION_KINDS)[number];

/** Where the new picture travels to. */
export const DIRECTIONS = ['right', 'left', 'down', 'up'] as const;

export type Direction = (typeof DIRECTIONS)[number];

export const WIPE_SHAPES = ['linear', 'radial', 'iris', 'clock'] as const;

export type WipeShape = (typeof WIPE_SHAPES)[number];

export const LIGHTS = ['gamma', 'linear'] as const;

export class Transition {
  @OneOf(TRANSITION_KINDS, 'how one picture becomes the other') kind!: TransitionKind;
  @Whole(1, 1500, 'length, frames; a stinger clip has its own') frames!: number;
  @OneOf(EASINGS, 'pace') easing!: Easing;
  @OneOf(LIGHTS, 'dissolve in signal values or in linear light') light!: (typeof LIGHTS)[number];
  @Colour('colour that a dip goes through') dipColour!: string;
  @OneOf(WIPE_SHAPES, 'shape of a wipe') shape!: WipeShape;
  @Num(-360, 360, 'direction of a wipe, degrees clockwise from rightwards; where a clock or radial wipe begins') angle!: number;
  @Num(0, 1, 'width of the soft edge of a wipe, share of the travel') softness!: number;
  @OneOf(DIRECTIONS, 'where push and slide travel to') direction!: Direction;
  @Ref('source', 'still whose brightness orders a luma wipe, dark first', { nullable: true }) imageId!: string | null;
  @Ref('overlay', 'clip, still or graphic that is the stinger', { nullable: true }) stingerId!: string | null;
  @Whole(0, 1500, 'frame of the stinger at which the picture changes') cutFrame!: number;
}

/** A transition with a name; the first of the list are at hand: how many, each person chooses. */
export class StoredTransition {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Nested(() => Transition, 'its settings') settings!: Transition;
}

/** A transition that is used whatever is armed: for one picture, or for one pair. */
export class Override {
  @Id('identity') id!: string;
  @Ref('picture', 'picture that leaves; null for any', { nullable: true, whole: true }) fromId!: string | null;
  @Ref('picture', 'picture that comes') toId!: string;
  @Nested(() => Transition, 'its settings') settings!: Transition;
}

/** What a tableau does to one lane; lanes that it does not name it leaves alone. */
export class TableauLane {
  @Ref('lane', 'lane') laneId!: string;
  @Ref('picture', 'what is up in it; null for nothing', { nullable: true, as: 'a lane of' }) contentId!: string | null;
}

/** A stored whole: picture, lanes with what is up in them, transition. Shown, only what differs from what is on air moves. */
export class Tableau {
  @Id('identity') id!: string;
  @Text(60, 'name', { min: 1 }) name!: string;
  @Whole(1, 99, 'number by which it is found; null for none', { nullable: true }) number!: number | null;
  @Ref('picture', 'picture on air; null leaves it alone', { nullable: true }) pictureId!: string | null;
  @ListOf(() => TableauLane, MOST_LANES, 'lanes that it sets') lanes!: TableauLane[];
  @Nested(() => Transition, 'the transition it wants; null for the armed one', { nullable: true }) transition!: Transition | null;
}
