/** A person's hands: layouts of keys, and what stands at hand. Kept in the browser, exported and imported as JSON (docs/formats.md). */
import { argsProblem, type ActionArgs } from './action';
import { findAction } from './actions';
import { type Binding, KEYBOARD } from './binding';
import { FIRST_LAYOUT, KEY_ROOMS, type KeyLayout } from './key-layout';
import { chordProblem } from './chord';
import { type Travel } from './lever';
import { isRoom, type KeyRoom, ROOM_IDS, type RoomId } from './rooms';

export interface HandsFile {
  format: 'bivoca-hands';
  version: 1;
  /** Layout of keys in use. */
  layoutId: string;
  layouts: readonly KeyLayout[];
  /** Rooms that stand in the bar by name. */
  rooms: readonly RoomId[];
  /** Transitions that stand on the rail: so many of the list. */
  transitionsAtHand: number;
  /** Speeds that stand beside the decks, per cent. */
  speeds: readonly number[];
}

export const MOST_LAYOUTS = 30;
const MOST_BINDINGS = 2000;
export const MOST_AT_HAND = 6;
const MOST_SPEEDS = 6;
/** Characters of a file that is read at all. */
const LONGEST = 2_000_000;

/** Hands of somebody who has chosen nothing. */
export const FIRST_HANDS: HandsFile = {
  format: 'bivoca-hands',
  version: 1,
  layoutId: FIRST_LAYOUT.id,
  layouts: [FIRST_LAYOUT],
  rooms: ROOM_IDS,
  transitionsAtHand: 2,
  speeds: [25, 50, 100],
};

/** A file that is no hands, with the place at fault. */
export class HandsError extends Error {}

type Raw = Record<string, unknown>;

function object(value: unknown, place: string): Raw {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw new HandsError(`${place} is not what it should be: an object.`);
  return value as Raw;
}

function list(value: unknown, place: string, most: number): unknown[] {
  if (!Array.isArray(value)) throw new HandsError(`${place} is not what it should be: a list.`);
  if (value.length > most) throw new HandsError(`${place} has ${value.length} entries; there can be ${most}.`);
  return value as unknown[];
}

function text(value: unknown, place: string, longest: number): string {
  if (typeof value !== 'string' || value.trim() === '' || value.length > longest)
    throw new HandsError(`${place} must be a text of 1 to ${longest} characters.`);
  return value;
}

function number(value: unknown, place: string, min: number, max: number): number {
  if (typeof value !== 'number' || !(value >= min && value <= max))
    throw new HandsError(`${place} must be a number from ${min} to ${max}.`);
  return value;
}

const DEVICES = [KEYBOARD, 'midi', 'gamepad', 'hid', 'panel'];

function readTravel(value: unknown, place: string): Travel {
  const raw = object(value, place);
  return {
    deadZone: number(raw.deadZone, `${place}.deadZone`, 0, 0.5),
    curve: number(raw.curve, `${place}.curve`, 1, 4),
    turned: raw.turned === true,
  };
}

function readArgs(value: unknown, place: string): ActionArgs {
  const entries = Object.entries(value === undefined ? {} : object(value, place));
  if (entries.some(([, v]) => typeof v !== 'string' && typeof v !== 'number'))
    throw new HandsError(`${place} may hold numbers and words only.`);
  return Object.fromEntries(entries) as ActionArgs;
}

function readBinding(value: unknown, place: string): Binding {
  const raw = object(value, place);
  const device = text(raw.device, `${place}.device`, 40);
  if (!DEVICES.includes(device)) throw new HandsError(`${place}.device is none that there is: ${DEVICES.join(', ')}.`);
  const control = text(raw.control, `${place}.control`, 60);
  const room = text(raw.room, `${place}.room`, 40);
  if (!(KEY_ROOMS as readonly string[]).includes(room)) throw new HandsError(`${place}.room names no room: ${KEY_ROOMS.join(', ')}.`);
  const chord = device === KEYBOARD ? chordProblem(control) : null;
  if (chord) throw new HandsError(`${place}.control: ${chord}`);
  const action = typeof raw.action === 'string' ? raw.action : '';
  const args = readArgs(raw.args, `${place}.args`);
  const found = findAction(action);
  if (action !== '' && !found) throw new HandsError(`${place}.action: nothing is called "${action.slice(0, 60)}".`);
  const problem = found && argsProblem(found, args);
  if (problem) throw new HandsError(`${place}.args: ${problem}.`);
  if (found && device === KEYBOARD && found.takes !== 'press')
    throw new HandsError(`${place}: ${action} wants a wheel or a lever, not a key.`);
  return {
    device,
    control,
    room: room as KeyRoom,
    action,
    args,
    ...(raw.travel === undefined ? {} : { travel: readTravel(raw.travel, `${place}.travel`) }),
    ...(raw.pickUp === true ? { pickUp: true } : {}),
  };
}

function readLayout(value: unknown, place: string): KeyLayout {
  const raw = object(value, place);
  return {
    id: text(raw.id, `${place}.id`, 40),
    name: text(raw.name, `${place}.name`, 60),
    changes: list(raw.changes, `${place}.changes`, MOST_BINDINGS).map((b, i) => readBinding(b, `${place}.changes[${i}]`)),
  };
}

/**
 * Reads what was written by `writeHands`.
 * @throws HandsError that names the place, the cause and what it should be.
 */
export function readHands(json: string): HandsFile {
  if (json.length > LONGEST) throw new HandsError('This file is far too large for layouts of keys.');
  let parsed: unknown;
  try {
    parsed = JSON.parse(json);
  } catch {
    throw new HandsError('This is not JSON. Choose a file that was exported here.');
  }
  const raw = object(parsed, 'The file');
  if (raw.format !== 'bivoca-hands') throw new HandsError('This file holds no layouts of keys: its format mark is missing.');
  if (raw.version !== 1) throw new HandsError('This file is from a newer Bivoca. Update Bivoca to read it.');
  const layouts = list(raw.layouts, 'layouts', MOST_LAYOUTS).map((l, i) => readLayout(l, `layouts[${i}]`));
  if (new Set(layouts.map((l) => l.id)).size < layouts.length) throw new HandsError('layouts: two have the same identity.');
  if (!layouts.some((l) => l.id === FIRST_LAYOUT.id)) layouts.unshift(FIRST_LAYOUT);
  const layoutId = text(raw.layoutId, 'layoutId', 40);
  if (!layouts.some((l) => l.id === layoutId)) throw new HandsError('layoutId names no layout of the file.');
  const rooms = list(raw.rooms ?? ROOM_IDS, 'rooms', 40)
    .map(String)
    .filter(isRoom);
  return {
    format: 'bivoca-hands',
    version: 1,
    layoutId,
    layouts,
    rooms: [...new Set(rooms)],
    transitionsAtHand: Math.round(number(raw.transitionsAtHand ?? FIRST_HANDS.transitionsAtHand, 'transitionsAtHand', 0, MOST_AT_HAND)),
    speeds: list(raw.speeds ?? FIRST_HANDS.speeds, 'speeds', MOST_SPEEDS).map((s, i) => Math.round(number(s, `speeds[${i}]`, 1, 200))),
  };
}

/** The file as it is exported. */
export const writeHands = (hands: HandsFile): string => JSON.stringify(hands, null, 2);

/** The layout of keys in use. */
export const layoutInUse = ({ layouts, layoutId }: HandsFile): KeyLayout => layouts.find((l) => l.id === layoutId) ?? FIRST_LAYOUT;

/** `hands` with the layout in use changed; the first one stays as it comes, so a copy of it is made. */
export function changeLayout(hands: HandsFile, change: (layout: KeyLayout) => KeyLayout, newId: string): HandsFile {
  const now = layoutInUse(hands);
  if (now.id !== FIRST_LAYOUT.id) {
    return { ...hands, layouts: hands.layouts.map((l) => (l.id === now.id ? change(l) : l)) };
  }
  const own = change({ ...now, id: newId, name: nameFor(hands) });
  return { ...hands, layoutId: newId, layouts: [...hands.layouts, own] };
}

/** "My keys", with a number where that is taken. */
export function nameFor({ layouts }: HandsFile, wish = 'My keys'): string {
  const taken = new Set(layouts.map((l) => l.name));
  let name = wish;
  for (let n = 2; taken.has(name); n += 1) name = `${wish} ${n}`;
  return name;
}
