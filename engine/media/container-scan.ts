/**
 * How far the outer structure of a media file is whole. Demuxers look for the next element in damaged bytes one by one, which takes for ever
 * in a file that ends in zeros; what this finds to be no structure any more is never given to one.
 * Sources: RFC 8794 (EBML), RFC 9559 (Matroska, WebM), ISO/IEC 14496-12 (MP4, MOV).
 */

/** Bytes at a place of a file; fewer at its end. */
export interface ByteReader {
  size: number;
  read(from: number, length: number): Uint8Array;
}

export interface Scan {
  /** Bytes from the start that are whole. */
  sound: number;
  /** What must stand behind them for a demuxer to find an end: it looks for the next element of a damaged Matroska file, and must find one. */
  tail: Uint8Array<ArrayBuffer> | null;
  /** In words, what is wrong behind them; null when nothing is. */
  damage: string | null;
}

/** Elements looked at at most: a day of one-second clusters. */
const MOST_ELEMENTS = 200_000;

const EBML = 0x1a45dfa3;
const SEGMENT = 0x18538067;
const CLUSTER = 0x1f43b675;
/** Elements that a segment and a cluster hold (RFC 9559, 5.1). */
const IN_SEGMENT = new Set([0x114d9b74, 0x1549a966, 0x1654ae6b, CLUSTER, 0x1c53bb6b, 0x1941a469, 0x1043a770, 0x1254c367, 0xec, 0xbf]);
const IN_CLUSTER = new Set([0xe7, 0xa3, 0xa0, 0xa7, 0xab, 0x5854, 0xaf, 0xec, 0xbf]);

/** An empty element Tags, and a Void behind it, so that it does not stand at the very end, where it would be overlooked. */
const EBML_TAIL = new Uint8Array([0x12, 0x54, 0xc3, 0x67, 0x80, 0xec, 0x8e, ...Array.from({ length: 14 }, () => 0)]);

interface Element {
  id: number;
  /** First byte of its content, and the byte after its last; Infinity when its size is not said. */
  from: number;
  end: number;
}

/** The element at `at`; null when there is none. */
function elementAt(reader: ByteReader, at: number): Element | null {
  const bytes = reader.read(at, 12);
  const [first = 0] = bytes;
  const idLength = Math.clz32(first) - 23;
  if (first === 0 || idLength > 4 || bytes.length < idLength + 1) return null;
  let id = 0;
  for (let i = 0; i < idLength; i += 1) id = id * 256 + (bytes[i] as number);
  const head = bytes[idLength] as number;
  const length = Math.clz32(head) - 23;
  if (head === 0 || bytes.length < idLength + length) return null;
  let size = head - 2 ** (8 - length);
  let unknown = size === 2 ** (8 - length) - 1;
  for (let i = 1; i < length; i += 1) {
    const byte = bytes[idLength + i] as number;
    size = size * 256 + byte;
    unknown &&= byte === 255;
  }
  const from = at + idLength + length;
  return { id, from, end: unknown ? Infinity : from + size };
}

/** Walks the elements from `at` while they are of `known`; gives the place where that ends. */
function walk(reader: ByteReader, at: number, end: number, known: ReadonlySet<number>, inside: (element: Element) => number): number {
  let place = at;
  for (let count = 0; place < Math.min(end, reader.size) && count < MOST_ELEMENTS; count += 1) {
    const element = elementAt(reader, place);
    if (!element || !known.has(element.id)) return place;
    const next = inside(element);
    if (next <= place) return place;
    place = next;
  }
  return Math.min(place, reader.size);
}

/** True when the last bytes before `end` are zeros: nothing that is muxed ends so by chance. */
function endsInZeros(reader: ByteReader, end: number): boolean {
  const at = Math.max(0, Math.min(end, reader.size) - 24);
  const tail = reader.read(at, 24);
  return tail.length > 0 && tail.every((b) => b === 0);
}

function scanEbml(reader: ByteReader): Scan {
  const header = elementAt(reader, 0);
  if (!header || header.id !== EBML || header.end > reader.size) return { sound: 0, tail: null, damage: 'its head is damaged' };
  const segment = elementAt(reader, header.end);
  if (!segment || segment.id !== SEGMENT) return { sound: 0, tail: null, damage: 'its head is damaged' };
  const sound = walk(reader, segment.from, segment.end, IN_SEGMENT, (element) => {
    if (element.id !== CLUSTER) return element.end;
    const whole = element.end <= reader.size;
    if (whole && !endsInZeros(reader, element.end)) return element.end;
    // A cluster whose size is not said, that is cut off, or that may be empty at its end, is looked into.
    return walk(reader, element.from, element.end, IN_CLUSTER, (block) => (block.end <= reader.size ? block.end : 0));
  });
  const expected = Math.min(segment.end, reader.size);
  const damage =
    sound < expected
      ? `it is damaged from byte ${sound} on`
      : segment.end !== Infinity && segment.end > reader.size
        ? 'its end is missing'
        : null;
  return { sound, tail: damage === null && segment.end !== Infinity ? null : EBML_TAIL, damage };
}

function scanBoxes(reader: ByteReader): Scan {
  let at = 0;
  for (let count = 0; at < reader.size && count < MOST_ELEMENTS; count += 1) {
    const head = reader.read(at, 16);
    const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
    if (head.length < 8) return { sound: at, tail: null, damage: 'its end is missing' };
    const type = String.fromCharCode(...head.subarray(4, 8));
    if (!/^[\x20-\x7e\xa9]{4}$/.test(type)) return { sound: at, tail: null, damage: `it is damaged from byte ${at} on` };
    let size = view.getUint32(0);
    if (size === 1 && head.length === 16) size = Number(view.getBigUint64(8));
    else if (size === 0) size = reader.size - at;
    if (size < 8) return { sound: at, tail: null, damage: `it is damaged from byte ${at} on` };
    if (at + size > reader.size) return { sound: reader.size, tail: null, damage: 'its end is missing' };
    at += size;
  }
  return { sound: reader.size, tail: null, damage: null };
}

/** Looks at the outer structure of a WebM, Matroska, MP4 or MOV file; any other is taken to be whole. */
export function scanContainer(reader: ByteReader): Scan {
  const head = reader.read(0, 12);
  const view = new DataView(head.buffer, head.byteOffset, head.byteLength);
  if (head.length >= 4 && view.getUint32(0) === EBML) return scanEbml(reader);
  const brand = String.fromCharCode(...head.subarray(4, 8));
  return ['ftyp', 'moov', 'moof', 'mdat', 'free', 'skip', 'wide', 'styp'].includes(brand)
    ? scanBoxes(reader)
    : { sound: reader.size, tail: null, damage: null };
}
