/** Font files as the animation player takes them: WOFF 1.0 (W3C) unpacked into the tables that it holds. */

const pad = (length: number): number => (length + 3) & ~3;

async function inflated(data: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const stream = new Blob([data]).stream().pipeThrough(new DecompressionStream('deflate'));
  return new Uint8Array(await new Response(stream).arrayBuffer());
}

/** A WOFF file as SFNT (TrueType or OpenType). @throws Error when it is none. */
export async function sfntOf(woff: Uint8Array<ArrayBuffer>): Promise<Uint8Array> {
  const from = new DataView(woff.buffer, woff.byteOffset, woff.length);
  if (from.getUint32(0) !== 0x774f4646) throw new Error('no WOFF file');
  const count = from.getUint16(12);
  const tables = Array.from({ length: count }, (_, i) => {
    const at = 44 + i * 20;
    const [tag, offset, packed, length, sum] = [0, 4, 8, 12, 16].map((o) => from.getUint32(at + o)) as [
      number,
      number,
      number,
      number,
      number,
    ];
    return { tag, offset, packed, length, sum };
  });
  let at = 12 + 16 * count;
  const out = new Uint8Array(at + tables.reduce((sum, t) => sum + pad(t.length), 0));
  const to = new DataView(out.buffer);
  const power = Math.floor(Math.log2(count));
  to.setUint32(0, from.getUint32(4));
  [count, 2 ** power * 16, power, count * 16 - 2 ** power * 16].forEach((n, i) => to.setUint16(4 + i * 2, n));
  for (const [i, { tag, offset, packed, length, sum }] of tables.entries()) {
    const data = woff.subarray(offset, offset + packed);
    out.set(packed < length ? await inflated(data) : data, at);
    [tag, sum, at, length].forEach((n, k) => to.setUint32(12 + 16 * i + k * 4, n));
    at += pad(length);
  }
  return out;
}
