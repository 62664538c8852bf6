/** The log of a day: what was done here and from elsewhere, what went out to devices and what came in. A ring of bounded size, kept small. */

export const LINE_KINDS = ['here', 'elsewhere', 'macro', 'sent', 'heard'] as const;
export type LineKind = (typeof LINE_KINDS)[number];

export interface LogLine {
  /** Counts up from 0; lines that had to go keep theirs. */
  number: number;
  /** Show frame. */
  frame: number;
  kind: LineKind;
  /** Type of the command, or identity of the device. */
  of: string;
  /** Arguments as JSON, or what was said. */
  text: string;
  /** What became of it: an answer, or why it failed; empty while that is not known, and for acts. */
  result: string;
  failed: boolean;
  /** Name of who did it with a pass; empty for all else. */
  who: string;
}

/** Lines that are kept. */
export const MOST_LINES = 100_000;
/** Characters of a line: what is longer is cut, and cannot be made a step any more. */
export const MOST_TEXT = 2000;

export class ActLog {
  private readonly frames: Float64Array;
  private readonly kinds: Uint8Array;
  private readonly names: Uint16Array;
  private readonly flags: Uint8Array;
  private readonly texts: string[] = [];
  private readonly people: Uint16Array;
  private readonly results = new Map<number, string>();
  private readonly known: string[] = [];
  private readonly places = new Map<string, number>();
  private readonly listeners = new Set<() => void>();
  private lastMerge: string | null = null;
  private next = 0;
  private told = false;
  /** Goes up with every change. */
  version = 0;

  /** `defer` tells a little later, so that a burst of lines is told once. */
  constructor(
    private readonly defer: (tell: () => void) => void,
    private readonly most = MOST_LINES,
  ) {
    this.frames = new Float64Array(most);
    this.kinds = new Uint8Array(most);
    this.names = new Uint16Array(most);
    this.flags = new Uint8Array(most);
    this.people = new Uint16Array(most);
    // The first name is nobody's.
    this.placeOf('');
  }

  /** Number of the oldest line that is kept. */
  get first(): number {
    return Math.max(0, this.next - this.most);
  }

  /** Number that the next line will have. */
  get end(): number {
    return this.next;
  }

  private placeOf(name: string): number {
    const place = this.places.get(name);
    if (place !== undefined) return place;
    // Names are types and identities: more than fit are none that matter apart.
    if (this.known.length >= 0xffff) return 0;
    this.known.push(name);
    this.places.set(name, this.known.length - 1);
    return this.known.length - 1;
  }

  /** Adds a line, and returns its number. One of the same `merge` as the line before takes its place: a fader moved on and on is one act. */
  add(frame: number, kind: LineKind, of: string, text: string, merge: string | null = null, who = ''): number {
    const again = merge !== null && merge === this.lastMerge && this.next > 0;
    const number = again ? this.next - 1 : this.next;
    if (!again) this.next += 1;
    this.lastMerge = merge;
    const at = number % this.most;
    this.frames[at] = frame;
    this.kinds[at] = LINE_KINDS.indexOf(kind);
    this.names[at] = this.placeOf(of);
    this.flags[at] = 0;
    this.people[at] = this.placeOf(who);
    this.texts[at] = text.length > MOST_TEXT ? text.slice(0, MOST_TEXT) : text;
    this.results.delete(number - this.most);
    this.changed();
    return number;
  }

  /** Says what became of a line. */
  resolve(number: number, result: string, failed: boolean): void {
    if (number < this.first || number >= this.next) return;
    this.results.set(number, result.slice(0, MOST_TEXT));
    this.flags[number % this.most] = failed ? 1 : 0;
    this.changed();
  }

  /** A line by its number; null when it is not kept, or not there yet. */
  line(number: number): LogLine | null {
    if (number < this.first || number >= this.next) return null;
    const at = number % this.most;
    return {
      number,
      frame: this.frames[at] ?? 0,
      kind: LINE_KINDS[this.kinds[at] ?? 0] as LineKind,
      of: this.known[this.names[at] ?? 0] ?? '',
      text: this.texts[at] ?? '',
      result: this.results.get(number) ?? '',
      failed: this.flags[at] === 1,
      who: this.known[this.people[at] ?? 0] ?? '',
    };
  }

  /** Numbers of the lines of these kinds, the oldest first. */
  numbersOf(kinds: readonly LineKind[]): number[] {
    const wanted = new Set(kinds.map((k) => LINE_KINDS.indexOf(k)));
    const found: number[] = [];
    for (let n = this.first; n < this.next; n += 1) if (wanted.has(this.kinds[n % this.most] ?? 0)) found.push(n);
    return found;
  }

  private changed(): void {
    this.version += 1;
    if (this.told) return;
    this.told = true;
    this.defer(() => {
      this.told = false;
      for (const listener of this.listeners) listener();
    });
  }

  subscribe(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }
}
