/** Words that people send, without what only machines read. */

/** Zero width non-joiner and joiner. */
const JOINERS: ReadonlySet<string> = new Set(['\u200C', '\u200D']);

/** True when the sign at a place stands between two letters or pictures. */
const joins = (text: string, at: number): boolean =>
  /[\p{L}\p{M}\p{Extended_Pictographic}\p{Emoji_Modifier}]$/u.test(text.slice(Math.max(0, at - 2), at)) &&
  /^[\p{L}\p{Extended_Pictographic}]/u.test(text.slice(at + 1, at + 3));

/**
 * A line of words as it may be shown: controls, lone halves of characters and marks that turn the direction of writing (Unicode Standard Annex 9)
 * are taken out, spaces are one, marks are not piled up. Joiners inside words stay: Persian and many signs need them. At most `most` UTF-16 units, never half a character.
 */
export function plainWords(text: string, most: number): string {
  const clean = text
    .replace(/[\p{Cc}\p{Cf}\p{Cs}\p{Co}\p{Zl}\p{Zp}]/gu, (sign, at: number) => (JOINERS.has(sign) && joins(text, at) ? sign : ' '))
    .replace(/(\p{M}{4})\p{M}+/gu, '$1')
    .replace(/\s+/gu, ' ')
    .trim();
  if (clean.length <= most) return clean;
  let cut = '';
  for (const character of clean) {
    if (cut.length + character.length > most) break;
    cut += character;
  }
  return cut.trimEnd();
}
