/** MIDI messages in words: `note 60 127`, `off 60`, `control 7 64 channel 2`, `program 5`, `bend 0.5`, or bytes as `90 3c 7f` in hex. Source: MIDI 1.0, channel voice messages. */

/** Words that are no MIDI message; `message` says why. */
export class MidiError extends Error {}

/** Bytes of a message at most: a long system exclusive one. */
const MOST_BYTES = 4096;

const STATUS: Record<string, number> = { off: 0x80, note: 0x90, pressure: 0xa0, control: 0xb0, program: 0xc0, touch: 0xd0, bend: 0xe0 };
const NAMES = new Map(Object.entries(STATUS).map(([name, status]) => [status, name]));
/** Values after the name: how many there are, and what the last is when it is left out. */
const VALUES: Record<string, [count: number, last: number]> = {
  off: [2, 0],
  note: [2, 127],
  pressure: [2, 0],
  control: [2, 0],
  program: [1, 0],
  touch: [1, 0],
};

function seven(word: string | undefined, what: string): number {
  const value = Number(word);
  if (word === undefined || !/^\d+$/.test(word) || value > 127) throw new MidiError(`${what} is a whole number from 0 to 127.`);
  return value;
}

/** The bytes of a message in words. @throws MidiError */
export function readMidi(words: string): Uint8Array {
  const list = words.trim().split(/\s+/);
  const [name = ''] = list;
  if (list.every((w) => /^[0-9a-f]{2}$/i.test(w))) {
    const bytes = list.map((w) => parseInt(w, 16));
    if ((bytes[0] ?? 0) < 0x80) throw new MidiError('The first byte of a message is 80 or more, in hex.');
    if (bytes.length > MOST_BYTES) throw new MidiError(`A message has at most ${MOST_BYTES} bytes.`);
    return Uint8Array.from(bytes);
  }
  const status = Object.hasOwn(STATUS, name) ? (STATUS[name] as number) : undefined;
  if (status === undefined)
    throw new MidiError(`“${name.slice(0, 40)}” is no MIDI message. There are ${Object.keys(STATUS).join(', ')}, and bytes in hex.`);
  const at = list.indexOf('channel');
  const channel = at === -1 ? 1 : Number(list[at + 1]);
  if (!Number.isInteger(channel) || channel < 1 || channel > 16) throw new MidiError('A channel is a whole number from 1 to 16.');
  const values = at === -1 ? list.slice(1) : list.slice(1, at);
  const first = status | (channel - 1);
  if (name === 'bend') {
    const bend = Number(values[0]);
    if (!(bend >= -1 && bend <= 1)) throw new MidiError('A bend is a number from −1 to 1.');
    const whole = Math.min(16_383, Math.round((bend + 1) * 8192));
    return Uint8Array.from([first, whole & 0x7f, whole >> 7]);
  }
  const [count, last] = VALUES[name] as [number, number];
  const bytes = [seven(values[0], `What follows “${name}”`)];
  if (count === 2) bytes.push(values[1] === undefined ? last : seven(values[1], 'The second value'));
  return Uint8Array.from([first, ...bytes]);
}

/** A message that came, in words; bytes in hex for what has no name. */
export function midiWords(bytes: Uint8Array | readonly number[]): string {
  const [status = 0, a = 0, b = 0] = bytes;
  const name = status >= 0x80 && status < 0xf0 ? NAMES.get(status & 0xf0) : undefined;
  if (name === undefined)
    return [...bytes]
      .slice(0, 64)
      .map((x) => x.toString(16).padStart(2, '0'))
      .join(' ');
  const channel = (status & 0x0f) === 0 ? '' : ` channel ${(status & 0x0f) + 1}`;
  if (name === 'bend') return `bend ${Math.round((((b << 7) | a) / 8192 - 1) * 1000) / 1000}${channel}`;
  return `${name} ${a}${VALUES[name]?.[0] === 2 ? ` ${b}` : ''}${channel}`;
}
