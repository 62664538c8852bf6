/** Short keys for long texts. */

/** A key of 64 bits for a text: FNV-1a twice, with different beginnings. */
export function hashOf(text: string): string {
  let [a, b] = [0x811c9dc5, 0x050c5d1f];
  for (let i = 0; i < text.length; i += 1) {
    const c = text.charCodeAt(i);
    a = Math.imul(a ^ c, 0x01000193);
    b = Math.imul(b ^ c, 0x01000193) ^ (b >>> 15);
  }
  return (a >>> 0).toString(36) + (b >>> 0).toString(36);
}
