/** Actions of the Desk: the picture, its lanes, and replay for one who does everything alone. */
import { pictureByNumber } from '../../desk/pictures';
import { createAirLane, laneIsUp } from '../../picture/air';
import { MOST_LANES, type Lane } from '../../picture/document';
import { barPosition } from '../../picture/mixer';
import { tallyOf } from '../../picture/tally';
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type Meaning } from '../action';
import { actionsOf, number } from '../make';

const picture = actionsOf('desk', 'Picture');
const lanes = actionsOf('desk', 'Lanes');
const room = actionsOf('desk', 'Go to');

const NUMBER = [number('number', 'Number of the picture', 1, 99)];
const LANE = [number('lane', 'Number of the lane', 1, MOST_LANES, ({ lanes: all }, n) => all.find((l) => l.number === n)?.name)];
const PLACE = [number('number', 'Place in the list of transitions', 1, 100)];

const laneOf = ({ desk }: Hands, args: ActionArgs): Lane | undefined => desk.show.lanes.find((l) => l.number === numberArg(args, 'lane'));

/** A command for the lane with this number, wherever it lies. */
const onLane =
  (type: string) =>
  (hands: Hands, args: ActionArgs): Meaning => {
    const lane = laneOf(hands, args);
    return lane
      ? command(type, { lane: lane.id })
      : refuse(`No lane has the number ${numberArg(args, 'lane')}. Give it to one in its settings.`);
  };

const laneState = (hands: Hands, args: ActionArgs) => {
  const lane = laneOf(hands, args);
  return lane && (hands.desk.air.lanes[lane.id] ?? createAirLane());
};

const tally = ({ desk, frame }: Hands, args: ActionArgs) => {
  const found = pictureByNumber(desk.show, numberArg(args, 'number'));
  return found ? tallyOf(desk.show, desk.air, frame)[found.id] : undefined;
};

export const DESK_ACTIONS: readonly Action[] = [
  picture.press('picture.take', 'Take', 'Take', () => command('picture.take')),
  picture.press('picture.cut', 'Cut to Next', 'Cut', () => command('picture.cut')),
  picture.press(
    'picture.next',
    'Number {number} to Next',
    'Next {number}',
    (_, args) => command('picture.setNextByNumber', { number: numberArg(args, 'number') }),
    { params: NUMBER, lit: (hands, args) => tally(hands, args)?.next ?? false },
  ),
  picture.press(
    'picture.air',
    'Number {number} straight to air',
    'Air {number}',
    (_, args) => command('picture.cutByNumber', { number: numberArg(args, 'number') }),
    { params: NUMBER, lit: (hands, args) => tally(hands, args)?.onAir ?? false },
  ),
  picture.press('picture.dissolve', 'Arm dissolve', 'Dissolve', () => command('picture.arm', { kind: 'dissolve' }), {
    lit: ({ desk }) => desk.show.transition.kind === 'dissolve',
  }),
  picture.press('picture.glide', 'Arm glide', 'Glide', () => command('picture.arm', { kind: 'glide', easing: 'in-out' }), {
    lit: ({ desk }) => desk.show.transition.kind === 'glide',
  }),
  picture.press(
    'transition.favourite',
    'Arm transition {number} of those at hand',
    'Trans {number}',
    (_, args) => command('transition.armFavourite', { place: numberArg(args, 'number') }),
    { params: PLACE },
  ),
  picture.press(
    'picture.black',
    'Fade to black (hold), or back',
    'Black',
    ({ desk }) => (desk.air.black.to === 1 ? command('picture.fadeToBlack', { on: false }) : command('picture.fadeToBlack', { on: true })),
    { lit: ({ desk }) => desk.air.black.to === 1 },
  ),
  {
    id: 'picture.bar',
    room: 'desk',
    group: 'Picture',
    does: 'The bar: the transition by hand',
    short: 'Bar',
    takes: 'level',
    span: 'one',
    move: (_, __, level) => command('picture.moveBar', { position: level }),
    present: ({ desk, frame }) => barPosition(desk.air, frame),
  },
  lanes.press('lane.toggle', 'Lane {lane} in or out', 'Lane {lane}', onLane('lane.toggle'), {
    params: LANE,
    lit: (hands, args) => {
      const state = laneState(hands, args);
      return state !== undefined && laneIsUp(state, hands.frame);
    },
  }),
  lanes.press('lane.arm', 'Lane {lane} with the next take', 'Arm {lane}', onLane('lane.arm'), {
    params: LANE,
    lit: (hands, args) => laneState(hands, args)?.armed ?? false,
  }),
  lanes.press('lane.change', 'Lane {lane}: show what it holds ready', 'Change {lane}', onLane('lane.show'), { params: LANE }),
  room.act('desk.length', 'Length of the transition', 'Length'),
  room.act('desk.words', 'Words of the card on air, or held ready', 'Words'),
  room.act('desk.transitions', 'All transitions', 'Transitions'),
  room.act('desk.shelf', 'Shelf {number}', 'Shelf {number}', { params: [number('number', 'Tab of the shelf', 1, 5)] }),
];
