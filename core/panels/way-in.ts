/** Ways in by a link alone: for guests, the audience, encoders and viewers. The window that runs the show makes their secrets; the server knows hashes. */
import { isRecord } from '../schema/record';

export const WAY_KINDS = ['guest', 'audience', 'encoder', 'viewer'] as const;
/** Who comes in by it: a guest, everybody of the audience, an encoder that sends a source, or a viewer of the programme. */
export type WayKind = (typeof WAY_KINDS)[number];

export const MOST_WAYS = 200;

/** A way as the server knows it: whose, until when, and the SHA-256 of its secret. */
export interface WayIn {
  kind: WayKind;
  /** Of the guest or source that it is for; of the show for the audience, of the output for viewers. */
  id: string;
  name: string;
  until: number | null;
  hash: string;
}

const isShort = (value: unknown, most: number): value is string => typeof value === 'string' && value.length <= most;

/** A way out of what a host has told; null when it is none. */
export function wayFrom(raw: unknown): WayIn | null {
  if (!isRecord(raw)) return null;
  const { id, name, until, hash } = raw;
  const kind = WAY_KINDS.find((k) => k === raw.kind);
  if (!kind || !isShort(id, 64) || !isShort(name, 200) || typeof hash !== 'string' || !/^[0-9a-f]{64}$/.test(hash)) return null;
  return until === null || (typeof until === 'number' && Number.isFinite(until)) ? { kind, id, name, until, hash } : null;
}
