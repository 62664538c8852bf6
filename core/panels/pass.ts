/**
 * Passes: a person's way in to a show from another window, browser or machine. A pass says which rooms one may look into and which one may
 * work; `rights.ts` says what that allows.
 */
import { ROOM_IDS, ROOMS, type RoomId } from '../control/rooms';
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
