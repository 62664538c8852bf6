/** Commands that play clips out: to a deck, and to air; and the look-back of a single operator. */
import { rollTransition } from './roll-transition';
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { mediaSpan } from '../media/player';
import { takeDirect } from '../picture/mixer';
import { Flag, Num, Ref, Refs, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { findPicture, sourceBehind, findSource } from '../desk/pictures';
import { secondsToFrames } from '../time/rate';
import { type DeckNumber, type Roll, type RollItem } from './air';
import { DeckArg } from './deck-arg';
import { type Clip, clipsOf, LAST_FRAME } from './document';
import { clipsByIds, reelOf, stored } from './edit';
import { stillAt } from './deck';
import { itemsOf, totalFrames } from './roll';
import { clampToKept, deckSource, goLive, leaveRoll, play, settleDeck } from './transport';

class RollArgs extends DeckArg {
  @Refs('clip', 20_000, 'clips; without them, the reel', { optional: true }) clips?: string[];
  @Ref('reel', 'reel; without it, the chosen one', { optional: true }) reel?: string;
  @Ref('clip', 'clip of the reel to begin with', { optional: true }) from?: string;
}
class CueArgs extends RollArgs {
  @Flag('stand at the first frame', { optional: true }) paused?: boolean;
}
class FinishArgs {
  @Whole(0, LAST_FRAME, 'show frame at which the return begins') at!: number;
}
class LookBackArgs extends DeckArg {
  @Num(1, 600, 'seconds; without it, those of the settings', { optional: true }) seconds?: number;
  @Ref('angle', 'angle; without it, what is on air, or the deck’s', { optional: true }) angle?: string;
}

function chosenClips(desk: Desk, { clips, reel, from }: RollArgs): Clip[] {
  if (clips) return clipsByIds(desk, clips);
  const { replay } = desk.show;
  const list = clipsOf({ ...replay, clips: stored(replay) }, reel === undefined ? replay.reelId : reelOf(desk, reel).id);
  const first = from === undefined ? 0 : list.findIndex((c) => c.id === from);
  if (first < 0) throw new CommandError('unknown-clip', 'This clip is not in the reel.', 'from');
  if (list.length === 0) throw new CommandError('no-clips', 'This reel is empty. Grab a clip first.', 'reel');
  return list.slice(first);
}

function makeRoll(desk: Desk, items: RollItem[], runOn: number, after: Roll['after']): Roll {
  const { join, joinFrames } = desk.show.replay.settings;
  return { items, index: 0, joinFrames: join === 'dissolve' ? joinFrames : 0, after, runOn };
}

/** Puts a play-out on a deck, standing at its first frame or playing. */
function load(desk: Desk, number: DeckNumber, clips: Clip[], frame: number, playing: boolean, toAir: boolean): Roll {
  const { replay } = desk.air;
  const deck = replay.decks[number];
  const items = clips.flatMap((clip) => itemsOf(clip, deck.angleId));
  const [first] = items;
  if (!first) throw new CommandError('no-angles', 'These clips show no angle. Choose one for them first.', 'clips');
  const lost = replay.kept ? clips.find((c) => c.out <= (replay.kept?.from ?? 0)) : clips[0];
  if (lost) throw new CommandError('not-kept', `${lost.name} is no longer recorded.`, 'clips');
  leaveRoll(desk, number);
  if (replay.lookBack?.deck === number) replay.lookBack = null;
  const transition = rollTransition(desk);
  const roll = makeRoll(
    desk,
    items,
    toAir && transition.kind !== 'cut' ? transition.frames : 0,
    toAir ? 'hold' : desk.show.replay.settings.after,
  );
  deck.roll = roll;
  deck.motion = playing ? { kind: 'play', position: first.in, start: frame, rate: first.speed / 100 } : stillAt(first.in, frame);
  return roll;
}

/** Starts the music of the settings under a play-out. */
function startMusic(desk: Desk, deck: DeckNumber, frame: number): void {
  const { musicId, musicFade } = desk.show.replay.settings;
  const settings = findSource(desk.show, musicId)?.settings;
  if (musicId === null || settings?.kind !== 'media') return;
  desk.air.replay.music = { sourceId: musicId, deck, fadeFrames: secondsToFrames(musicFade, desk.show.rate) };
  desk.air.players[musicId] = { playing: true, start: frame, position: mediaSpan(settings).from };
}

function requireDeck(desk: Desk, number: DeckNumber): string {
  const source = deckSource(desk, number);
  if (!source)
    throw new CommandError(
      'no-deck',
      `Deck ${number} is not among the sources. Add an angle in Replay, or add the deck as a source.`,
      'deck',
    );
  return source.id;
}

/** Moves a play-out by whole items; keeps playing or standing as it was. */
function skip(desk: Desk, number: DeckNumber, frame: number, by: 1 | -1): void {
  const { deck, place } = settleDeck(desk, number, frame);
  const { roll } = deck;
  if (!roll || !place.roll) throw new CommandError('no-roll', `Deck ${number} plays nothing out.`, 'deck');
  const item = roll.items[roll.index];
  // Back goes to the beginning of this piece first, unless it has only just begun.
  const within = by < 0 && item && place.position - item.in > secondsToFrames(1, desk.show.rate);
  const to = within ? roll.index : roll.index + by;
  const index = roll.after === 'loop' ? (to + roll.items.length) % roll.items.length : Math.max(0, to);
  const next = roll.items[index];
  if (!next) throw new CommandError('last-clip', 'This is the last one.', 'deck');
  roll.index = index;
  const playing = deck.motion.kind === 'play' && deck.motion.rate > 0;
  deck.motion = playing ? { kind: 'play', position: next.in, start: frame, rate: next.speed / 100 } : stillAt(next.in, frame);
}

function lookBack(desk: Desk, { deck, seconds, angle }: LookBackArgs, frame: number): void {
  const { show, air } = desk;
  const { replay } = air;
  const deckId = requireDeck(desk, deck);
  if (!replay.kept) throw new CommandError('not-recording', 'Nothing is recorded yet: start recording the angles first.');
  const again = replay.lookBack?.deck === deck && air.onAirId === deckId && angle === undefined ? replay.lookBack : null;
  if (again) {
    replay.decks[deck].motion = { kind: 'play', position: again.from, start: frame, rate: replay.decks[deck].speed / 100 };
    return;
  }
  const isAngle = (id: string | null) => show.replay.angles.some((a) => a.pictureId === id);
  const seen = sourceBehind(show, air.onAirId);
  const angleId = angle ?? (isAngle(seen) ? seen : replay.decks[deck].angleId);
  if (angleId === null || !isAngle(angleId))
    throw new CommandError('unknown-angle', 'What is on air is not an angle, and none is chosen.', 'angle');
  const returnId = air.onAirId !== null && air.onAirId !== deckId ? air.onAirId : (replay.lookBack?.returnId ?? angleId);
  const from = clampToKept(desk, frame - secondsToFrames(seconds ?? show.replay.settings.lookBackSeconds, show.rate), frame);
  leaveRoll(desk, deck);
  const state = replay.decks[deck];
  state.angleId = angleId;
  state.motion = { kind: 'play', position: from, start: frame, rate: state.speed / 100 };
  replay.lookBack = { deck, angleId, from, returnId };
  takeDirect(desk, frame, deckId, rollTransition(desk));
}

export const rollCommands = [
  defineCommand({
    type: 'roll.start',
    title: 'Play clips out',
    about:
      'Plays clips, or a reel, one after another on a deck: each in its angles and speed. `paused` stands at the first frame. Returns the running time in frames.',
    args: CueArgs,
    run: (desk, args, { frame }) => {
      const roll = load(desk, args.deck, chosenClips(desk, args), frame, !args.paused, false);
      if (!args.paused) startMusic(desk, args.deck, frame);
      return { frames: totalFrames(roll.items, roll.joinFrames) };
    },
  }),
  defineCommand({
    type: 'roll.toAir',
    title: 'Roll to air',
    about:
      'Takes the deck to air by the chosen transition, plays clips or a reel, and takes back what was on air before. Returns the running time in frames.',
    args: RollArgs,
    run: (desk, args, { frame }) => {
      const deckId = requireDeck(desk, args.deck);
      const { air } = desk;
      const returnId = air.onAirId !== null && air.onAirId !== deckId ? air.onAirId : (air.replay.takeBack?.returnId ?? null);
      const roll = load(desk, args.deck, chosenClips(desk, args), frame, true, true);
      startMusic(desk, args.deck, frame);
      takeDirect(desk, frame, deckId, rollTransition(desk));
      if (returnId !== null) air.replay.takeBack = { deck: args.deck, deckId, returnId };
      return { frames: totalFrames(roll.items, roll.joinFrames) };
    },
  }),
  defineCommand({
    type: 'roll.next',
    title: 'Next clip',
    about: 'Goes on to the next piece of the play-out.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => skip(desk, deck, frame, 1),
  }),
  defineCommand({
    type: 'roll.previous',
    title: 'Previous clip',
    about: 'Goes back to the beginning of this piece, or to the one before.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => skip(desk, deck, frame, -1),
  }),
  defineCommand({
    type: 'roll.finish',
    fromEngine: true,
    title: 'Return from a roll',
    about:
      'Takes back what was on air before a roll, at the given frame. Sent by the engine when the roll ends; also a way to end it early.',
    args: FinishArgs,
    run: (desk, { at }, { frame }) => {
      const { takeBack } = desk.air.replay;
      if (!takeBack) throw new CommandError('no-roll', 'No roll is on air.');
      desk.air.replay.takeBack = null;
      // Somebody has taken another picture meanwhile: it stays.
      if (desk.air.onAirId !== takeBack.deckId) return;
      const settings = rollTransition(desk);
      takeDirect(desk, settings.kind === 'cut' ? frame : Math.max(frame, Math.min(at, frame + 25)), takeBack.returnId, settings);
    },
  }),
  defineCommand({
    type: 'replay.lookBack',
    title: 'Look back',
    about: 'Shows what the source on air (or an angle) saw some seconds ago, on the deck and on air; pressed again, starts it again.',
    args: LookBackArgs,
    run: (desk, args, { frame }) => lookBack(desk, args, frame),
  }),
  defineCommand({
    type: 'replay.backToLive',
    title: 'Back to live',
    about: 'Ends a look-back or a roll: takes back what was on air before; a deck that is not on air goes live.',
    args: NoArgs,
    run: (desk, _, { frame }) => {
      const { air } = desk;
      const { lookBack: look, takeBack } = air.replay;
      const from = look ?? takeBack;
      if (!from) throw new CommandError('nothing-to-leave', 'Neither a look-back nor a roll is on air.');
      const deckId = deckSource(desk, from.deck)?.id;
      Object.assign(air.replay, { lookBack: null, takeBack: null });
      if (air.onAirId === deckId && findPicture(desk.show, from.returnId)) {
        takeDirect(desk, frame, from.returnId, rollTransition(desk));
        return;
      }
      goLive(desk, from.deck);
    },
  }),
  defineCommand({
    type: 'roll.again',
    title: 'Play from the beginning',
    about: 'Plays what stands on the deck once more from its beginning.',
    args: DeckArg,
    run: (desk, { deck: number }, { frame }) => {
      const { deck } = settleDeck(desk, number, frame);
      const item = deck.roll?.items[0];
      if (!deck.roll || !item) throw new CommandError('no-roll', `Deck ${number} plays nothing out.`, 'deck');
      deck.roll.index = 0;
      deck.motion = stillAt(item.in, frame);
      play(desk, number, frame);
    },
  }),
];
