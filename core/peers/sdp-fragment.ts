/** Candidates that come after an offer over HTTP: `application/trickle-ice-sdpfrag` (RFC 8840, section 9), as WHIP and WHEP send them. Pure. */

export interface LateCandidate {
  candidate: string;
  sdpMid: string | null;
}

/** Characters of a fragment, and candidates in one, at most. */
export const LONGEST_FRAGMENT = 20_000;
const MOST_CANDIDATES = 60;
const LONGEST_LINE = 1000;

/** What a fragment says; null when it is none: a line that no session description has. */
export function readFragment(text: string): LateCandidate[] | null {
  if (text.length > LONGEST_FRAGMENT) return null;
  const found: LateCandidate[] = [];
  let mid: string | null = null;
  for (const line of text.split(/\r\n|\n/u)) {
    if (line === '') continue;
    if (!/^[a-z]=/u.test(line) || line.length > LONGEST_LINE) return null;
    if (line.startsWith('m=')) mid = null;
    else if (line.startsWith('a=mid:')) mid = line.slice('a=mid:'.length, 70);
    else if (line.startsWith('a=candidate:')) found.push({ candidate: line.slice('a='.length), sdpMid: mid });
  }
  return found.slice(0, MOST_CANDIDATES);
}
