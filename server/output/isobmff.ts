/** Just enough of ISO/IEC 14496-12 to know what a CMAF segment holds and when. */

interface Box {
  type: string;
  body: DataView;
}

/** Boxes that one box may hold; a segment of ours has three at most. */
const BOX_LIMIT = 100;
/** Samples that one segment may hold: a minute of 240 frames a second, or of short sound packets. */
const SAMPLE_LIMIT = 30_000;

/** The boxes directly inside `view`. @throws RangeError when a box claims more than there is, or when there are far too many. */
function boxes(view: DataView): Box[] {
  const found: Box[] = [];
  for (let at = 0; at + 8 <= view.byteLength;) {
    if (found.length >= BOX_LIMIT) throw new RangeError('This holds more boxes than a segment has.');
    let size = view.getUint32(at);
    let head = 8;
    if (size === 1) {
      size = Number(view.getBigUint64(at + 8));
      head = 16;
    } else if (size === 0) size = view.byteLength - at;
    if (size < head || at + size > view.byteLength) throw new RangeError('A box is cut off.');
    const type = String.fromCharCode(...[4, 5, 6, 7].map((i) => view.getUint8(at + i)));
    found.push({ type, body: new DataView(view.buffer, view.byteOffset + at + head, size - head) });
    at += size;
  }
  return found;
}

function find(view: DataView, ...path: string[]): DataView | null {
  let here: DataView | undefined = view;
  for (const type of path) {
    here = here && boxes(here).find((b) => b.type === type)?.body;
    if (!here) return null;
  }
  return here ?? null;
}

const viewOf = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);

export interface InitInfo {
  timescale: number;
  /** RFC 6381, as playlists name it. */
  codec: string;
  width: number;
  height: number;
}

/** Sound by its sample entry, as playlists name it. Nothing else ever reaches a playlist. */
const SOUND_CODECS = new Map([['Opus', 'opus']]);

/** What an init segment declares. @throws Error when it is none. */
export function readInit(bytes: Uint8Array): InitInfo {
  const track = find(viewOf(bytes), 'moov', 'trak');
  const mdhd = track && find(track, 'mdia', 'mdhd');
  const stsd = track && find(track, 'mdia', 'minf', 'stbl', 'stsd');
  if (!track || !mdhd || !stsd) throw new Error('This is not an init segment.');
  const timescale = mdhd.getUint32(mdhd.getUint8(0) === 1 ? 20 : 12);
  const entry = boxes(new DataView(stsd.buffer, stsd.byteOffset + 8, stsd.byteLength - 8))[0];
  if (!entry || timescale === 0) throw new Error('This init segment describes no samples.');
  const sound = SOUND_CODECS.get(entry.type);
  if (sound !== undefined) return { timescale, codec: sound, width: 0, height: 0 };
  if (entry.type !== 'avc1')
    throw new Error('This init segment is of a codec that is not taken in: pictures are H.264 (avc1), sound is Opus.');
  // VisualSampleEntry: 78 bytes before its own boxes; width and height at 24.
  const avcC = boxes(new DataView(entry.body.buffer, entry.body.byteOffset + 78, entry.body.byteLength - 78)).find(
    (b) => b.type === 'avcC',
  )?.body;
  const profile = avcC ? [1, 2, 3].map((i) => avcC.getUint8(i).toString(16).padStart(2, '0')).join('') : '42001f';
  return { timescale, codec: `avc1.${profile}`, width: entry.body.getUint16(24), height: entry.body.getUint16(26) };
}

export interface SegmentInfo {
  /** Decode time of its first sample, in units of the track's timescale. */
  start: number;
  duration: number;
}

/** When a media segment begins and how long it is. @throws Error when it is none. */
export function readSegment(bytes: Uint8Array): SegmentInfo {
  const traf = find(viewOf(bytes), 'moof', 'traf');
  const tfdt = traf && find(traf, 'tfdt');
  const tfhd = traf && find(traf, 'tfhd');
  if (!traf || !tfdt || !tfhd) throw new Error('This is not a media segment.');
  const start = tfdt.getUint8(0) === 1 ? Number(tfdt.getBigUint64(4)) : tfdt.getUint32(4);
  const flags = tfhd.getUint32(0) & 0xffffff;
  let at = 8;
  if (flags & 0x1) at += 8;
  if (flags & 0x2) at += 4;
  const preset = flags & 0x8 ? tfhd.getUint32(at) : 0;
  let duration = 0;
  for (const { type, body } of boxes(traf)) if (type === 'trun') duration += runDuration(body, preset);
  return { start, duration };
}

function runDuration(trun: DataView, preset: number): number {
  const flags = trun.getUint32(0) & 0xffffff;
  const count = trun.getUint32(4);
  if (count > SAMPLE_LIMIT) throw new RangeError('This holds more samples than a segment has.');
  if (!(flags & 0x100)) return count * preset;
  const stride = [0x100, 0x200, 0x400, 0x800].filter((bit) => flags & bit).length * 4;
  let at = 8 + (flags & 0x1 ? 4 : 0) + (flags & 0x4 ? 4 : 0);
  let sum = 0;
  for (let i = 0; i < count; i += 1, at += stride) sum += trun.getUint32(at);
  return sum;
}
