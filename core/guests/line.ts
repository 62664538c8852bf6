/**
 * What a guest's page, the server and the window that runs the show say to each other on `/api/guest`. A guest enters with the secret of their
 * link, which never stands in an address that a server sees; the server hands on what each says to the other, and knows nothing of what it means.
 */
import { plainWords } from '../schema/plain-words';
import { type IceServer } from '../peers/ice-servers';
import { isRecord } from '../schema/record';
import { LONGEST_GUEST_NAME } from './document';

/** Both sides are of one build. */
export const GUEST_VERSION = 1;
/** Characters of one message of a guest at most: a description of a connection has a few thousand. */
export const GUEST_MESSAGE_LIMIT = 120_000;
const LONGEST_SDP = 100_000;
const LONGEST_CANDIDATE = 2000;
export const LONGEST_WORD = 500;

/** A step of making the connection (RFC 8829): a description, or a candidate; null says that there are no more. */
export type Signal =
  | { description: { type: 'offer' | 'answer' | 'pranswer' | 'rollback'; sdp: string } }
  | { candidate: { candidate: string; sdpMid: string | null; sdpMLineIndex: number | null } | null };

/** What a guest has too little of, so that the browser sends a smaller picture or fewer of them; empty when nothing. */
export const SHORT_OF = ['', 'line', 'machine'] as const;
export type ShortOf = (typeof SHORT_OF)[number];

/** What a guest's page says of the guest. Only what has changed is in it. */
export interface About {
  said?: string;
  hand?: boolean;
  hears?: 'loudspeaker' | 'headphones' | 'unknown';
  trouble?: string;
  agreedAt?: number;
  shortOf?: ShortOf;
  /** Identities of the streams that the camera and the shared screen come by; null for none. */
  camera?: string | null;
  screen?: string | null;
  /** They have pressed Leave: they are not expected back. */
  leaves?: true;
}

export type GuestSays =
  | { kind: 'signal'; signal: Signal }
  | ({ kind: 'about' } & About) /** Words to the crew, or a comment for the show. */
  | { kind: 'word'; text: string; comment: boolean };

/** What a guest sees of where they stand. */
export type Sign = 'green-room' | 'ready' | 'next' | 'air';

/** An item of the running order, with the time of day at which it is expected to begin; empty while that is not known. */
export interface OrderLine {
  name: string;
  at: string;
  on: boolean;
}

export interface Standing {
  sign: Sign;
  /** Name as the crew shows it. */
  name: string;
  note: string;
  /** What their clock shows, and its name; null for none. */
  clock: { name: string; text: string } | null;
  /** The running order as far as it is shown to them: what is on first; null when they do not see it. */
  order: OrderLine[] | null;
  recorded: boolean;
  streamed: boolean;
  /** What is wanted of their picture, pixels and frames a second. */
  height: number;
  frameRate: number;
  /** Somebody of the crew speaks to them now. */
  spokenTo: boolean;
}

/** Servers come first: a guest calls when they are there. */
export type HostSays = { kind: 'servers'; servers: IceServer[] } | { kind: 'signal'; signal: Signal } | ({ kind: 'standing' } & Standing);

export type FromGuest =
  /** `device` is of this browser: who comes back with the same takes their place again. */
  | { kind: 'enter'; version: number; show: string; secret: string; device: string }
  | { kind: 'says'; message: GuestSays }
  | { kind: 'pong' };

export type ToGuest =
  | { kind: 'entered'; name: string; show: string; session: string }
  /** No window runs the show now: the guest stays, and enters when one does. */
  | { kind: 'waiting' }
  | { kind: 'says'; message: HostSays }
  | { kind: 'ping' };

/** Why a guest's line was closed, as codes of the closing. */
export const GUEST_CLOSED = {
  withdrawn: 4003,
  flood: 4008,
  taken: 4009,
  version: 4010,
  out: 4011,
  slow: 4029,
  misread: 1003,
  full: 1013,
} as const;

const isShort = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;
const TYPES = ['offer', 'answer', 'pranswer', 'rollback'] as const;

/** A step out of what somebody has sent; null when it is none. */
export function signalFrom(raw: unknown): Signal | null {
  if (!isRecord(raw)) return null;
  const { description, candidate } = raw;
  if (isRecord(description)) {
    const type = TYPES.find((t) => t === description.type);
    return type && isShort(description.sdp, LONGEST_SDP) ? { description: { type, sdp: description.sdp } } : null;
  }
  if (candidate === null) return { candidate };
  if (!isRecord(candidate) || !isShort(candidate.candidate, LONGEST_CANDIDATE)) return null;
  const { sdpMid = null, sdpMLineIndex = null } = candidate;
  if (sdpMid !== null && !isShort(sdpMid, 64)) return null;
  if (sdpMLineIndex !== null && (!Number.isInteger(sdpMLineIndex) || Math.abs(sdpMLineIndex as number) > 1000)) return null;
  return { candidate: { candidate: candidate.candidate, sdpMid, sdpMLineIndex: sdpMLineIndex as number | null } };
}

const HEARS = ['loudspeaker', 'headphones', 'unknown'] as const;

function aboutFrom(raw: Record<string, unknown>): About | null {
  const about: About = {};
  const { said, hand, hears, trouble, agreedAt, shortOf, leaves } = raw;
  if (typeof said === 'string') about.said = plainWords(said.slice(0, 2000), LONGEST_GUEST_NAME);
  if (typeof hand === 'boolean') about.hand = hand;
  const known = HEARS.find((h) => h === hears);
  if (known) about.hears = known;
  const lack = SHORT_OF.find((s) => s === shortOf);
  if (lack !== undefined) about.shortOf = lack;
  if (typeof trouble === 'string') about.trouble = plainWords(trouble.slice(0, 2000), 300);
  if (typeof agreedAt === 'number' && agreedAt > 0 && agreedAt < 1e14) about.agreedAt = agreedAt;
  for (const part of ['camera', 'screen'] as const) if (raw[part] === null || isShort(raw[part], 100)) about[part] = raw[part];
  if (leaves === true) about.leaves = true;
  return Object.keys(about).length > 0 ? about : null;
}

/** What a guest says to the host, out of what has come; null when it is nothing. */
export function guestSays(raw: unknown): GuestSays | null {
  if (!isRecord(raw)) return null;
  if (raw.kind === 'signal') {
    const signal = signalFrom(raw.signal);
    return signal && { kind: 'signal', signal };
  }
  if (raw.kind === 'about') {
    const about = aboutFrom(raw);
    return about && { kind: 'about', ...about };
  }
  if (raw.kind === 'word' && typeof raw.text === 'string') {
    const text = plainWords(raw.text.slice(0, 10_000), LONGEST_WORD);
    return text === '' ? null : { kind: 'word', text, comment: raw.comment === true };
  }
  return null;
}

/** A message of a guest's page; null when it is none. */
export function guestMessage(raw: unknown): FromGuest | null {
  if (!isRecord(raw)) return null;
  const { kind } = raw;
  if (kind === 'pong') return { kind };
  if (kind === 'says') {
    const message = guestSays(raw.message);
    return message && { kind, message };
  }
  if (kind !== 'enter') return null;
  const { version, show, secret, device } = raw;
  if (typeof version !== 'number' || !isShort(show, 64) || !isShort(secret, 200) || !isShort(device, 64)) return null;
  return { kind, version, show, secret, device };
}
