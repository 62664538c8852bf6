/** Slows down whoever guesses a secret. */

interface Guesser {
  wrong: number;
  /** Milliseconds of the clock until which nothing is heard. */
  until: number;
}

/** Wrong answers that cost nothing: people mistype. */
const FREE = 5;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 60_000;
/** Guessers remembered at most; the one heard least lately is forgotten. */
const REMEMBERED = 2000;

/** One line for all addresses that one machine can make up for itself: IPv6 gives it a network of 64 bits. */
function lineOf(address: string): string {
  if (!address.includes(':') || address.startsWith('::ffff:')) return address;
  return address.split(':').slice(0, 4).join(':');
}

export class Throttle {
  private readonly guessers = new Map<string, Guesser>();

  constructor(private readonly now: () => number = Date.now) {}

  /** Milliseconds until `address` is heard again; 0 when it may try. */
  waitOf(address: string): number {
    return Math.max(0, (this.guessers.get(lineOf(address))?.until ?? 0) - this.now());
  }

  /** Counts a wrong answer: after five, each doubles the wait, up to a minute. */
  wrong(address: string): void {
    const line = lineOf(address);
    const wrong = (this.guessers.get(line)?.wrong ?? 0) + 1;
    const wait = wrong < FREE ? 0 : Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (wrong - FREE));
    this.guessers.delete(line);
    this.guessers.set(line, { wrong, until: this.now() + wait });
    if (this.guessers.size > REMEMBERED) this.guessers.delete(this.guessers.keys().next().value as string);
  }

  /** A right answer: the guesses before it are forgotten. */
  right(address: string): void {
    this.guessers.delete(lineOf(address));
  }
}
