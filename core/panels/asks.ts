/** What a panel may ask of the host besides its state: small pictures of replay, lines of the log of recordings, what was recorded. */
import { type RoomId } from '../control/rooms';
import { isRecord } from '../schema/record';
import { type LateCandidate } from '../peers/sdp-fragment';
import { maySee, type Pass } from './pass';
import { type WayKind } from './way-in';

export type Ask =
  /** A small picture of what a track has recorded, as a JPEG in base64; null where there is none. Frame of the show, width in pixels. */
  | { what: 'thumbnail'; trackId: string; frame: number; width: number; exact: boolean }
  /** The as-run log, the oldest line first. */
  | { what: 'as-run' }
  /** What was recorded, the newest first; the files stay at the host. */
  | { what: 'recordings' }
  /** The openings of a still, or its areas. */
  | { what: 'windows' | 'areas'; assetId: string }
  /** A file that a graphic uses: name, type and bytes in base64, for drawing it at the panel; null for one that is too large. */
  | { what: 'asset'; assetId: string };

/** Rooms in which one may see what is asked for. */
const SEEN_IN: Readonly<Record<Ask['what'], readonly RoomId[]>> = {
  thumbnail: ['replay', 'desk'],
  'as-run': ['output'],
  recordings: ['output'],
  windows: ['layouts'],
  areas: ['screens'],
  asset: ['graphics', 'desk'],
};

export const mayAsk = (pass: Pick<Pass, 'rooms'>, { what }: Ask): boolean => SEEN_IN[what].some((r) => maySee(pass, r));

const isSide = (n: unknown): n is number => typeof n === 'number' && n >= 1 && n <= 1024;

/** A question out of what somebody has sent; null when it is none. */
export function askFrom(raw: unknown): Ask | null {
  if (!isRecord(raw)) return null;
  const { what } = raw;
  if (what === 'as-run' || what === 'recordings') return { what };
  if (what === 'windows' || what === 'areas' || what === 'asset')
    return typeof raw.assetId === 'string' && raw.assetId.length <= 64 ? { what, assetId: raw.assetId } : null;
  if (what !== 'thumbnail') return null;
  const { trackId, frame, width, exact } = raw;
  if (typeof trackId !== 'string' || trackId.length > 100 || typeof frame !== 'number' || !Number.isFinite(frame)) return null;
  return isSide(width) ? { what, trackId, frame, width: Math.round(width), exact: exact === true } : null;
}

/** What the server asks of the host: a file that a panel has sent waits by this name. `use` says what for: a source, whose
 * settings are answered, or an image, a font or an animation of a graphic, whose identity is. */
export type ServerAsk =
  | { what: 'take-file'; id: string; name: string; type: string; use: string }
  /** An encoder or a viewer has made an offer: its session description is answered with another. */
  | { what: 'peer-offer'; way: Extract<WayKind, 'encoder' | 'viewer'>; id: string; session: string; sdp: string }
  | { what: 'peer-candidates'; session: string; candidates: LateCandidate[] }
  | { what: 'peer-end'; session: string };

/** What the host answers. */
export type AskAnswer = { ok: true; value: unknown } | { ok: false; message: string };
