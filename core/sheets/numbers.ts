/** Numbers as people write them. */

/** A number as people write it: spaces or apostrophes between thousands, a comma or a point before decimals. Null for other words. */
export function numberOfWords(words: string): number | null {
  const bare = words
    .trim()
    .replaceAll(/[\s'’\u00a0\u202f]/gu, '')
    .replace('−', '-');
  const both = bare.includes(',') && bare.includes('.');
  const last = Math.max(bare.lastIndexOf(','), bare.lastIndexOf('.'));
  const point = both
    ? bare.replaceAll(/[.,]/gu, (sign, at: number) => (at === last ? '.' : sign === ',' || sign === '.' ? '' : sign))
    : bare.replace(',', '.');
  if (!/^[-+]?\d+(?:\.\d+)?%?$/u.test(point)) return null;
  const n = Number(point.replace('%', ''));
  return Number.isFinite(n) && Math.abs(n) <= 1e12 ? n : null;
}
