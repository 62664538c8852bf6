/** Commands for the decks: playing, jog, shuttle, jumps, speed, angle, marks. */
import { DeckArg } from './deck-arg';
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { Flag, Num, OneOf, Ref, Text, Whole } from '../schema/fields';
import { type Desk } from '../desk/air';
import { parseTimecode, TimecodeError } from '../time/timecode';
import { type DeckNumber } from './air';
import { LAST_FRAME, MOST_ANGLES } from './document';
import { angleOf, frameOfDay } from './edit';
import {
  goLive,
  goTo,
  isMoving,
  pause,
  play,
  reverse,
  setAngle,
  setGang,
  setSpeed,
  settleDeck,
  shownFrame,
  shuttle,
  SHUTTLE_LIMIT,
  shuttleOn,
  step,
} from './transport';
class StepArgs extends DeckArg {
  @Whole(-1000, 1000, 'whole frames, back when negative; 0 takes hold') frames!: number;
}
class ShuttleArgs extends DeckArg {
  @Num(-SHUTTLE_LIMIT, SHUTTLE_LIMIT, 'times normal speed; 0 is at rest') rate!: number;
}
class ShuttleOnArgs extends DeckArg {
  @OneOf(['forwards', 'backwards'], 'direction') direction!: 'forwards' | 'backwards';
}
class GoToArgs extends DeckArg {
  @Num(0, LAST_FRAME, 'timeline frame', { optional: true }) frame?: number;
  @Text(20, 'timecode hh:mm:ss:ff', { optional: true }) timecode?: string;
}
class JumpArgs extends DeckArg {
  @OneOf(['in', 'out', 'oldest', 'live'], 'where to') to!: 'in' | 'out' | 'oldest' | 'live';
}
class SpeedArgs extends DeckArg {
  @Whole(1, 200, 'speed, per cent') speed!: number;
}
class NudgeSpeedArgs extends DeckArg {
  @Whole(-100, 100, 'per cent more or less') by!: number;
}
class AngleArgs extends DeckArg {
  @Ref('angle', 'angle') angle!: string;
}
class AngleNumberArgs extends DeckArg {
  @Whole(1, MOST_ANGLES, 'row') number!: number;
}
class GangArgs {
  @Flag('tie together, or separate; without it, the other way', { optional: true }) on?: boolean;
  @Whole(1, 2, 'deck that the other one goes to', { optional: true }) deck?: DeckNumber;
}
class MarkArgs extends DeckArg {
  @Num(0, LAST_FRAME, 'timeline frame; without it, where the deck stands', { optional: true }) frame?: number;
}

function targetFrame(desk: Desk, { frame: at, timecode }: GoToArgs, frame: number): number {
  if (timecode === undefined) {
    if (at === undefined) throw new CommandError('no-place', 'Say where to go: a frame or a timecode.', 'timecode');
    return at;
  }
  try {
    return frameOfDay(parseTimecode(timecode, desk.show.rate), frame, desk.show.rate);
  } catch (error) {
    if (error instanceof TimecodeError) throw new CommandError('bad-timecode', error.message, 'timecode');
    throw error;
  }
}

export const deckCommands = [
  defineCommand({
    type: 'deck.play',
    title: 'Play',
    says: 'Play deck {deck}',
    about: 'Plays forwards from where the deck stands, at its speed.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => play(desk, deck, frame),
  }),
  defineCommand({
    type: 'deck.pause',
    title: 'Pause',
    says: 'Pause deck {deck}',
    about: 'Stops on the frame that is shown; a live deck holds the newest recorded frame.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => pause(desk, deck, frame),
  }),
  defineCommand({
    type: 'deck.toggle',
    title: 'Play or pause',
    about: 'Pauses a deck that moves or is live, plays one that stands.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => {
      const { place } = settleDeck(desk, deck, frame);
      (place.live || isMoving(place) ? pause : play)(desk, deck, frame);
    },
  }),
  defineCommand({
    type: 'deck.reverse',
    title: 'Play backwards',
    about: 'Plays backwards at the deck’s speed.',
    args: DeckArg,
    run: (desk, { deck }, { frame }) => reverse(desk, deck, frame),
  }),
  defineCommand({
    type: 'deck.step',
    title: 'Step frames',
    about: 'Stops, and goes whole frames on or back. This is what the jog sends: 0 when it is taken hold of, 1 for each click.',
    args: StepArgs,
    run: (desk, { deck, frames }, { frame }) => step(desk, deck, frame, frames),
  }),
  defineCommand({
    type: 'deck.shuttle',
    title: 'Shuttle',
    about: 'Moves at any speed from −16 to +16 times. 0, as when a shuttle is let go, is at rest and forwards.',
    args: ShuttleArgs,
    run: (desk, { deck, rate }, { frame }) => shuttle(desk, deck, frame, rate),
  }),
  defineCommand({
    type: 'deck.shuttleOn',
    title: 'Shuttle faster',
    about: 'Shuttles in a direction: 1, 2, 4, 8, 16 times with every press.',
    args: ShuttleOnArgs,
    run: (desk, { deck, direction }, { frame }) => shuttleOn(desk, deck, frame, direction === 'forwards' ? 1 : -1),
  }),
  defineCommand({
    type: 'deck.goTo',
    title: 'Go to a time',
    about: 'Goes to a frame or timecode of the timeline: plays on if it played, stands otherwise.',
    args: GoToArgs,
    run: (desk, args, { frame }) => goTo(desk, args.deck, frame, targetFrame(desk, args, frame)),
  }),
  defineCommand({
    type: 'deck.jump',
    title: 'Jump',
    about: 'Jumps to the in mark, the out mark, the oldest frame, or live.',
    args: JumpArgs,
    run: (desk, { deck, to }, { frame }) => {
      const { replay } = desk.air;
      if (to === 'live') return goLive(desk, deck);
      const place = { in: replay.markIn, out: replay.markOut === null ? null : replay.markOut - 1, oldest: replay.kept?.from ?? null }[to];
      if (place === null)
        throw new CommandError('no-mark', to === 'oldest' ? 'Nothing is recorded yet.' : `No ${to} point is marked.`, 'to');
      goTo(desk, deck, frame, place);
    },
  }),
  defineCommand({
    type: 'deck.setSpeed',
    title: 'Set the speed',
    about: 'Speed of play, 1 to 200 per cent; also while it plays, on air too.',
    args: SpeedArgs,
    run: (desk, { deck, speed }, { frame }) => setSpeed(desk, deck, frame, speed),
  }),
  defineCommand({
    type: 'deck.nudgeSpeed',
    title: 'A little faster or slower',
    about: 'Changes the speed of play by some per cent.',
    args: NudgeSpeedArgs,
    run: (desk, { deck, by }, { frame }) => setSpeed(desk, deck, frame, Math.min(200, Math.max(1, desk.air.replay.decks[deck].speed + by))),
  }),
  defineCommand({
    type: 'deck.setAngle',
    title: 'Show an angle',
    about: 'Changes the angle of a deck, also while it plays; a clip that plays is not changed.',
    args: AngleArgs,
    run: (desk, { deck, angle }, { frame }) => setAngle(desk, deck, frame, angleOf(desk, angle).pictureId),
  }),
  defineCommand({
    type: 'deck.setAngleByNumber',
    title: 'Show an angle by number',
    about: 'Changes the angle of a deck to the one in the given row.',
    args: AngleNumberArgs,
    run: (desk, { deck, number }, { frame }) => {
      const angle = desk.show.replay.angles[number - 1];
      if (!angle) throw new CommandError('unknown-angle', `There is no angle ${number}.`, 'number');
      setAngle(desk, deck, frame, angle.pictureId);
    },
  }),
  defineCommand({
    type: 'deck.gang',
    title: 'Gang the decks',
    about: 'Ties both decks together, each on its own angle, or separates them. The other deck goes where the named one is.',
    args: GangArgs,
    run: (desk, { on = !desk.air.replay.gang, deck = 1 }) => setGang(desk, deck, on),
  }),
  defineCommand({
    type: 'mark.in',
    title: 'Mark in',
    about: 'Marks the frame that the deck shows as in point: live too.',
    args: MarkArgs,
    run: (desk, { deck, frame: at }, { frame }) => {
      const { replay } = desk.air;
      replay.markIn = Math.floor(at ?? shownFrame(desk, deck, frame));
      if (replay.markOut !== null && replay.markOut <= replay.markIn) replay.markOut = null;
    },
  }),
  defineCommand({
    type: 'mark.out',
    title: 'Mark out',
    about: 'Marks the frame that the deck shows as the last one of the clip: live too.',
    args: MarkArgs,
    run: (desk, { deck, frame: at }, { frame }) => {
      const { replay } = desk.air;
      replay.markOut = Math.floor(at ?? shownFrame(desk, deck, frame)) + 1;
      if (replay.markIn !== null && replay.markIn >= replay.markOut) replay.markIn = null;
    },
  }),
  defineCommand({
    type: 'mark.clear',
    title: 'Clear the marks',
    about: 'Forgets in and out marks.',
    args: NoArgs,
    run: ({ air }) => {
      Object.assign(air.replay, { markIn: null, markOut: null });
    },
  }),
];
