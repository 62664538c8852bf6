/** What the two decks do now. All positions are show frames of the timeline, and may be fractions. */

export const DECKS = [1, 2] as const;
export type DeckNumber = (typeof DECKS)[number];

/**
 * How a deck moves over the timeline. At show frame `start` it stood at `position`, and moves `rate` timeline frames with
 * every show frame. `live` is the present itself.
 */
export type Motion = { kind: 'live' } | { kind: 'still' | 'play' | 'shuttle'; position: number; start: number; rate: number };

/** One piece of a play-out: a clip in one of its angles, as it was when the play-out began. */
export interface RollItem {
  clipId: string;
  name: string;
  angleId: string;
  /** First frame. */
  in: number;
  /** Frame after the last. */
  out: number;
  /** Per cent. */
  speed: number;
}

/** A play-out: items one after another. The deck's motion says where in item `index` it stands. */
export interface Roll {
  items: RollItem[];
  /** Item that `motion` speaks of. */
  index: number;
  /** Frames of the dissolve between items; 0 cuts. */
  joinFrames: number;
  after: 'hold' | 'loop';
  /** Frames that it plays on past its end, under the transition that takes it off air. */
  runOn: number;
}

export interface DeckState {
  /** Angle it shows outside of a play-out. */
  angleId: string | null;
  /** Per cent; what play goes on with. */
  speed: number;
  motion: Motion;
  roll: Roll | null;
}

/** Music under a play-out. */
export interface Music {
  sourceId: string;
  deck: DeckNumber;
  fadeFrames: number;
}

/** What goes back on air when the play-out has ended. */
export interface TakeBack {
  deck: DeckNumber;
  deckId: string;
  returnId: string;
}

export interface LookBack {
  deck: DeckNumber;
  angleId: string;
  /** Frame it starts from, every time again. */
  from: number;
  /** On air before. */
  returnId: string;
}

export interface ReplayAir {
  recording: { id: string; startFrame: number } | null;
  /** What the disk holds: the oldest frame, and the frame after the newest; `to` is null while it grows. Reported by the engine. */
  kept: { from: number; to: number | null } | null;
  decks: Record<DeckNumber, DeckState>;
  /** Both decks move together. */
  gang: boolean;
  markIn: number | null;
  markOut: number | null;
  music: Music | null;
  takeBack: TakeBack | null;
  lookBack: LookBack | null;
}

export const createDeck = (): DeckState => ({ angleId: null, speed: 100, motion: { kind: 'live' }, roll: null });

export const createReplayAir = (): ReplayAir => ({
  recording: null,
  kept: null,
  decks: { 1: createDeck(), 2: createDeck() },
  gang: false,
  markIn: null,
  markOut: null,
  music: null,
  takeBack: null,
  lookBack: null,
});
