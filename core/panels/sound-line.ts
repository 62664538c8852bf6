/**
 * Sound on its way to and from panels: what somebody listens to, who speaks to whom, and how a packet of Opus is marked. Every packet is 20 ms.
 * Pure.
 */
import { isRecord } from '../schema/record';
import { PROGRAMME_BUS, type Tap, TAPS } from '../sound/document';
import { maySee, type Pass } from './pass';
import { BINARY } from './mosaic';

/** What one person hears: a bus, or channels and buses alone. */
export interface Ears {
  busId: string;
  solos: readonly { id: string; tap: Tap }[];
}

/** Different things that panels may listen to at once: each is worked out and encoded once, however many hear it. */
export const MOST_EARS = 12;
/** Channels and buses that one person hears alone at once. */
const MOST_SOLOS = 32;
const isId = (value: unknown): value is string => typeof value === 'string' && value.length > 0 && value.length <= 64;

/** What somebody wants to hear, out of what was sent; null when it is none. */
export function earsFrom(raw: unknown): Ears | null {
  if (!isRecord(raw) || !isId(raw.busId) || !Array.isArray(raw.solos) || raw.solos.length > MOST_SOLOS) return null;
  const solos = raw.solos.flatMap((solo: unknown) => {
    const tap = isRecord(solo) ? TAPS.find((t) => t === solo.tap) : undefined;
    return isRecord(solo) && isId(solo.id) && tap ? [{ id: solo.id, tap }] : [];
  });
  return solos.length === raw.solos.length ? { busId: raw.busId, solos } : null;
}

/** The same for all who hear the same. */
export const earsKey = ({ busId, solos }: Ears): string =>
  solos.length > 0 ? JSON.stringify(solos.map(({ id, tap }) => `${id} ${tap}`).sort()) : JSON.stringify(busId);

/** The programme is heard by everybody who works the show; what else there is, by those who may look into Sound. */
export const mayHear = (pass: Pick<Pass, 'rooms'>, { busId, solos }: Ears): boolean =>
  (solos.length === 0 && busId === PROGRAMME_BUS) || maySee(pass, 'sound');

/** Who sits at the window that runs the show, among the crew. */
export const HOST_CREW = { id: 'host', number: 0 } as const;
/** Whom one speaks to: everybody of the crew, or one of them by identity. */
export const TO_ALL = 'all';

/** Somebody of the crew, by connection: who has come in twice is there twice, under one identity. */
export interface CrewMember {
  /** Marks what this connection says. */
  number: number;
  /** Of the pass; `host` for the window that runs the show. */
  id: string;
  name: string;
  /** Whom they speak to now; null while they do not. */
  to: string | null;
}

/** True when what `speaker` says is for this member: never for themself, on any of their own screens. */
export const isFor = (member: Pick<CrewMember, 'id' | 'number'>, speaker: CrewMember): boolean =>
  speaker.to !== null && member.id !== speaker.id && (speaker.to === TO_ALL || speaker.to === member.id);

/** Whom somebody wants to speak to; null for nobody, undefined for what is none. */
export function talkFrom(raw: unknown): string | null | undefined {
  return raw === null || (typeof raw === 'string' && /^[\w-]{1,64}$/.test(raw)) ? raw : undefined;
}

/** Bytes before a packet: kind, none, number (16 bits, little endian). */
const HEAD = 4;
/** Bytes of a packet with its head at most: 20 ms of Opus never need more. */
export const PACKET_LIMIT = 1600;

export function packSound(kind: 'sound' | 'talk', number: number, data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(HEAD + data.length);
  bytes[0] = BINARY[kind];
  new DataView(bytes.buffer).setUint16(2, number, true);
  bytes.set(data, HEAD);
  return bytes;
}

/** The packet that a binary message holds; null when it is none of this kind. */
export function unpackSound(kind: 'sound' | 'talk', bytes: Uint8Array): { number: number; data: Uint8Array } | null {
  if (bytes.length <= HEAD || bytes.length > PACKET_LIMIT || bytes[0] !== BINARY[kind]) return null;
  return { number: new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength).getUint16(2, true), data: bytes.subarray(HEAD) };
}
