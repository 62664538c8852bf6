/** Reads WAV files of 24 bits: chunks, format and samples. */

interface Wav {
  channels: number;
  sampleRate: number;
  bits: number;
  /** Of the broadcast extension: samples from midnight; −1 without one. */
  timeReference: number;
  left: Float32Array;
  right: Float32Array;
}

export function readWav(bytes: Buffer): Wav {
  if (bytes.toString('latin1', 0, 4) !== 'RIFF' || bytes.toString('latin1', 8, 12) !== 'WAVE') throw new Error('not a WAV file');
  const wav: Wav = { channels: 0, sampleRate: 0, bits: 0, timeReference: -1, left: new Float32Array(), right: new Float32Array() };
  for (let at = 12; at + 8 <= bytes.length;) {
    const [name, size] = [bytes.toString('latin1', at, at + 4), bytes.readUInt32LE(at + 4)];
    const from = at + 8;
    if (name === 'fmt ')
      Object.assign(wav, {
        channels: bytes.readUInt16LE(from + 2),
        sampleRate: bytes.readUInt32LE(from + 4),
        bits: bytes.readUInt16LE(from + 14),
      });
    if (name === 'bext') wav.timeReference = Number(bytes.readBigUInt64LE(from + 338));
    if (name === 'data') {
      const frames = Math.floor(Math.min(size, bytes.length - from) / (3 * wav.channels));
      const side = (c: number) =>
        Float32Array.from({ length: frames }, (_, i) => bytes.readIntLE(from + (i * wav.channels + c) * 3, 3) / 8_388_607);
      [wav.left, wav.right] = [side(0), side(Math.min(1, wav.channels - 1))];
    }
    at = from + size + (size % 2);
  }
  return wav;
}
