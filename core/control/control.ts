/** Hands-on controls: what devices say, and what it means. Pure; devices are drivers of the engine. */

export type ControlEvent =
  | { kind: 'button'; id: string; pressed: boolean }
  /** Clicks of an endless wheel since the last event, forwards positive. */
  | { kind: 'wheel'; id: string; clicks: number }
  /** A wheel is touched or let go. */
  | { kind: 'touch'; id: string; held: boolean }
  /** A lever or stick, −1 to 1. */
  | { kind: 'lever'; id: string; value: number }
  /** A MIDI controller, 0 to 127: wheel or lever, as its binding says. */
  | { kind: 'value'; id: string; value: number };

/** What a control does: presses an action, or is the jog, the shuttle or the speed of the chosen deck. */
export const CONTROL_ROLES = ['press', 'jog', 'shuttle', 'speed'] as const;
export type ControlRole = (typeof CONTROL_ROLES)[number];

export interface ControlBinding {
  /** Identity of the driver: `midi`, `gamepad`, `hid`, `panel`. */
  device: string;
  control: string;
  role: ControlRole;
  /** Action for `press`. */
  action: string;
}

export type ControlMeaning = { kind: 'action'; id: string } | { kind: 'command'; type: string; args: Record<string, unknown> };

/** Shuttle speeds from a lever's rest to its end. */
const DETENTS = [0, 0.25, 0.5, 1, 2, 4, 8, 16];
/** A lever this near to its middle is at rest. */
const DEAD_ZONE = 0.06;

/** Rate of the shuttle at a lever's place, −1 to 1. */
export function shuttleRate(value: number): number {
  const way = Math.min(1, Math.abs(value));
  if (way < DEAD_ZONE) return 0;
  const step = Math.max(1, Math.min(DETENTS.length - 1, Math.ceil(((way - DEAD_ZONE) / (1 - DEAD_ZONE)) * (DETENTS.length - 1))));
  return Math.sign(value) * (DETENTS[step] as number);
}

/** Clicks of a relative MIDI controller: two's complement of seven bits, as endless encoders send. */
export const relativeClicks = (value: number): number => (value < 64 ? value : value - 128);

const asLever = (event: ControlEvent): number | null => {
  if (event.kind === 'lever') return event.value;
  return event.kind === 'value' ? (event.value - 64) / 63 : null;
};

/** What an event means under a binding, for a deck; null when it means nothing, such as the release of a button. */
export function meaningOf(binding: ControlBinding, event: ControlEvent, deck: 1 | 2): ControlMeaning | null {
  const command = (type: string, args: Record<string, unknown>): ControlMeaning => ({ kind: 'command', type, args: { deck, ...args } });
  switch (binding.role) {
    case 'press':
      return event.kind === 'button' && event.pressed ? { kind: 'action', id: binding.action } : null;
    case 'jog': {
      if (event.kind === 'touch') return event.held ? command('deck.step', { frames: 0 }) : null;
      const clicks = event.kind === 'wheel' ? event.clicks : event.kind === 'value' ? relativeClicks(event.value) : 0;
      return clicks === 0 ? null : command('deck.step', { frames: clicks });
    }
    case 'shuttle': {
      const lever = asLever(event);
      return lever === null ? null : command('deck.shuttle', { rate: shuttleRate(lever) });
    }
    case 'speed': {
      const lever = asLever(event);
      return lever === null
        ? null
        : command('deck.setSpeed', { speed: Math.max(1, Math.round(((Math.min(1, Math.max(-1, lever)) + 1) / 2) * 200)) });
    }
  }
}

/** Gathers clicks that come faster than pictures, so that none is lost and none is sent twice. */
export function gather(events: readonly ControlEvent[]): ControlEvent[] {
  const out: ControlEvent[] = [];
  for (const event of events) {
    const last = out.at(-1);
    if (event.kind === 'wheel' && last?.kind === 'wheel' && last.id === event.id)
      out[out.length - 1] = { ...last, clicks: last.clicks + event.clicks };
    else if (event.kind === 'lever' && last?.kind === 'lever' && last.id === event.id) out[out.length - 1] = event;
    else out.push(event);
  }
  return out;
}

const press = (device: string, control: string, action: string): ControlBinding => ({ device, control, role: 'press', action });

/** What is bound before anybody has chosen: the panel that ships with the app, and game pads of the standard mapping. */
export const FIRST_BINDINGS: readonly ControlBinding[] = [
  { device: 'panel', control: 'jog', role: 'jog', action: '' },
  { device: 'panel', control: 'shuttle', role: 'shuttle', action: '' },
  ...[
    'toggle',
    'live',
    'mark-in',
    'mark-out',
    'make-clip',
    'grab-1',
    'grab-2',
    'other-deck',
    'cue',
    'roll',
    'to-air',
    'look-back',
    'return',
    'speed-50',
    'speed-100',
    'clip-before',
    'clip-after',
  ].map((id) => press('panel', id, id)),
  { device: 'gamepad', control: 'axis-0', role: 'shuttle', action: '' },
  ...Object.entries({
    0: 'toggle',
    1: 'grab-1',
    2: 'mark-in',
    3: 'mark-out',
    4: 'step-back',
    5: 'step',
    6: 'slower',
    7: 'faster',
    8: 'look-back',
    9: 'live',
    12: 'clip-before',
    13: 'clip-after',
    14: 'step-back',
    15: 'step',
  }).map(([n, action]) => press('gamepad', `button-${n}`, action)),
  { device: 'hid', control: 'dial', role: 'jog', action: '' },
  { device: 'hid', control: 'wheel', role: 'jog', action: '' },
  { device: 'hid', control: 'axis-48', role: 'shuttle', action: '' },
  ...[
    ['1', 'toggle'],
    ['2', 'mark-in'],
    ['3', 'mark-out'],
    ['4', 'grab-1'],
    ['5', 'live'],
    ['6', 'to-air'],
  ].map(([n, action]) => press('hid', `button-${n}`, action as string)),
];
