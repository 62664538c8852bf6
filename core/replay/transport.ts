/** The decks' state machine: what play, jog, shuttle and jumps do. Works on a draft; used by the commands. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Source } from '../show/source';
import { type DeckNumber, DECKS, type DeckState, type Motion } from './air';
import { type DeckPlace, deckPlace, newestFrame, stillAt } from './deck';

/** Fastest shuttle, times normal speed. */
export const SHUTTLE_LIMIT = 16;
/** Shuttle speeds that J and L go through. */
const SHUTTLE_STEPS = [1, 2, 4, 8, 16];

/** The source that a deck is for the mixer; undefined when the show has none. */
export const deckSource = ({ show }: Pick<Desk, 'show'>, number: DeckNumber): Source | undefined =>
  show.sources.find(({ settings }) => settings.kind === 'deck' && settings.deck === number);

/** Where a deck stands now, with the play-out moved on to the item it has reached. */
export function settleDeck(desk: Desk, number: DeckNumber, frame: number): { deck: DeckState; place: DeckPlace } {
  const deck = desk.air.replay.decks[number];
  const place = deckPlace(deck, desk.air.replay, frame, desk.show.rate);
  if (deck.roll && place.roll && place.roll.index !== deck.roll.index) {
    deck.roll.index = place.roll.index;
    deck.motion = { kind: 'play', position: place.position, start: frame, rate: place.rate || deck.speed / 100 };
  }
  return { deck, place };
}

/** The decks that a command to `number` moves: both when ganged, but never one that plays out on its own. */
function moved(desk: Desk, number: DeckNumber): DeckNumber[] {
  const { gang, decks } = desk.air.replay;
  if (!gang || decks[number].roll) return [number];
  return DECKS.filter((n) => n === number || !decks[n].roll);
}

/** Gives the deck, and its partner when ganged, a motion. */
function setMotion(desk: Desk, number: DeckNumber, motion: Motion): void {
  for (const n of moved(desk, number)) desk.air.replay.decks[n].motion = { ...motion };
}

/** The whole frame that the deck shows: the newest that can be played when it is live. */
function standing(desk: Desk, place: DeckPlace, frame: number): number {
  return Math.floor((place.live ? newestFrame(desk.air.replay, frame, desk.show.rate) : place.position) + 1e-6);
}

/** Whole timeline frame that a deck shows; the present when it is live. */
export function shownFrame(desk: Desk, number: DeckNumber, frame: number): number {
  return Math.floor(settleDeck(desk, number, frame).place.position + 1e-6);
}

/** Keeps a place inside of what is recorded. */
export function clampToKept({ show, air }: Desk, position: number, frame: number): number {
  return Math.max(air.replay.kept?.from ?? 0, Math.min(newestFrame(air.replay, frame, show.rate), position));
}

/** Plays forwards at the deck's speed; a play-out that has ended begins again. */
export function play(desk: Desk, number: DeckNumber, frame: number): void {
  const { deck, place } = settleDeck(desk, number, frame);
  if (deck.roll) {
    if (place.roll?.ended) deck.roll.index = 0;
    const item = deck.roll.items[deck.roll.index];
    if (!item) return;
    deck.motion = { kind: 'play', position: place.roll?.ended ? item.in : place.position, start: frame, rate: item.speed / 100 };
    return;
  }
  if (place.live && deck.speed >= 100) return;
  const position = place.live ? standing(desk, place, frame) : place.position;
  setMotion(desk, number, { kind: 'play', position, start: frame, rate: deck.speed / 100 });
}

/** Plays backwards at the deck's speed. */
export function reverse(desk: Desk, number: DeckNumber, frame: number): void {
  const { deck, place } = settleDeck(desk, number, frame);
  setMotion(desk, number, { kind: 'play', position: standing(desk, place, frame), start: frame, rate: -deck.speed / 100 });
}

/** Stops on the frame that is shown. */
export const pause = (desk: Desk, number: DeckNumber, frame: number): void => step(desk, number, frame, 0);

/** Stops, and goes `frames` whole frames on or back. */
export function step(desk: Desk, number: DeckNumber, frame: number, frames: number): void {
  const { deck, place } = settleDeck(desk, number, frame);
  const item = deck.roll?.items[deck.roll.index];
  const wanted = standing(desk, place, frame) + frames;
  const position = item ? Math.min(item.out - 1, Math.max(item.in, wanted)) : clampToKept(desk, wanted, frame);
  setMotion(desk, number, stillAt(position, frame));
}

/** True when the deck moves by itself over the past. */
export function isMoving(place: DeckPlace): boolean {
  return !place.live && place.rate !== 0;
}

/** Shuttles at `rate` times normal speed; 0 is at rest, and forwards. */
export function shuttle(desk: Desk, number: DeckNumber, frame: number, rate: number): void {
  const { place } = settleDeck(desk, number, frame);
  if (rate === 0) {
    if (!place.live) pause(desk, number, frame);
    return;
  }
  if (place.live && rate > 0) return;
  setMotion(desk, number, { kind: 'shuttle', position: place.live ? standing(desk, place, frame) : place.position, start: frame, rate });
}

/** The next shuttle speed in a direction; against it, the slowest. */
export function shuttleOn(desk: Desk, number: DeckNumber, frame: number, direction: 1 | -1): void {
  const { motion } = desk.air.replay.decks[number];
  const now = motion.kind === 'shuttle' || motion.kind === 'play' ? motion.rate : 0;
  const faster = SHUTTLE_STEPS.find((s) => s > now * direction + 1e-9) ?? SHUTTLE_LIMIT;
  shuttle(desk, number, frame, (now * direction > 0 ? faster : 1) * direction);
}

/** Goes to a timeline frame: plays on if it played, stands otherwise. Leaves a play-out. */
export function goTo(desk: Desk, number: DeckNumber, frame: number, position: number): void {
  const deck = desk.air.replay.decks[number];
  const playing = deck.motion.kind === 'play' && deck.motion.rate > 0 && !deck.roll;
  leaveRoll(desk, number);
  const to = clampToKept(desk, position, frame);
  setMotion(desk, number, playing ? { kind: 'play', position: to, start: frame, rate: deck.speed / 100 } : stillAt(to, frame));
}

/** Shows the present. */
export function goLive(desk: Desk, number: DeckNumber): void {
  leaveRoll(desk, number);
  setMotion(desk, number, { kind: 'live' });
}

/** Ends the play-out of a deck; the deck itself stays where it is. */
export function leaveRoll(desk: Desk, number: DeckNumber): void {
  const { replay } = desk.air;
  replay.decks[number].roll = null;
  if (replay.music?.deck === number) replay.music = null;
  if (replay.takeBack?.deck === number) replay.takeBack = null;
}

/** Changes the speed that play has, also while it plays. In a play-out only the present piece changes; its clip stays. */
export function setSpeed(desk: Desk, number: DeckNumber, frame: number, speed: number): void {
  for (const n of moved(desk, number)) {
    const { deck, place } = settleDeck(desk, n, frame);
    deck.speed = speed;
    const item = deck.roll?.items[deck.roll.index];
    if (item) item.speed = speed;
    if (deck.motion.kind !== 'play' || (place.roll?.ended ?? false)) continue;
    deck.motion = { kind: 'play', position: place.position, start: frame, rate: (Math.sign(deck.motion.rate) * speed) / 100 };
  }
}

/** Shows another angle; in a play-out, for the present piece. */
export function setAngle(desk: Desk, number: DeckNumber, frame: number, angleId: string): void {
  const { deck, place } = settleDeck(desk, number, frame);
  deck.angleId = angleId;
  const item = deck.roll?.items[deck.roll.index];
  if (!item || !place.roll) return;
  item.angleId = angleId;
}

/** Ties the decks together: the other one goes where this one is. */
export function setGang(desk: Desk, number: DeckNumber, on: boolean): void {
  const { replay } = desk.air;
  replay.gang = on;
  const other: DeckNumber = number === 1 ? 2 : 1;
  const { motion, roll, speed } = replay.decks[number];
  if (!on || roll) return;
  if (replay.decks[other].roll) throw new CommandError('deck-busy', `Deck ${other} plays out. Stop it first, then gang the decks.`);
  Object.assign(replay.decks[other], { motion: { ...motion }, speed });
}
