/** Long messages in parts, so that no message is too large for a line, and none can fill the memory of who takes it. */
import { PART_LENGTH } from './messages';

interface Part {
  kind: 'part';
  /** From 0. */
  index: number;
  count: number;
  text: string;
}

/** A message as texts of about `length` characters at most: itself when it is short, else parts in order. */
export function inParts(message: unknown, length = PART_LENGTH): string[] {
  const text = JSON.stringify(message);
  if (text.length <= length) return [text];
  const count = Math.ceil(text.length / length);
  return Array.from({ length: count }, (_, index) =>
    JSON.stringify({ kind: 'part', index, count, text: text.slice(index * length, (index + 1) * length) } satisfies Part),
  );
}

const isPart = (value: unknown): value is Part => typeof value === 'object' && value !== null && (value as Part).kind === 'part';

/** Puts parts together again. One for each line: parts of a message come in order, and no other message between them. */
export class PartReader {
  private parts: string[] = [];
  private size = 0;

  /** `limit`: characters of one whole message at most. */
  constructor(private readonly limit: number) {}

  /**
   * The message that `text` completes; undefined while parts are missing.
   * @throws Error for what is not JSON, is out of order, or is longer than the limit.
   */
  read(text: string): unknown {
    const value: unknown = JSON.parse(text);
    if (!isPart(value)) {
      if (this.parts.length > 0) throw new Error('A message came in the middle of another.');
      return value;
    }
    const { index, count, text: piece } = value;
    const fits = Number.isInteger(count) && count >= 2 && index === this.parts.length && index < count && typeof piece === 'string';
    if (!fits || this.size + piece.length > this.limit) {
      this.parts = [];
      this.size = 0;
      throw new Error('Parts of a message are out of order or too many.');
    }
    this.parts.push(piece);
    this.size += piece.length;
    if (this.parts.length < count) return undefined;
    const whole = this.parts.join('');
    this.parts = [];
    this.size = 0;
    return JSON.parse(whole);
  }
}
