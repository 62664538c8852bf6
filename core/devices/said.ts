/** What was said to a device as one line, and back: for the log, and for messages that are made of its lines. */
import { type DeviceKind, METHODS, type Method } from './document';
import { type Outgoing } from './problems';

export interface Said extends Outgoing {
  method: Method;
}

/** A message as one line: "PUT /shutter {…}", "/wall/layout 4", "lamp 3 air". */
export function saidWords(kind: DeviceKind, { method, path, text }: Outgoing): string {
  if (kind === 'http') return `${method} ${path} ${text}`.trim();
  return (kind === 'osc' ? `${path} ${text}` : text).trim();
}

/** A line as the message that it was. Lines that the device said itself are read the same way: so it is answered in its own words. */
export function saidOf(kind: DeviceKind, words: string): Said {
  const [first = '', ...rest] = words.split(' ');
  if (kind === 'osc') return { method: 'POST', path: first, text: rest.join(' ') };
  if (kind !== 'http') return { method: 'POST', path: '', text: words };
  const method = METHODS.find((m) => m === first);
  if (!method) return { method: 'POST', path: '', text: words };
  const [path = '', ...body] = rest;
  return { method, path, text: body.join(' ') };
}

/** A number in a message: where it stands. */
export interface SaidNumber {
  in: 'path' | 'text';
  at: number;
  words: string;
}

/** Every number of a message that is not part of a hole, in order. */
export function numbersIn({ path, text }: Pick<Outgoing, 'path' | 'text'>): SaidNumber[] {
  const find = (where: SaidNumber['in'], words: string): SaidNumber[] =>
    [
      ...words
        .replace(/\{[a-z]+:[^{}]*\}/gi, (hole) => ' '.repeat(hole.length))
        .matchAll(/(?<![\w.])-?\d+(\.\d+)?|(?<=[a-z])\d+(?![\w.])/gi),
    ].map((m) => ({
      in: where,
      at: m.index,
      words: m[0],
    }));
  return [...find('path', path), ...find('text', text)];
}

/** Messages that a sweep makes at most. */
export const MOST_SWEPT = 100;

/** A message with one of its numbers going from one value to another: as many messages as there are values. */
export function sweptSaid<T extends Pick<Outgoing, 'path' | 'text'> & { name: string }>(
  message: T,
  number: SaidNumber,
  from: number,
  to: number,
  step: number,
): T[] {
  const by = Math.abs(step) > 0 ? Math.abs(step) : 1;
  const digits = Math.max(...[from, by].map((n) => (String(n).split('.')[1] ?? '').length));
  const count = Math.min(MOST_SWEPT, Math.floor(Math.abs(to - from) / by + 1e-9) + 1);
  return Array.from({ length: count }, (_, i) => {
    const value = (from + Math.sign(to - from) * by * i).toFixed(digits);
    const words = message[number.in];
    const put = words.slice(0, number.at) + value + words.slice(number.at + number.words.length);
    const name = message.name.includes(number.words) ? message.name.replace(number.words, value) : `${message.name} ${value}`;
    return { ...message, [number.in]: put, name: name.slice(0, 80) };
  });
}
