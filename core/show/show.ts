/** The show: the document that is saved, exported and undone. */
import { Colour, Flag, Id, ListOf, Nested, Num, OneOf, Text, Whole } from '../schema/fields';
import { type Rate } from '../time/rate';
import { Source } from './source';

export const SHOW_VERSION = 1;
export const LANE_COUNT = 4;

export class Raster {
  @Whole(16, 7680, 'width in pixels, even') width!: number;
  @Whole(16, 4320, 'height in pixels, even') height!: number;
}

export class RateField implements Rate {
  @Whole(1, 240000, 'numerator') num!: number;
  @Whole(1, 1001, 'denominator') den!: number;
}

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

/** What a lane holds ready: a source, a name card, or nothing. */
export class LaneContent {
  @OneOf(['source', 'card'], 'what it is') kind!: 'source' | 'card';
  @Id('source or card') id!: string;
}

/** A place over the programme picture for one thing at a time. */
export class Lane {
  @Id('identity') id!: string;
  @Text(40, 'name', { min: 1 }) name!: string;
  @Nested(() => LaneContent, 'what it holds ready', { nullable: true }) content!: LaneContent | null;
  @Whole(0, 600, 'fade in and out, frames') fadeFrames!: number;
  @Num(0.2, 86400, 'leaves by itself after so many seconds; null stays', { nullable: true }) holdSeconds!: number | null;
}

export const TRANSITION_KINDS = ['dissolve', 'dip', 'wipe'] as const;
export type TransitionKind = (typeof TRANSITION_KINDS)[number];
/** Where the edge of a wipe travels to. */
export const WIPE_DIRECTIONS = ['right', 'left', 'down', 'up'] as const;
export type WipeDirection = (typeof WIPE_DIRECTIONS)[number];

export class Transition {
  @OneOf(TRANSITION_KINDS, 'how one picture becomes the other') kind!: TransitionKind;
  @Whole(1, 1500, 'length, frames') frames!: number;
  @Colour('colour that a dip goes through') dipColour!: string;
  @OneOf(WIPE_DIRECTIONS, 'where the edge of a wipe travels to') direction!: WipeDirection;
  @Num(0, 1, 'width of the soft edge of a wipe, share of the picture') softness!: number;
}

export class ProgrammeBus {
  @Num(-60, 12, 'programme fader, dB') faderDb!: number;
  @Num(-20, 0, 'limiter ceiling, dBFS') ceilingDb!: number;
}

export const CODECS = ['h264', 'vp9', 'av1'] as const;
export type Codec = (typeof CODECS)[number];

export class RecordingSettings {
  @OneOf(CODECS, 'picture codec: h264 makes MP4, the others WebM') codec!: Codec;
  @Num(0.2, 100, 'picture bitrate, megabits a second') megabits!: number;
}

export class StreamSettings {
  @Text(500, 'address the segments are put to, http or https') url!: string;
  @Text(200, 'key of the stream at that address') key!: string;
  @Num(0.2, 50, 'picture bitrate, megabits a second') megabits!: number;
}

export class Output {
  @Nested(() => RecordingSettings, 'recording') recording!: RecordingSettings;
  @Nested(() => StreamSettings, 'stream') stream!: StreamSettings;
}

export class Show {
  @OneOf(['bivoca-show'], 'says that this is a show') format!: 'bivoca-show';
  @Whole(1, SHOW_VERSION, 'version of this form') version!: number;
  @Id('identity') id!: string;
  @Text(120, 'name', { min: 1 }) name!: string;
  @Nested(() => Raster, 'picture size') raster!: Raster;
  @Nested(() => RateField, 'frames a second, as a fraction') rate!: Rate;
  @ListOf(() => Source, 500, 'sources in order of the list') sources!: Source[];
  @ListOf(() => SourceGroup, 50, 'groups of sources') groups!: SourceGroup[];
  @ListOf(() => NameCard, 500, 'name cards') cards!: NameCard[];
  @ListOf(() => Lane, LANE_COUNT, 'lanes from the lowest to the highest') lanes!: Lane[];
  @Nested(() => Transition, 'the armed transition') transition!: Transition;
  @Whole(1, 1500, 'fade to black, frames') blackFrames!: number;
  @Nested(() => ProgrammeBus, 'programme bus') programme!: ProgrammeBus;
  @Nested(() => Output, 'recording and stream') output!: Output;
}

/** The source with this identity. */
export const findSource = (show: Show, id: string | null): Source | undefined =>
  id === null ? undefined : show.sources.find((s) => s.id === id);

/** A source's name; says so when it is gone. */
export const sourceName = (show: Show, id: string | null): string =>
  id === null ? 'Nothing' : (findSource(show, id)?.name ?? 'Missing source');
