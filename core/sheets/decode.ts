/** Text of a file whose encoding is not told: by its mark (Unicode 23.8), by its zero bytes, as UTF-8, else as Windows-1252 (WHATWG Encoding). */

export type TextEncodingName = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252';

/** Bytes looked at for zeros. */
const LOOKED_AT = 4096;

/** Share of zero bytes at even and at odd places. */
function zeros(bytes: Uint8Array): { even: number; odd: number } {
  const length = Math.min(bytes.length, LOOKED_AT) & ~1;
  const count = { even: 0, odd: 0 };
  for (let i = 0; i < length; i += 1) if (bytes[i] === 0) count[i % 2 === 0 ? 'even' : 'odd'] += 1;
  return length === 0 ? count : { even: count.even / (length / 2), odd: count.odd / (length / 2) };
}

/** The encoding that bytes seem to have. */
export function encodingOf(bytes: Uint8Array): TextEncodingName {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return 'utf-16le';
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return 'utf-16be';
  const { even, odd } = zeros(bytes);
  if (odd > 0.3 && even < 0.1) return 'utf-16le';
  if (even > 0.3 && odd < 0.1) return 'utf-16be';
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** The text of bytes, without its mark, with line feeds alone at the ends of lines. */
export function decodeText(bytes: Uint8Array): { text: string; encoding: TextEncodingName } {
  const encoding = encodingOf(bytes);
  return { text: new TextDecoder(encoding).decode(bytes).replaceAll('\r\n', '\n').replaceAll('\r', '\n'), encoding };
}
