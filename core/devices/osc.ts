/** OSC: packets to and from bytes. Source: Open Sound Control 1.0 specification, and the types of 1.1 (T F N I beside i f s b; h d t r too). */

export type OscValue = number | string | boolean | null | Uint8Array | bigint;
export interface OscArgument {
  /** Tag of its type: one of `ifsbTFNIhdtSc`. */
  type: string;
  value: OscValue;
}
export interface OscMessage {
  address: string;
  args: OscArgument[];
}

/** Bytes that are no OSC; `message` says why. */
export class OscError extends Error {}

/** Bytes of a packet at most: the most that UDP carries. */
export const MOST_BYTES = 65_507;
/** Messages of a bundle, and bundles in bundles. */
const MOST_MESSAGES = 1000;
const DEEPEST = 8;

const padded = (length: number): number => (length + 4) & ~3;
const encoder = new TextEncoder();
const decoder = new TextDecoder('utf-8', { fatal: true });

/** Text with its end, to a multiple of four bytes. */
function stringBytes(text: string): Uint8Array {
  const bytes = encoder.encode(text.replaceAll('\0', ''));
  const out = new Uint8Array(padded(bytes.length));
  out.set(bytes);
  return out;
}

function argumentBytes({ type, value }: OscArgument): Uint8Array {
  const out = new Uint8Array(type === 'h' || type === 'd' || type === 't' ? 8 : 4);
  const view = new DataView(out.buffer);
  switch (type) {
    case 'i':
      view.setInt32(0, Number(value));
      return out;
    case 'f':
      view.setFloat32(0, Number(value));
      return out;
    case 'd':
      view.setFloat64(0, Number(value));
      return out;
    case 'h':
    case 't':
      view.setBigInt64(0, BigInt(value as bigint | number));
      return out;
    case 'c':
      view.setInt32(0, String(value).codePointAt(0) ?? 0);
      return out;
    case 's':
    case 'S':
      return stringBytes(String(value));
    case 'b': {
      const blob = value as Uint8Array;
      const bytes = new Uint8Array(4 + ((blob.length + 3) & ~3));
      new DataView(bytes.buffer).setInt32(0, blob.length);
      bytes.set(blob, 4);
      return bytes;
    }
    default:
      return new Uint8Array(0);
  }
}

/** A message as the bytes of a packet. @throws OscError when the address does not begin with `/`, or it is longer than a packet. */
export function encodeOsc({ address, args }: OscMessage): Uint8Array {
  if (!/^\/[^\s#]*$/.test(address)) throw new OscError(`“${address.slice(0, 80)}” is no OSC address: it begins with / and has no blanks.`);
  const parts = [stringBytes(address), stringBytes(`,${args.map((a) => a.type).join('')}`), ...args.map(argumentBytes)];
  const length = parts.reduce((sum, p) => sum + p.length, 0);
  if (length > MOST_BYTES) throw new OscError(`This message has ${length} bytes; a packet carries ${MOST_BYTES} at most.`);
  const out = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

class Reader {
  private at = 0;
  private readonly view: DataView;

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }

  get left(): number {
    return this.bytes.length - this.at;
  }

  take(length: number): Uint8Array {
    if (length < 0 || length > this.left) throw new OscError('It ends in the middle of a value.');
    this.at += length;
    return this.bytes.subarray(this.at - length, this.at);
  }

  number(of: 'getInt32' | 'getFloat32' | 'getFloat64'): number {
    const size = of === 'getFloat64' ? 8 : 4;
    this.take(size);
    return this.view[of](this.at - size);
  }

  long(): bigint {
    this.take(8);
    return this.view.getBigInt64(this.at - 8);
  }

  string(): string {
    const end = this.bytes.indexOf(0, this.at);
    if (end === -1) throw new OscError('A text in it has no end.');
    const raw = this.bytes.subarray(this.at, end);
    this.take(Math.min(padded(end - this.at), this.left));
    try {
      return decoder.decode(raw);
    } catch {
      throw new OscError('A text in it is no UTF-8.');
    }
  }
}

function valueOf(reader: Reader, type: string): OscValue {
  switch (type) {
    case 'i':
    case 'r':
    case 'm':
      return reader.number('getInt32');
    case 'c':
      return String.fromCodePoint(Math.min(0x10ffff, Math.max(0, reader.number('getInt32'))));
    case 'f':
      return reader.number('getFloat32');
    case 'd':
      return reader.number('getFloat64');
    case 'h':
    case 't':
      return reader.long();
    case 's':
    case 'S':
      return reader.string();
    case 'b': {
      const length = reader.number('getInt32');
      const blob = Uint8Array.from(reader.take(length));
      reader.take(Math.min((4 - (length % 4)) % 4, reader.left));
      return blob;
    }
    case 'T':
      return true;
    case 'F':
      return false;
    case 'N':
      return null;
    // An impulse, or infinitum in 1.0.
    case 'I':
      return true;
    default:
      throw new OscError(`It has a value of the type “${type}”, which nobody knows here.`);
  }
}

function decode(bytes: Uint8Array, into: OscMessage[], depth: number): void {
  if (depth > DEEPEST || into.length >= MOST_MESSAGES) throw new OscError('Its bundles go deeper, or are more, than any device sends.');
  const reader = new Reader(bytes);
  const address = reader.string();
  if (address === '#bundle') {
    reader.long();
    while (reader.left > 0) decode(reader.take(reader.number('getInt32')), into, depth + 1);
    return;
  }
  if (!address.startsWith('/')) throw new OscError('It does not begin with an address.');
  // Some senders leave the types out where there are no arguments.
  const tags = reader.left > 0 ? reader.string() : ',';
  if (!tags.startsWith(',')) throw new OscError('The types of its values are missing.');
  const args: OscArgument[] = [];
  for (const type of tags.slice(1)) if (type !== '[' && type !== ']') args.push({ type, value: valueOf(reader, type) });
  into.push({ address, args });
}

/** The messages of a packet: one, or those of a bundle in order. @throws OscError */
export function decodeOsc(bytes: Uint8Array): OscMessage[] {
  const messages: OscMessage[] = [];
  decode(bytes, messages, 0);
  return messages;
}
