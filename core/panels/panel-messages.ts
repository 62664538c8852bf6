/**
 * What a panel and the server say to each other on `/api/panel`. A panel enters with the secret of a pass, which never stands in an address;
 * from then on it hears the state as every listener does, and sends commands. Its keys name what it has sent.
 */
import { isRecord } from '../schema/record';
import { type HostOutcome, type ToListener } from './messages';
import { type Ask, type AskAnswer, askFrom } from './asks';
import { type MeterOrder } from './meters';
import { type MosaicLayout, MOST_TILES, type WantedTile } from './mosaic';
import { type Held } from './held';
import { type Pass } from './pass';
import { type CrewMember, type Ears, earsFrom, talkFrom } from './sound-line';

/** Both sides are of one build: what they say changes with it. */
export const PANEL_VERSION = 2;

/** Characters of one message of a panel at most. */
export const PANEL_MESSAGE_LIMIT = 256_000;

export type FromPanel =
  | { kind: 'enter'; version: number; show: string | null; secret: string }
  | { kind: 'command'; key: string; commands: unknown[]; ids: string[]; gesture?: string }
  | { kind: 'snapshot' }
  /** What is looked at; none while the page is hidden. */
  | { kind: 'pictures'; tiles: WantedTile[] }
  /** A picture was lost: one that stands by itself is wanted. */
  | { kind: 'key' }
  /** What is listened to; null for nothing. */
  | { kind: 'listen'; ears: Ears | null }
  /** Whom this person speaks to from now on; null for nobody. What is said is binary: see `sound-line.ts`. */
  | { kind: 'talk'; to: string | null }
  | { kind: 'ask'; key: string; ask: Ask }
  | { kind: 'pong'; at: number };

export type ToPanel =
  /** The pass counts for this show. */
  | { kind: 'entered'; pass: Pass; showId: string; session: string }
  /** No window runs the show now, or none with this pass: the panel stays, and enters when there is one. */
  | { kind: 'waiting' }
  | { kind: 'answer'; key: string; outcome: HostOutcome }
  | { kind: 'told'; key: string; answer: AskAnswer }
  /** To be sent back at once: it measures the delay. */
  | { kind: 'ping'; at: number }
  | { kind: 'mosaic'; layout: MosaicLayout | null }
  | { kind: 'meters'; order: MeterOrder }
  /** The number of what is listened to; null while nothing comes, with why when it was asked for. */
  | { kind: 'ears'; number: number | null; why?: string }
  /** The crew; `you` is the number of this connection. */
  | { kind: 'crew'; list: CrewMember[]; you: number }
  | { kind: 'held'; list: readonly Held[] }
  | ToListener;

/** Why a panel's line was closed, as codes of the closing. */
export const PANEL_CLOSED = { withdrawn: 4003, version: 4010, flood: 4008, slow: 4029, misread: 1003, full: 1013 } as const;

const isKey = (value: unknown): value is string => typeof value === 'string' && /^[\w-]{1,40}$/.test(value);

/** New identities that one message may bring. */
export const MOST_IDS = 500;

/** The identity that a connection gives to the `n`-th new thing. */
export const panelId = (session: string, n: number): string => `${session}-${n}`;

/** The number of an identity that this connection has given; null for any other. */
export function panelIdNumber(session: string, id: string): number | null {
  const n = id.startsWith(`${session}-`) ? Number(id.slice(session.length + 1)) : NaN;
  return Number.isSafeInteger(n) && n >= 0 && panelId(session, n) === id ? n : null;
}

/** Pixels of a side at most. */
const MOST_SIDE = 2048;
const isSide = (value: unknown): value is number => typeof value === 'number' && value >= 1 && value <= MOST_SIDE;

/** Characters of what names a picture at most. */
export const LONGEST_TILE_KEY = 2000;

const tileFrom = (raw: unknown): WantedTile[] =>
  isRecord(raw) && typeof raw.key === 'string' && raw.key.length <= LONGEST_TILE_KEY && isSide(raw.width) && isSide(raw.height)
    ? [{ key: raw.key, width: Math.round(raw.width), height: Math.round(raw.height) }]
    : [];

/** A message of a panel; null when it is none. */
export function panelMessage(raw: unknown): FromPanel | null {
  if (!isRecord(raw)) return null;
  const { kind } = raw;
  if (kind === 'snapshot' || kind === 'key') return { kind };
  if (kind === 'pictures') return Array.isArray(raw.tiles) ? { kind, tiles: raw.tiles.slice(0, MOST_TILES).flatMap(tileFrom) } : null;
  if (kind === 'listen') {
    const ears = raw.ears === null ? null : earsFrom(raw.ears);
    return ears || raw.ears === null ? { kind, ears } : null;
  }
  if (kind === 'talk') {
    const to = talkFrom(raw.to);
    return to === undefined ? null : { kind, to };
  }
  if (kind === 'pong') return typeof raw.at === 'number' && Number.isFinite(raw.at) ? { kind, at: raw.at } : null;
  if (kind === 'enter') {
    const { version, show, secret } = raw;
    if (typeof version !== 'number' || typeof secret !== 'string' || secret.length > 200) return null;
    if (show !== null && (typeof show !== 'string' || show.length > 64)) return null;
    return { kind, version, show, secret };
  }
  if (kind === 'ask') {
    const ask = askFrom(raw.ask);
    return ask && isKey(raw.key) ? { kind, key: raw.key, ask } : null;
  }
  if (kind !== 'command') return null;
  const { key, commands, ids, gesture } = raw;
  if (!isKey(key) || !Array.isArray(commands) || commands.length === 0 || !Array.isArray(ids)) return null;
  if (ids.length > MOST_IDS || !ids.every(isKey)) return null;
  if (gesture !== undefined && !isKey(gesture)) return null;
  return { kind, key, commands: commands as unknown[], ids, ...(gesture !== undefined && { gesture }) };
}
