/**
 * The bytes of a replay segment, little-endian: `BVS1`, length of the head (u32), show, track and configuration as JSON; then
 * packets: length of the data (u32), kind (u8: 1 key, 0 other), stamp (f64, show microseconds), duration (u32,
 * microseconds), data. Written as it comes, so that a file that is cut off reads up to its last whole packet.
 */

/** What a decoder needs. `description` is base64. */
export type TrackConfig =
  | { kind: 'picture'; codec: string; width: number; height: number; description: string }
  | { kind: 'sound'; codec: string; sampleRate: number; channels: number; description: string };

export interface Packet {
  key: boolean;
  /** Show microseconds. */
  stamp: number;
  /** Microseconds. */
  duration: number;
  data: Uint8Array<ArrayBuffer>;
}

/** Where a group of pictures begins in its file. */
export interface Group {
  stamp: number;
  offset: number;
}

/** Whose a file is: found again by it when the index is lost. */
export interface Owner {
  showId: string;
  trackId: string;
}

/** What a scan of a file finds. */
export interface Scanned {
  owner: Owner;
  config: TrackConfig;
  from: number;
  to: number;
  frames: number;
  /** Bytes that hold whole packets. */
  bytes: number;
  groups: Group[];
}

const MAGIC = 0x31535642;
const HEAD = 8;
export const PACKET_HEAD = 17;

/** The start of a file. */
export function headerBytes(config: TrackConfig, owner: Owner): Uint8Array<ArrayBuffer> {
  const json = new TextEncoder().encode(JSON.stringify({ ...owner, config }));
  const bytes = new Uint8Array(HEAD + json.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, MAGIC, true);
  view.setUint32(4, json.length, true);
  bytes.set(json, HEAD);
  return bytes;
}

export function packetBytes({ key, stamp, duration, data }: Packet): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(PACKET_HEAD + data.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, data.length, true);
  view.setUint8(4, key ? 1 : 0);
  view.setFloat64(5, stamp, true);
  view.setUint32(13, Math.round(duration), true);
  bytes.set(data, PACKET_HEAD);
  return bytes;
}

/** Whole packets in `bytes`; a last one that is cut off is left out. */
export function readPackets(bytes: Uint8Array<ArrayBuffer>): Packet[] {
  const packets: Packet[] = [];
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let at = 0; at + PACKET_HEAD <= bytes.length;) {
    const length = view.getUint32(at, true);
    if (at + PACKET_HEAD + length > bytes.length) break;
    const data = bytes.subarray(at + PACKET_HEAD, at + PACKET_HEAD + length);
    packets.push({ key: view.getUint8(at + 4) === 1, stamp: view.getFloat64(at + 5, true), duration: view.getUint32(at + 13, true), data });
    at += PACKET_HEAD + length;
  }
  return packets;
}

/** Reads what a file holds, as after a crash; null when not even its first packet is whole. */
export function scanSegment(bytes: Uint8Array<ArrayBuffer>, groupMicros: number): Scanned | null {
  if (bytes.length < HEAD) return null;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(4, true);
  if (view.getUint32(0, true) !== MAGIC || HEAD + length > bytes.length) return null;
  let config: TrackConfig;
  let owner: Owner;
  try {
    ({ config, ...owner } = JSON.parse(new TextDecoder().decode(bytes.subarray(HEAD, HEAD + length))) as Owner & { config: TrackConfig });
  } catch {
    return null;
  }
  const groups: Group[] = [];
  let at = HEAD + length;
  let [from, to, frames] = [NaN, NaN, 0];
  for (const packet of readPackets(bytes.subarray(at))) {
    const last = groups.at(-1);
    if (packet.key && (!last || config.kind === 'picture' || packet.stamp - last.stamp >= groupMicros))
      groups.push({ stamp: packet.stamp, offset: at });
    if (Number.isNaN(from)) from = packet.stamp;
    to = packet.stamp + packet.duration;
    if (config.kind === 'picture') frames += 1;
    at += PACKET_HEAD + packet.data.length;
  }
  return groups.length === 0 ? null : { owner, config, from, to, frames, bytes: at, groups };
}

export const toBase64 = (data: AllowSharedBufferSource | undefined): string => {
  if (!data) return '';
  const bytes = ArrayBuffer.isView(data) ? new Uint8Array(data.buffer, data.byteOffset, data.byteLength) : new Uint8Array(data);
  return btoa(String.fromCharCode(...bytes));
};

export const fromBase64 = (text: string): Uint8Array<ArrayBuffer> | undefined =>
  text === '' ? undefined : Uint8Array.from(atob(text), (c) => c.charCodeAt(0));

/** The configuration that is known when the new one says the same: then a comparison of references is enough. */
export const sameOr = (known: TrackConfig | null, made: TrackConfig): TrackConfig =>
  known && JSON.stringify(known) === JSON.stringify(made) ? known : made;
