/** Where messages end in a stream of bytes: lines of text, lengths before packets, SLIP. Readers keep what is not whole yet, up to a limit. */
import { type OscSettings, type TcpSettings } from './document';

/** Puts chunks together to messages. `null` as a limit broken: what it has is thrown away, and it begins anew. */
export interface FrameReader {
  read(chunk: Uint8Array): Uint8Array[];
  /** Bytes that were thrown away because no end came. */
  readonly lost: number;
}

/** Bytes without an end that are kept. */
export const MOST_WAITING = 65_536;

const joined = (a: Uint8Array, b: Uint8Array): Uint8Array => {
  const out = new Uint8Array(a.length + b.length);
  out.set(a);
  out.set(b, a.length);
  return out;
};

/** Messages that end with one byte; a carriage return before a line's end is no part of it. Without an end, each chunk is a message. */
function delimited(end: number | null, cut: boolean): FrameReader {
  let waiting: Uint8Array = new Uint8Array(0);
  let lost = 0;
  return {
    get lost() {
      return lost;
    },
    read(chunk) {
      if (end === null) return chunk.length > 0 ? [chunk.subarray(0, MOST_WAITING)] : [];
      const found: Uint8Array[] = [];
      let rest = joined(waiting, chunk);
      for (let at = rest.indexOf(end); at !== -1; at = rest.indexOf(end)) {
        const line = rest.subarray(0, cut && rest[at - 1] === 0x0d ? at - 1 : at);
        if (line.length > 0) found.push(line);
        rest = rest.subarray(at + 1);
      }
      if (rest.length > MOST_WAITING) {
        lost += rest.length;
        rest = new Uint8Array(0);
      }
      waiting = Uint8Array.from(rest);
      return found;
    },
  };
}

/** Packets with their length before them, 32 bits, big end first (OSC 1.0 over streams). */
function counted(): FrameReader {
  let waiting: Uint8Array = new Uint8Array(0);
  let lost = 0;
  return {
    get lost() {
      return lost;
    },
    read(chunk) {
      const found: Uint8Array[] = [];
      let rest = joined(waiting, chunk);
      while (rest.length >= 4) {
        const length = new DataView(rest.buffer, rest.byteOffset).getUint32(0);
        if (length > MOST_WAITING) {
          // Nothing after this can be told apart.
          lost += rest.length;
          rest = new Uint8Array(0);
          break;
        }
        if (rest.length < 4 + length) break;
        found.push(rest.slice(4, 4 + length));
        rest = rest.subarray(4 + length);
      }
      waiting = Uint8Array.from(rest);
      return found;
    },
  };
}

const [END, ESC, ESC_END, ESC_ESC] = [0xc0, 0xdb, 0xdc, 0xdd];

/** Packets between END bytes. Source: RFC 1055 (SLIP), as OSC 1.1 uses it. */
function slip(): FrameReader {
  const frames = delimited(END, false);
  return {
    get lost() {
      return frames.lost;
    },
    read: (chunk) =>
      frames.read(chunk).map((frame) => {
        const out: number[] = [];
        for (let i = 0; i < frame.length; i += 1) {
          const byte = frame[i] as number;
          if (byte !== ESC) out.push(byte);
          else {
            i += 1;
            out.push(frame[i] === ESC_END ? END : frame[i] === ESC_ESC ? ESC : (frame[i] ?? ESC));
          }
        }
        return Uint8Array.from(out);
      }),
  };
}

const BYTES: Record<TcpSettings['ending'], number[]> = { lf: [0x0a], crlf: [0x0d, 0x0a], cr: [0x0d], nul: [0], none: [] };

/** Reads messages out of what comes over TCP. */
export function readerFor(how: TcpSettings['ending'] | OscSettings['carrier']): FrameReader {
  if (how === 'tcp-length') return counted();
  if (how === 'tcp-slip') return slip();
  if (how === 'udp') return delimited(null, false);
  const end = BYTES[how].at(-1);
  return delimited(end ?? null, how === 'lf' || how === 'crlf');
}

/** A message as it goes over TCP: with its end, or its length before it. */
export function framed(bytes: Uint8Array, how: TcpSettings['ending'] | OscSettings['carrier']): Uint8Array {
  if (how === 'udp') return bytes;
  if (how === 'tcp-length') {
    const out = new Uint8Array(4 + bytes.length);
    new DataView(out.buffer).setUint32(0, bytes.length);
    out.set(bytes, 4);
    return out;
  }
  if (how === 'tcp-slip') {
    const out = [END];
    for (const byte of bytes) {
      if (byte === END) out.push(ESC, ESC_END);
      else if (byte === ESC) out.push(ESC, ESC_ESC);
      else out.push(byte);
    }
    return Uint8Array.from([...out, END]);
  }
  return joined(bytes, Uint8Array.from(BYTES[how]));
}
