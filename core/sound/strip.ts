/** What a channel does to its sound, in the order in which the sound goes through it. */
import { Flag, ListOf, Nested, Num, OneOf, Whole, Ref } from '../schema/fields';
import { FADER_FLOOR_DB, FADER_TOP_DB } from './level';

export const PICKS = ['stereo', 'mono', 'left', 'right'] as const;
export type Pick = (typeof PICKS)[number];
export const BAND_KINDS = ['low-shelf', 'bell', 'high-shelf'] as const;
export type BandKind = (typeof BAND_KINDS)[number];
export const BAND_COUNT = 4;
export const MOST_DELAY_MS = 1000;

export class HighPass {
  @Flag('in use') on!: boolean;
  @Num(20, 400, 'corner frequency, Hz; 12 dB an octave below') hz!: number;
}

export class EqBand {
  @OneOf(BAND_KINDS, 'shape') kind!: BandKind;
  @Num(20, 20_000, 'centre of a bell, corner of a shelf, Hz') hz!: number;
  @Num(-18, 18, 'boost or cut, dB') gainDb!: number;
  @Num(0.2, 12, 'quality: centre frequency over bandwidth') q!: number;
}

export class Equaliser {
  @Flag('in use') on!: boolean;
  @ListOf(() => EqBand, BAND_COUNT, 'bands, lowest first') bands!: EqBand[];
}

/** Closes when nothing but noise comes. */
export class Gate {
  @Flag('in use') on!: boolean;
  @Num(-80, 0, 'opens above, dBFS; closes 3 dB lower') thresholdDb!: number;
  @Num(-80, 0, 'level while closed, dB') rangeDb!: number;
  @Num(0.1, 200, 'opening, ms') attackMs!: number;
  @Num(0, 2000, 'stays open after the sound, ms') holdMs!: number;
  @Num(5, 4000, 'closing, ms') releaseMs!: number;
}

/** Turns down what is louder than its threshold. */
export class Compressor {
  @Flag('in use') on!: boolean;
  @Num(-60, 0, 'works above, dBFS') thresholdDb!: number;
  @Num(1, 20, 'so many dB in for one dB out, above the threshold') ratio!: number;
  @Num(0.1, 200, 'time to turn down, ms') attackMs!: number;
  @Num(5, 4000, 'time to let go, ms') releaseMs!: number;
  @Num(0, 24, 'width of the soft bend, dB') kneeDb!: number;
  @Num(0, 24, 'gain after it, dB') makeUpDb!: number;
}

/** What a preset of a channel holds. */
export class Processing {
  @Num(-30, 40, 'gain at the entry, dB') gainDb!: number;
  @OneOf(PICKS, 'both sides, their sum, or one of them on both') pick!: Pick;
  @Nested(() => HighPass, 'high-pass') highPass!: HighPass;
  @Nested(() => Gate, 'gate') gate!: Gate;
  @Nested(() => Equaliser, 'equaliser') eq!: Equaliser;
  @Nested(() => Compressor, 'compressor') compressor!: Compressor;
}

/** A channel: processing, then delay, fader and place between left and right. */
export class ChannelStrip extends Processing {
  @Num(0, MOST_DELAY_MS, 'delay to match the picture, ms') delayMs!: number;
  @Num(-1, 1, 'from left (−1) to right (1): place of a mono sound, balance of a stereo one') pan!: number;
  @Num(FADER_FLOOR_DB, FADER_TOP_DB, 'fader, dB; the lowest is silence') faderDb!: number;
  @Flag('muted') muted!: boolean;
  @Flag('heard only while its picture is on air') follows!: boolean;
  @Whole(0, 500, 'fade when its picture comes, frames; null with the transition', { nullable: true }) inFrames!: number | null;
  @Whole(0, 500, 'fade when its picture goes, frames; null with the transition', { nullable: true }) outFrames!: number | null;
  @Ref('fader-group', 'fader group; null for none', { nullable: true }) groupId!: string | null;
  @Flag('recorded as a file of its own') iso!: boolean;
}

export const flatEqualiser = (): Equaliser => ({
  on: false,
  bands: [
    { kind: 'low-shelf', hz: 100, gainDb: 0, q: 0.7 },
    { kind: 'bell', hz: 400, gainDb: 0, q: 1 },
    { kind: 'bell', hz: 2500, gainDb: 0, q: 1 },
    { kind: 'high-shelf', hz: 8000, gainDb: 0, q: 0.7 },
  ],
});

export const plainProcessing = (): Processing => ({
  gainDb: 0,
  pick: 'stereo',
  highPass: { on: false, hz: 80 },
  gate: { on: false, thresholdDb: -45, rangeDb: -30, attackMs: 2, holdMs: 150, releaseMs: 200 },
  eq: flatEqualiser(),
  compressor: { on: false, thresholdDb: -20, ratio: 3, attackMs: 8, releaseMs: 160, kneeDb: 6, makeUpDb: 0 },
});

/** A channel that changes nothing; pass what should differ. */
export const plainStrip = (change: Partial<ChannelStrip> = {}): ChannelStrip => ({
  ...plainProcessing(),
  delayMs: 0,
  pan: 0,
  faderDb: 0,
  muted: false,
  follows: false,
  inFrames: null,
  outFrames: null,
  groupId: null,
  iso: false,
  ...change,
});
