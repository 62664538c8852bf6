/** Where a deck stands at a frame, and which recorded pictures it shows there. Worked out from its motion, never counted along. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { type Rate } from '../time/rate';
import { type DeckState, type Motion, type ReplayAir, type Roll } from './air';
import { type Angle } from './document';
import { type RollPlace, rollPlace } from './roll';

/** Seconds from a frame's capture until a deck may be asked for it: encoding, writing and decoding fit in. */
const EDGE_SECONDS = 0.24;

/** Show frames between the present and the newest frame that a deck plays. */
export const edgeFrames = (rate: Rate): number => Math.ceil((EDGE_SECONDS * rate.num) / rate.den);

/** The newest timeline frame that can be played at show frame `frame`. */
export function newestFrame(replay: Pick<ReplayAir, 'kept' | 'recording'>, frame: number, rate: Rate): number {
  const edge = frame - edgeFrames(rate);
  return replay.recording !== null || replay.kept === null || replay.kept.to === null ? edge : Math.min(edge, replay.kept.to - 1);
}

export interface DeckPlace {
  /** Shows the present. */
  live: boolean;
  /** Timeline frame, may be a fraction; the present itself when live. */
  position: number;
  /** Timeline frames a show frame; 0 when it stands. */
  rate: number;
  angleId: string | null;
  roll: RollPlace | null;
}

/** Where the deck stands at show frame `frame`. */
export function deckPlace(deck: DeckState, replay: Pick<ReplayAir, 'kept' | 'recording'>, frame: number, rate: Rate): DeckPlace {
  const { motion, roll } = deck;
  if (motion.kind === 'live') return { live: true, position: frame, rate: 1, angleId: deck.angleId, roll: null };
  const newest = newestFrame(replay, frame, rate);
  const frames = Math.max(0, frame - motion.start);
  if (roll && motion.kind === 'play' && motion.rate > 0) {
    const place = rollPlace(roll, motion.position, frames);
    const item = roll.items[place.index];
    const moving = !place.ended || place.runningOn;
    return {
      live: false,
      position: Math.min(place.position, newest),
      rate: moving ? (item?.speed ?? 100) / 100 : 0,
      angleId: item?.angleId ?? null,
      roll: place,
    };
  }
  let position = motion.position + frames * motion.rate;
  if (roll) return heldRoll(deck, position, motion.rate);
  if (motion.rate > 1 && replay.recording !== null && position >= newest)
    return { live: true, position: frame, rate: 1, angleId: deck.angleId, roll: null };
  const oldest = replay.kept?.from ?? 0;
  position = Math.min(newest, Math.max(oldest, position));
  const stuck = (position <= oldest && motion.rate < 0) || (position >= newest && motion.rate > 0 && replay.recording === null);
  return { live: false, position, rate: stuck ? 0 : motion.rate, angleId: deck.angleId, roll: null };
}

/** A play-out that is jogged, shuttled or reversed stays inside its item. */
function heldRoll(deck: DeckState, wanted: number, rate: number): DeckPlace {
  const roll = deck.roll as NonNullable<DeckState['roll']>;
  const item = roll.items[roll.index] as (typeof roll.items)[0];
  const position = Math.min(item.out - 1, Math.max(item.in, wanted));
  // What is shown stands still, so the dissolve into the next item does too.
  const place = rollPlace(roll, position, 0);
  return {
    live: false,
    position,
    rate: position === wanted ? rate : 0,
    angleId: item.angleId,
    roll: { ...place, index: roll.index, position },
  };
}

/** One recorded picture of a deck. */
export interface DeckPicture {
  angleId: string;
  /** Timeline frame, may be a fraction: the last recorded frame at or before it is meant. */
  position: number;
  /** Opacity over the picture before, 0 to 1. */
  level: number;
}

/** A picture, or two neighbours in slow motion that is to be blended. */
function blended(first: DeckPicture, rate: number, blend: boolean): DeckPicture[] {
  const whole = Math.floor(first.position);
  const share = first.position - whole;
  if (!blend || Math.abs(rate) >= 1 || rate === 0 || share < 0.01) return [first];
  return [
    { ...first, position: whole },
    { ...first, position: whole + 1, level: share },
  ];
}

/** Recorded pictures of a place in a play-out, the lower first: the piece that comes in over the one that goes. */
export function rollPictures(roll: Roll, place: RollPlace, rate: number, blend: boolean): DeckPicture[] {
  const first: DeckPicture = { angleId: roll.items[place.index]?.angleId ?? '', position: place.position, level: 1 };
  const { incoming } = place;
  const item = incoming && roll.items[incoming.index];
  return incoming && item
    ? [first, { angleId: item.angleId, position: incoming.position, level: incoming.share }]
    : blended(first, rate, blend);
}

/** Recorded pictures that the deck shows, the lower first; none when it is live or has no angle. */
export function deckPictures(deck: DeckState, place: DeckPlace, blend: boolean): DeckPicture[] {
  if (place.live || place.angleId === null) return [];
  if (deck.roll && place.roll) return rollPictures(deck.roll, { ...place.roll, position: place.position }, place.rate, blend);
  return blended({ angleId: place.angleId, position: place.position, level: 1 }, place.rate, blend);
}

/** Show frames left of the play-out and of its present item; null when there is none. */
export function rollLeft(deck: DeckState, place: DeckPlace): { item: number; all: number } | null {
  if (!deck.roll || !place.roll) return null;
  return { item: place.roll.itemLeft, all: place.roll.left };
}

/** The angle that a source shows as it happens: only a live deck does; null for everything else. */
export function liveAngle(show: Show, air: Air, sourceId: string, frame: number): Angle | null {
  const settings = show.sources.find((s) => s.id === sourceId)?.settings;
  if (settings?.kind !== 'deck') return null;
  const place = deckPlace(air.replay.decks[settings.deck], air.replay, frame, show.rate);
  return place.live ? (show.replay.angles.find((a) => a.pictureId === place.angleId) ?? null) : null;
}

/** A standing motion at a place. */
export const stillAt = (position: number, frame: number): Motion => ({ kind: 'still', position, start: frame, rate: 0 });
