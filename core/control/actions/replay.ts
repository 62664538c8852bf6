/** Actions of Replay: decks, marks, clips, reels, play-out. */
import { deckPlace } from '../../replay/deck';
import { MOST_ANGLES, MOST_REELS } from '../../replay/document';
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type Meaning } from '../action';
import { shuttleRate } from '../lever';
import { actionsOf, DECK, deckOf, number } from '../make';

const play = actionsOf('replay', 'Play');
const marks = actionsOf('replay', 'Marks and clips');
const list = actionsOf('replay', 'List');
const air = actionsOf('replay', 'Air');
const room = actionsOf('replay', 'Go to');

/** A command to the deck. */
const onDeck =
  (type: string, more: Record<string, unknown> = {}) =>
  (hands: Hands, args: ActionArgs): Meaning =>
    command(type, { deck: deckOf(hands, args), ...more });

const NO_CLIP = 'No clip is chosen. Choose one in the list first.';

/** A command for all chosen clips. */
const onClips =
  (type: string, more: (hands: Hands, args: ActionArgs) => Record<string, unknown> = () => ({})) =>
  (hands: Hands, args: ActionArgs): Meaning =>
    hands.chosen.clips.length === 0 ? refuse(NO_CLIP) : command(type, { clips: [...hands.chosen.clips], ...more(hands, args) });

/** A command for the first chosen clip. */
const onClip =
  (type: string, more: (hands: Hands, args: ActionArgs) => Record<string, unknown> = () => ({})) =>
  (hands: Hands, args: ActionArgs): Meaning =>
    hands.chosen.clips[0] === undefined ? refuse(NO_CLIP) : command(type, { clip: hands.chosen.clips[0], ...more(hands, args) });

/** A command for the chosen clips and the reel in a place of the list. */
const toReel =
  (type: string) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const reel = hands.desk.show.replay.reels[numberArg(args, 'reel') - 1];
    return reel ? onClips(type, () => ({ reel: reel.id }))(hands, args) : refuse(`There is no reel ${numberArg(args, 'reel')}.`);
  };

/** A command for the chosen clips and the angle in a place of the list. */
const withAngle =
  (type: string, name: string, value: (angle: string) => unknown) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const angle = hands.desk.show.replay.angles[numberArg(args, 'number') - 1];
    if (!angle) return refuse(`There is no angle ${numberArg(args, 'number')}.`);
    return onClips(type, () => ({ [name]: value(angle.pictureId) }))(hands, args);
  };

const deckState = (hands: Hands, args: ActionArgs) => {
  const { show, air: now } = hands.desk;
  const state = now.replay.decks[deckOf(hands, args)];
  return { state, place: deckPlace(state, now.replay, hands.frame, show.rate) };
};

const onD = { params: [DECK] };
const ANGLE = number('number', 'Angle', 1, MOST_ANGLES);
const REEL = number('reel', 'Place of the reel', 1, MOST_REELS);

const playActions: Action[] = [
  play.press('replay.toggle', 'Play or pause', 'Play', onDeck('deck.toggle'), onD),
  play.press('replay.play', 'Play', 'Play', onDeck('deck.play'), onD),
  play.press('replay.pause', 'Pause', 'Pause', onDeck('deck.pause'), onD),
  play.press('replay.back', 'Shuttle backwards, faster with every press', '◀◀', onDeck('deck.shuttleOn', { direction: 'backwards' }), onD),
  play.press('replay.on', 'Shuttle forwards, faster with every press', '▶▶', onDeck('deck.shuttleOn', { direction: 'forwards' }), onD),
  play.press('replay.reverse', 'Play backwards at the deck’s speed', 'Reverse', onDeck('deck.reverse'), {
    ...onD,
    lit: (hands, args) => deckState(hands, args).place.rate < 0,
  }),
  play.press(
    'replay.step',
    '{frames} frames on (back when negative)',
    '{frames}',
    (hands, args) => command('deck.step', { deck: deckOf(hands, args), frames: numberArg(args, 'frames') }),
    { params: [number('frames', 'Frames', -1000, 1000), DECK], repeats: true },
  ),
  play.press('replay.live', 'Jump to live', 'Live', onDeck('deck.jump', { to: 'live' }), {
    ...onD,
    lit: (hands, args) => deckState(hands, args).place.live,
  }),
  play.press('replay.oldest', 'Jump to the oldest frame', 'Oldest', onDeck('deck.jump', { to: 'oldest' }), onD),
  play.press(
    'replay.speed',
    'Speed {speed} %',
    '{speed} %',
    (hands, args) => command('deck.setSpeed', { deck: deckOf(hands, args), speed: numberArg(args, 'speed') }),
    {
      params: [number('speed', 'Speed, %', 1, 200), DECK],
      lit: (hands, args) => deckState(hands, args).state.speed === args.speed,
    },
  ),
  play.press(
    'replay.nudgeSpeed',
    'Speed by {by} %',
    '{by} %',
    (hands, args) => command('deck.nudgeSpeed', { deck: deckOf(hands, args), by: numberArg(args, 'by') }),
    { params: [number('by', 'Per cent faster, slower when negative', -100, 100), DECK], repeats: true },
  ),
  play.press(
    'replay.angle',
    'Angle {number}',
    'Angle {number}',
    (hands, args) => command('deck.setAngleByNumber', { deck: deckOf(hands, args), number: numberArg(args, 'number') }),
    {
      params: [ANGLE, DECK],
      lit: (hands, args) => {
        const angle = hands.desk.show.replay.angles[numberArg(args, 'number') - 1];
        return angle !== undefined && deckState(hands, args).place.angleId === angle.pictureId;
      },
    },
  ),
  play.act('replay.deck', 'Work on deck {deck}; without one, on the other', 'Deck {deck}', {
    ...onD,
    lit: ({ chosen }, { deck }) => deck !== undefined && chosen.deck === deck,
  }),
  play.press('replay.gang', 'Gang the decks, or separate them', 'Gang', onDeck('deck.gang'), {
    ...onD,
    lit: ({ desk }) => desk.air.replay.gang,
  }),
  {
    id: 'replay.jog',
    room: 'replay',
    group: 'Play',
    does: 'Jog the deck, a frame a click',
    short: 'Jog',
    params: [DECK],
    takes: 'clicks',
    turn: (hands, args, clicks) => command('deck.step', { deck: deckOf(hands, args), frames: clicks }),
  },
  {
    id: 'replay.shuttle',
    room: 'replay',
    group: 'Play',
    does: 'Shuttle the deck',
    short: 'Shuttle',
    params: [DECK],
    takes: 'level',
    span: 'both',
    move: (hands, args, level) => command('deck.shuttle', { deck: deckOf(hands, args), rate: shuttleRate(level) }),
    // A lever that springs back has nothing to pick up.
    present: () => null,
  },
  {
    id: 'replay.speedLever',
    room: 'replay',
    group: 'Play',
    does: 'Speed of the deck, 1 to 200 %',
    short: 'Speed',
    params: [DECK],
    takes: 'level',
    span: 'one',
    move: (hands, args, level) => command('deck.setSpeed', { deck: deckOf(hands, args), speed: Math.max(1, Math.round(level * 200)) }),
    present: (hands, args) => deckState(hands, args).state.speed / 200,
  },
  room.act('replay.goTo', 'Type a timecode to go to', 'Go to'),
];

const clipActions: Action[] = [
  marks.press('replay.markIn', 'Mark in', 'In', onDeck('mark.in'), onD),
  marks.press('replay.markOut', 'Mark out', 'Out', onDeck('mark.out'), onD),
  marks.press('replay.toIn', 'Jump to the in mark', '→ In', onDeck('deck.jump', { to: 'in' }), onD),
  marks.press('replay.toOut', 'Jump to the out mark', '→ Out', onDeck('deck.jump', { to: 'out' }), onD),
  marks.press('replay.makeClip', 'Make a clip of the marks', 'Clip', onDeck('clip.add'), onD),
  marks.press('replay.clearMarks', 'Clear the marks', 'No marks', () => command('mark.clear')),
  marks.press(
    'replay.grab',
    'Grab the last seconds, length {length}',
    'Grab {length}',
    (hands, args) => command('clip.grab', { deck: deckOf(hands, args), length: numberArg(args, 'length') }),
    { params: [number('length', 'Which of the three lengths', 1, 3), DECK] },
  ),
  marks.press('replay.inHere', 'In point of the clip to the playhead', 'In here', (hands, args) =>
    onClip('clip.setEdge', () => ({ edge: 'in', deck: deckOf(hands, args) }))(hands, args),
  ),
  marks.press('replay.outHere', 'Out point of the clip to the playhead', 'Out here', (hands, args) =>
    onClip('clip.setEdge', () => ({ edge: 'out', deck: deckOf(hands, args) }))(hands, args),
  ),
  ...(['in', 'out'] as const).map((edge) =>
    marks.press(
      `replay.nudge${edge === 'in' ? 'In' : 'Out'}`,
      `${edge === 'in' ? 'In' : 'Out'} point by {frames} frames`,
      `${edge === 'in' ? 'In' : 'Out'} {frames}`,
      onClip('clip.nudge', (_, args) => ({ edge, frames: numberArg(args, 'frames') })),
      { params: [number('frames', 'Frames later, earlier when negative', -1000, 1000)], repeats: true },
    ),
  ),
  room.act('replay.editIn', 'Type the in point of the clip', 'Type in'),
  room.act('replay.editOut', 'Type the out point of the clip', 'Type out'),
  room.act('replay.editName', 'Name of the clip', 'Name'),
  marks.press('replay.split', 'Split the clip at the playhead', 'Split', (hands, args) =>
    onClip('clip.split', () => ({ deck: deckOf(hands, args) }))(hands, args),
  ),
  marks.press(
    'replay.clipAngle',
    'Angle {number} is the only one of the clip',
    'Clip angle {number}',
    withAngle('clip.set', 'angleIds', (angle) => [angle]),
    { params: [ANGLE] },
  ),
  marks.press(
    'replay.addAngle',
    'Angle {number} of the clip on or off',
    'Clip +{number}',
    withAngle('clip.toggleAngle', 'angle', (angle) => angle),
    { params: [ANGLE] },
  ),
];

const listActions: Action[] = [
  list.press('replay.duplicate', 'Duplicate', 'Duplicate', onClips('clip.duplicate')),
  list.press('replay.remove', 'Remove the clips', 'Remove', onClips('clip.remove')),
  list.press(
    'replay.rate',
    'Rate {rating}',
    '{rating} ★',
    onClips('clip.set', (_, args) => ({ rating: numberArg(args, 'rating', 0) })),
    {
      params: [number('rating', 'Rating, 0 for none', 0, 5)],
    },
  ),
  list.press(
    'replay.copy',
    'Copy the clips to the target reel',
    'Copy',
    onClips('clip.copyToReel', ({ chosen }) => ({ reel: chosen.targetReel })),
  ),
  list.press(
    'replay.move',
    'Move the clips to the target reel',
    'Move',
    onClips('clip.moveToReel', ({ chosen }) => ({ reel: chosen.targetReel })),
  ),
  list.press('replay.copyTo', 'Copy the clips to reel {reel}', 'Copy {reel}', toReel('clip.copyToReel'), { params: [REEL] }),
  list.press('replay.moveTo', 'Move the clips to reel {reel}', 'Move {reel}', toReel('clip.moveToReel'), { params: [REEL] }),
  list.press(
    'replay.shift',
    'Clips by {by} places down (up when negative)',
    '{by}',
    onClips('clip.shift', (_, args) => ({ by: numberArg(args, 'by') })),
    { params: [number('by', 'Places down, up when negative', -1000, 1000)], repeats: true },
  ),
  list.act('replay.clipBefore', 'Choose the clip before', '▲', { repeats: true }),
  list.act('replay.clipAfter', 'Choose the next clip', '▼', { repeats: true }),
  list.act('replay.addBefore', 'Choose the clip before too', '+▲', { repeats: true }),
  list.act('replay.addAfter', 'Choose the next clip too', '+▼', { repeats: true }),
  list.act('replay.all', 'Choose all clips of the list', 'All'),
  list.act('replay.none', 'Choose none', 'None'),
  list.act('replay.newest', 'Choose the newest clip', 'Newest'),
  room.act('replay.search', 'Search the clips', 'Search'),
  list.press(
    'replay.reel',
    'Reel {reel}',
    'Reel {reel}',
    (_, args) => command('reel.chooseByNumber', { number: numberArg(args, 'reel') }),
    {
      params: [REEL],
      lit: ({ desk }, args) => desk.show.replay.reels[numberArg(args, 'reel') - 1]?.id === desk.show.replay.reelId,
    },
  ),
  list.act('replay.reelBefore', 'The reel before', 'Reel −'),
  list.act('replay.reelAfter', 'The next reel', 'Reel +'),
  list.act('replay.target', 'Next target reel for copies', 'Target'),
  room.act('replay.closer', 'Timeline closer', 'Closer', { repeats: true }),
  room.act('replay.wider', 'Timeline wider', 'Wider', { repeats: true }),
  room.act('replay.follow', 'Timeline follows, or stays', 'Follow'),
  room.act('replay.jogPanel', 'Jog panel on screen', 'Jog'),
];

/** The clip that was made last, by its number. */
const newest = ({ desk }: Hands) =>
  desk.show.replay.clips.reduce<{ id: string; number: number } | null>((best, c) => (best && best.number > c.number ? best : c), null);

const withNewest =
  (type: string) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const clip = newest(hands);
    return clip ? command(type, { deck: deckOf(hands, args), clips: [clip.id] }) : refuse('There is no clip yet. Grab one first.');
  };

const airActions: Action[] = [
  air.press(
    'replay.cue',
    'Stand the clips on the deck',
    'Cue',
    (hands, args) => onClips('roll.start', () => ({ deck: deckOf(hands, args), paused: true }))(hands, args),
    onD,
  ),
  air.press(
    'replay.roll',
    'Play the clips on the deck',
    'Play clips',
    (hands, args) => onClips('roll.start', () => ({ deck: deckOf(hands, args) }))(hands, args),
    onD,
  ),
  air.press('replay.rollReel', 'Play the reel on the deck', 'Play reel', onDeck('roll.start'), onD),
  air.press(
    'replay.toAir',
    'Roll the clips to air, and back',
    'To air',
    (hands, args) => onClips('roll.toAir', () => ({ deck: deckOf(hands, args) }))(hands, args),
    onD,
  ),
  air.press('replay.reelToAir', 'Roll the reel to air, and back', 'Reel to air', onDeck('roll.toAir'), onD),
  air.press('replay.rollNewest', 'Play the newest clip on the deck', 'Play newest', withNewest('roll.start'), onD),
  air.press('replay.newestToAir', 'Roll the newest clip to air, and back', 'Newest to air', withNewest('roll.toAir'), onD),
  air.press('replay.again', 'Play out from the beginning', 'Again', onDeck('roll.again'), onD),
  air.press('replay.next', 'Next piece of the play-out', 'Next', onDeck('roll.next'), onD),
  air.press('replay.previous', 'Previous piece of the play-out', 'Previous', onDeck('roll.previous'), onD),
  air.press('replay.lookBack', 'Look back on air; again starts it again', 'Look back', onDeck('replay.lookBack'), {
    ...onD,
    lit: ({ desk }) => desk.air.replay.lookBack !== null,
  }),
  air.press('replay.return', 'Back to what was on air', 'Return', () => command('replay.backToLive')),
  air.press(
    'replay.record',
    'Record the angles; held, stop it',
    'Record',
    ({ desk }) => (desk.air.replay.recording === null ? command('replay.start') : command('replay.stop')),
    { lit: ({ desk }) => desk.air.replay.recording !== null },
  ),
];

export const REPLAY_ACTIONS: readonly Action[] = [...playActions, ...clipActions, ...listActions, ...airActions];
