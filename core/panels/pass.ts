/**
 * Passes: a person's way in to a show from another window, browser or machine. A pass says which rooms one may look into and which one may
 * work. The server holds every command against it; what a room may be worked with is said here, once, for each domain of commands.
 */
import { ROOM_IDS, ROOMS, type RoomId } from '../control/rooms';
import { type Refusal } from '../desk/execute';
import { findCommand } from '../desk/registry';
import { isRecord } from '../schema/record';

/** What one may do in a room. */
export type Right = 'see' | 'work';

export type Rooms = Partial<Record<RoomId, Right>>;

/** A pass as everybody may know it: without its secret. */
export interface Pass {
  id: string;
  /** Of the person. */
  name: string;
  rooms: Rooms;
  /** Wall time until which it counts, milliseconds since 1970; null until it is withdrawn. */
  until: number | null;
}

/** What the server is told of a pass: the SHA-256 of its secret, in hexadecimal, and never the secret. */
export interface PassHash extends Pass {
  hash: string;
}

export const MOST_PASSES = 200;
export const LONGEST_PASS_NAME = 60;

/**
 * The rooms in which each domain of commands is worked; who may work one of them may send it. Undo and redo belong to every room that may be
 * worked at all.
 */
const WORKED_IN: Readonly<Record<string, readonly RoomId[]>> = {
  picture: ['desk'],
  transition: ['desk'],
  source: ['desk'],
  group: ['desk'],
  media: ['desk'],
  lane: ['desk', 'graphics'],
  tableau: ['desk', 'graphics'],
  seat: ['desk', 'layouts', 'guests'],
  guest: ['guests'],
  gathering: ['guests'],
  cast: ['guests', 'desk'],
  audience: ['guests'],
  comment: ['guests'],
  poll: ['guests'],
  layout: ['layouts'],
  preset: ['layouts'],
  box: ['layouts'],
  framing: ['layouts'],
  style: ['layouts'],
  graphic: ['graphics'],
  entry: ['graphics'],
  field: ['graphics'],
  element: ['graphics'],
  finish: ['graphics'],
  clock: ['graphics', 'desk'],
  ticker: ['graphics'],
  sheet: ['graphics'],
  formula: ['graphics'],
  font: ['graphics'],
  deck: ['replay'],
  mark: ['replay'],
  clip: ['replay'],
  reel: ['replay'],
  roll: ['replay', 'desk'],
  replay: ['replay'],
  sound: ['sound'],
  listener: ['sound'],
  talkback: ['sound', 'guests'],
  loudness: ['sound'],
  output: ['output'],
  macro: ['automation'],
  step: ['automation'],
  run: ['automation', 'desk'],
  automation: ['automation'],
  trigger: ['automation'],
  order: ['automation'],
  device: ['automation'],
  message: ['automation'],
  page: ['automation'],
  button: ['automation'],
  screen: ['screens'],
  surface: ['screens'],
  layer: ['screens'],
  show: ['settings'],
  history: ROOM_IDS,
};

/** The rooms in which a command is worked; none for one that nobody may send from elsewhere. */
export function roomsOfCommand(type: string): readonly RoomId[] {
  const domain = type.split('.')[0] ?? '';
  const spec = findCommand(type);
  return spec && !spec.atHost && !spec.fromEngine && Object.hasOwn(WORKED_IN, domain) ? (WORKED_IN[domain] ?? []) : [];
}

/** True when the pass counts at a wall time, milliseconds since 1970. */
export const isValid = ({ until }: Pick<Pass, 'until'>, now: number): boolean => until === null || now < until;

export const mayWork = ({ rooms }: Pick<Pass, 'rooms'>, room: RoomId): boolean => rooms[room] === 'work';
export const maySee = ({ rooms }: Pick<Pass, 'rooms'>, room: RoomId): boolean => rooms[room] !== undefined;

/** The rooms of a pass in words: "Replay; Desk to look at". */
export function passWords({ rooms }: Pick<Pass, 'rooms'>): string {
  const named = (right: Right) => ROOM_IDS.filter((r) => rooms[r] === right).map((r) => ROOMS[r].name);
  const [work, see] = [named('work'), named('see')];
  const looks = see.length > 0 ? `${see.join(', ')} to look at` : '';
  return [work.join(', '), looks].filter((w) => w !== '').join('; ') || 'no room';
}

/** Why commands may not be sent with a pass; null when they may. One that is not allowed keeps all of them back. */
export function refusedBy(pass: Pass, commands: readonly unknown[]): Refusal | null {
  for (const [index, command] of commands.entries()) {
    const type = isRecord(command) && typeof command.type === 'string' ? command.type : '';
    const spec = findCommand(type);
    // What there is not, the host refuses in its own words.
    if (!spec) continue;
    const rooms = roomsOfCommand(type);
    const place = commands.length > 1 ? { index } : {};
    if (rooms.length === 0)
      return { code: 'only-here', message: `“${spec.title}” is done at the window that runs the show, by hand.`, ...place };
    // Another's step may be of any room.
    const others = rooms === ROOM_IDS && isRecord(command) && isRecord(command.args) && command.args.anyway === true;
    if (others ? rooms.every((r) => mayWork(pass, r)) : rooms.some((r) => mayWork(pass, r))) continue;
    const where = others ? 'every room' : rooms === ROOM_IDS ? 'a room to work in' : rooms.map((r) => ROOMS[r].name).join(' or ');
    return {
      code: 'no-right',
      message: `“${spec.title}” needs a pass for ${where}; this one is for ${passWords(pass)}. Whoever runs the show can give it.`,
      ...place,
    };
  }
  return null;
}

/** The rooms of a pass out of what somebody has sent; null when it is none. */
export function roomsFrom(raw: unknown): Rooms | null {
  if (!isRecord(raw)) return null;
  const rooms: Rooms = {};
  for (const room of ROOM_IDS) {
    if (!Object.hasOwn(raw, room)) continue;
    const right = raw[room];
    if (right !== 'see' && right !== 'work') return null;
    rooms[room] = right;
  }
  return Object.keys(rooms).length === Object.keys(raw).length ? rooms : null;
}

/** A pass out of what a host has told; null when it is none. */
export function passFrom(raw: unknown): PassHash | null {
  if (!isRecord(raw)) return null;
  const { id, name, until, hash } = raw;
  const rooms = roomsFrom(raw.rooms);
  if (typeof id !== 'string' || !/^[\w-]{1,64}$/.test(id) || typeof name !== 'string' || !rooms) return null;
  if (typeof hash !== 'string' || !/^[0-9a-f]{64}$/.test(hash)) return null;
  if (until !== null && (typeof until !== 'number' || !Number.isFinite(until))) return null;
  return { id, name: name.slice(0, LONGEST_PASS_NAME), rooms, until, hash };
}
