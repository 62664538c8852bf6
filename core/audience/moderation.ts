/** What is held back, and how much is taken of one sender. Pure. */

/** Letters alone, so that capitals and accents hide nothing: compatibility decomposition (Unicode Standard Annex 15) without marks. */
const bare = (text: string): string => text.normalize('NFKD').replace(/\p{M}/gu, '').toLowerCase();

/** Words parted by one space each, with one around all. */
const spaced = (text: string): string =>
  ` ${bare(text)
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()} `;

/** The first of the words that stands in a text as a whole word or phrase, whatever its capitals, accents and signs; empty for none. */
export function heldWord(words: readonly string[], text: string): string {
  const within = spaced(text);
  return words.find((word) => spaced(word).trim() !== '' && within.includes(spaced(word))) ?? '';
}

const MINUTE_MS = 60_000;
/** Senders remembered at most; the one heard least lately is forgotten. */
const REMEMBERED = 20_000;

/** How much is taken of each sender: so many a minute, and nothing twice in one. */
export class SenderLimit {
  private readonly senders = new Map<string, { at: number; text: string }[]>();

  constructor(private readonly now: () => number) {}

  /** Null when it may pass, which counts it; otherwise why not. */
  refusal(from: string, text: string, perMinute: number): 'too-many' | 'twice' | null {
    const now = this.now();
    const before = (this.senders.get(from) ?? []).filter((s) => now - s.at < MINUTE_MS);
    const same = bare(text);
    if (before.some((s) => s.text === same)) return 'twice';
    if (before.length >= perMinute) return 'too-many';
    this.senders.delete(from);
    this.senders.set(from, [...before, { at: now, text: same }]);
    if (this.senders.size > REMEMBERED) this.senders.delete(this.senders.keys().next().value as string);
    return null;
  }
}
