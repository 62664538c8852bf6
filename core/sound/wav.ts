/**
 * WAV files (RIFF, 24-bit PCM) with a broadcast extension (EBU Tech 3285: when the first sample was), whose head is right at
 * every moment, so that a file that is cut off plays.
 */

/** Bytes before the samples: RIFF 12, fmt 24, bext 610, head of data 8. */
export const WAV_HEAD = 12 + 24 + 610 + 8;
/** Most bytes that the size fields of RIFF can say. */
export const MOST_WAV_BYTES = 0xffffffff;

export interface WavInfo {
  channels: number;
  sampleRate: number;
  /** What it is, for the extension; 256 characters at most, ASCII. */
  description: string;
  /** When the first sample was: milliseconds since 1970, local time as a broadcaster reads it. */
  startedAt: Date;
  /** Samples from midnight to the first sample. */
  timeReference: number;
}

const two = (value: number) => String(value).padStart(2, '0');

/** The head of a file with `dataBytes` bytes of samples behind it. */
export function wavHead(
  { channels, sampleRate, description, startedAt, timeReference }: WavInfo,
  dataBytes: number,
): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(WAV_HEAD);
  const view = new DataView(bytes.buffer);
  const text = (at: number, value: string, most: number) =>
    [...value].slice(0, most).forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0) < 128 ? c.charCodeAt(0) : 63));
  const size = Math.min(dataBytes, MOST_WAV_BYTES - WAV_HEAD);
  text(0, 'RIFF', 4);
  view.setUint32(4, WAV_HEAD - 8 + size, true);
  text(8, 'WAVEfmt ', 8);
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, sampleRate, true);
  view.setUint32(28, sampleRate * channels * 3, true);
  view.setUint16(32, channels * 3, true);
  view.setUint16(34, 24, true);
  text(36, 'bext', 4);
  view.setUint32(40, 602, true);
  text(44, description, 256);
  text(300, 'Bivoca', 32);
  text(364, `${startedAt.getFullYear()}-${two(startedAt.getMonth() + 1)}-${two(startedAt.getDate())}`, 10);
  text(374, `${two(startedAt.getHours())}:${two(startedAt.getMinutes())}:${two(startedAt.getSeconds())}`, 8);
  view.setBigUint64(382, BigInt(Math.max(0, Math.round(timeReference))), true);
  view.setUint16(390, 1, true);
  text(646, 'data', 4);
  view.setUint32(650, size, true);
  return bytes;
}

/** Interleaved 24-bit samples, little-endian, of floats from −1 to 1; what is beyond is held at full scale. */
export function packSamples(channels: readonly Float32Array[], from = 0, to = channels[0]?.length ?? 0): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array((to - from) * channels.length * 3);
  let at = 0;
  for (let i = from; i < to; i += 1) {
    for (const channel of channels) {
      const raw = channel[i] as number;
      const value = Math.round(Math.max(-1, Math.min(1, Number.isFinite(raw) ? raw : 0)) * 8_388_607);
      bytes[at] = value & 255;
      bytes[at + 1] = (value >> 8) & 255;
      bytes[at + 2] = (value >> 16) & 255;
      at += 3;
    }
  }
  return bytes;
}
