/** Bindings of controllers as they were kept before keys and controllers had one form. Frozen: it knows only what there was then. */
import { type Binding } from './binding';

/** Actions of Replay by their old names. */
const NAMES: Readonly<Record<string, string>> = {
  toggle: 'toggle',
  pause: 'pause',
  back: 'back',
  on: 'on',
  reverse: 'reverse',
  live: 'live',
  oldest: 'oldest',
  'other-deck': 'deck',
  gang: 'gang',
  'go-to': 'goTo',
  'mark-in': 'markIn',
  'mark-out': 'markOut',
  'to-in': 'toIn',
  'to-out': 'toOut',
  'make-clip': 'makeClip',
  'clear-marks': 'clearMarks',
  'in-here': 'inHere',
  'out-here': 'outHere',
  split: 'split',
  duplicate: 'duplicate',
  remove: 'remove',
  copy: 'copy',
  move: 'move',
  'clip-before': 'clipBefore',
  'clip-after': 'clipAfter',
  'add-before': 'addBefore',
  'add-after': 'addAfter',
  all: 'all',
  none: 'none',
  search: 'search',
  'reel-before': 'reelBefore',
  'reel-after': 'reelAfter',
  target: 'target',
  closer: 'closer',
  wider: 'wider',
  follow: 'follow',
  'jog-panel': 'jogPanel',
  cue: 'cue',
  roll: 'roll',
  'roll-reel': 'rollReel',
  'to-air': 'toAir',
  'reel-to-air': 'reelToAir',
  again: 'again',
  next: 'next',
  previous: 'previous',
  'look-back': 'lookBack',
  return: 'return',
  record: 'record',
};

/** Old names that had a number in them: the action now, and its argument. */
const NUMBERED: readonly (readonly [RegExp, string, string])[] = [
  [/^speed-(\d+)$/, 'replay.speed', 'speed'],
  [/^angle-(\d+)$/, 'replay.angle', 'number'],
  [/^grab-(\d+)$/, 'replay.grab', 'length'],
  [/^rate-(\d+)$/, 'replay.rate', 'rating'],
  [/^in(-?\d+)$/, 'replay.nudgeIn', 'frames'],
  [/^out(-?\d+)$/, 'replay.nudgeOut', 'frames'],
];

const STEPS: Readonly<Record<string, [string, Record<string, number>]>> = {
  step: ['replay.step', { frames: 1 }],
  'step-back': ['replay.step', { frames: -1 }],
  'step-10': ['replay.step', { frames: 10 }],
  'step-back-10': ['replay.step', { frames: -10 }],
  slower: ['replay.nudgeSpeed', { by: -5 }],
  faster: ['replay.nudgeSpeed', { by: 5 }],
  'slower-1': ['replay.nudgeSpeed', { by: -1 }],
  'faster-1': ['replay.nudgeSpeed', { by: 1 }],
  up: ['replay.shift', { by: -1 }],
  down: ['replay.shift', { by: 1 }],
  take: ['picture.take', {}],
  undo: ['history.undo', {}],
  redo: ['history.redo', {}],
};

function deed(role: unknown, name: string): [string, Record<string, number>] | null {
  if (role === 'jog') return ['replay.jog', {}];
  if (role === 'shuttle') return ['replay.shuttle', {}];
  if (role === 'speed') return ['replay.speedLever', {}];
  if (Object.hasOwn(STEPS, name)) return STEPS[name] ?? null;
  if (Object.hasOwn(NAMES, name)) return [`replay.${NAMES[name]}`, {}];
  for (const [form, action, arg] of NUMBERED) {
    const match = form.exec(name);
    if (match) return [action, { [arg]: Number(match[1]) }];
  }
  return null;
}

/** Bindings of the form now, of a list of the old one; what cannot be read is left out. */
export function readOldBindings(list: unknown): Binding[] {
  if (!Array.isArray(list)) return [];
  return (list as unknown[]).flatMap((raw): Binding[] => {
    if (typeof raw !== 'object' || raw === null) return [];
    const { device, control, role, action } = raw as Record<string, unknown>;
    if (typeof device !== 'string' || typeof control !== 'string') return [];
    const name = typeof action === 'string' ? action : '';
    const found = role === 'press' && name === '' ? (['', {}] as [string, Record<string, number>]) : deed(role, name);
    return found ? [{ device, control, room: 'all', action: found[0], args: found[1] }] : [];
  });
}
