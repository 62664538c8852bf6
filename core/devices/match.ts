/** Matches what devices say: `*` stands for anything, `?` for one character; upper and lower case are the same. */

/** Characters of a pattern, and of a text, that are looked at. */
const MOST = 2000;

/** True when a text is as the pattern says, from its beginning to its end. Takes a time that is the product of both lengths at most. */
export function matches(pattern: string, text: string): boolean {
  const p = pattern.slice(0, MOST).toLowerCase();
  const t = text.slice(0, MOST).toLowerCase();
  let [i, j, star, mark] = [0, 0, -1, 0];
  while (j < t.length) {
    if (p[i] === '*') {
      star = i;
      mark = j;
      i += 1;
    } else if (i < p.length && (p[i] === '?' || p[i] === t[j])) {
      i += 1;
      j += 1;
    } else if (star !== -1) {
      i = star + 1;
      mark += 1;
      j = mark;
    } else return false;
  }
  while (p[i] === '*') i += 1;
  return i === p.length;
}
