/** What controllers do before anybody has chosen: the panel that ships with the app, game pads of the standard mapping, HID controllers. */
import { type ActionArgs } from './action';
import { type Binding } from './binding';
import { STICK_TRAVEL } from './lever';

type Row = [control: string, action: string, args?: ActionArgs];

/** Controllers count in every room, as a hand on a jog wheel does not follow the eyes. */
const controller = (device: string, rows: readonly Row[]): Binding[] =>
  rows.map(([control, action, args = {}]) => ({ device, control, room: 'all', action, args }));

export const FIRST_CONTROLLERS: readonly Binding[] = [
  ...controller('panel', [
    ['jog', 'replay.jog'],
    ['toggle', 'replay.toggle'],
    ['live', 'replay.live'],
    ['mark-in', 'replay.markIn'],
    ['mark-out', 'replay.markOut'],
    ['make-clip', 'replay.makeClip'],
    ['grab-1', 'replay.grab', { length: 1 }],
    ['grab-2', 'replay.grab', { length: 2 }],
    ['other-deck', 'replay.deck'],
    ['cue', 'replay.cue'],
    ['roll', 'replay.roll'],
    ['to-air', 'replay.toAir'],
    ['look-back', 'replay.lookBack'],
    ['return', 'replay.return'],
    ['speed-50', 'replay.speed', { speed: 50 }],
    ['speed-100', 'replay.speed', { speed: 100 }],
    ['clip-before', 'replay.clipBefore'],
    ['clip-after', 'replay.clipAfter'],
  ]),
  ...controller('gamepad', [
    ['button-0', 'replay.toggle'],
    ['button-1', 'replay.grab', { length: 1 }],
    ['button-2', 'replay.markIn'],
    ['button-3', 'replay.markOut'],
    ['button-4', 'replay.step', { frames: -1 }],
    ['button-5', 'replay.step', { frames: 1 }],
    ['button-6', 'replay.nudgeSpeed', { by: -5 }],
    ['button-7', 'replay.nudgeSpeed', { by: 5 }],
    ['button-8', 'replay.lookBack'],
    ['button-9', 'replay.live'],
    ['button-12', 'replay.clipBefore'],
    ['button-13', 'replay.clipAfter'],
    ['button-14', 'replay.step', { frames: -1 }],
    ['button-15', 'replay.step', { frames: 1 }],
  ]),
  ...controller('hid', [
    ['dial', 'replay.jog'],
    ['wheel', 'replay.jog'],
    ['button-1', 'replay.toggle'],
    ['button-2', 'replay.markIn'],
    ['button-3', 'replay.markOut'],
    ['button-4', 'replay.grab', { length: 1 }],
    ['button-5', 'replay.live'],
    ['button-6', 'replay.toAir'],
  ]),
  ...controller('panel', [['shuttle', 'replay.shuttle']]).map((b) => ({ ...b, travel: STICK_TRAVEL })),
  ...controller('gamepad', [['axis-0', 'replay.shuttle']]).map((b) => ({ ...b, travel: STICK_TRAVEL })),
  ...controller('hid', [['axis-48', 'replay.shuttle']]).map((b) => ({ ...b, travel: STICK_TRAVEL })),
];
