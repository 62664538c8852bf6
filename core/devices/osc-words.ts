/** Arguments of OSC in words, as they are typed and as they are logged: `1 0.5 "pier wall" true nil blob:0a0b`. */
import { type OscArgument, OscError, type OscMessage } from './osc';

/** Arguments of a message at most. */
const MOST_ARGUMENTS = 200;

const TOKEN = /\s*(?:"((?:[^"\\]|\\.)*)"|(\S+))/gy;

function argumentOf(word: string): OscArgument {
  if (word === 'true') return { type: 'T', value: true };
  if (word === 'false') return { type: 'F', value: false };
  if (word === 'nil') return { type: 'N', value: null };
  if (word === 'impulse') return { type: 'I', value: true };
  const blob = /^blob:((?:[0-9a-f]{2})*)$/i.exec(word);
  if (blob) return { type: 'b', value: Uint8Array.from((blob[1] ?? '').match(/../g) ?? [], (h) => parseInt(h, 16)) };
  const typed = /^([ifdhs]):(.*)$/s.exec(word);
  const text = typed ? (typed[2] ?? '') : word;
  const number = /^[-+]?(\d+\.?\d*|\.\d+)(e[-+]?\d+)?$/i.test(text) ? Number(text) : null;
  if (typed) {
    const type = typed[1] as string;
    if (type === 's') return { type, value: text };
    if (number === null) throw new OscError(`“${word.slice(0, 40)}” is no number.`);
    if (type === 'h') return { type, value: BigInt(Math.trunc(number)) };
    return { type, value: number };
  }
  if (number === null) return { type: 's', value: word };
  const whole = /^[-+]?\d+$/.test(word);
  if (whole && (number > 0x7fffffff || number < -0x80000000)) return { type: 'h', value: BigInt(word) };
  return { type: whole ? 'i' : 'f', value: number };
}

/** Arguments as they are typed. Whole numbers are `i`, others `f`, anything else is text; `f:1`, `s:12`, `d:`, `h:` say which is meant. @throws OscError */
export function readArguments(words: string): OscArgument[] {
  const args: OscArgument[] = [];
  TOKEN.lastIndex = 0;
  let at = 0;
  while (words.slice(at).trim() !== '') {
    TOKEN.lastIndex = at;
    const match = TOKEN.exec(words);
    if (!match) throw new OscError('A text has no closing quote.');
    at = TOKEN.lastIndex;
    const [, quoted, word = ''] = match;
    if (quoted === undefined && word.startsWith('"')) throw new OscError('A text has no closing quote.');
    args.push(quoted === undefined ? argumentOf(word) : { type: 's', value: quoted.replace(/\\(.)/gs, '$1') });
    if (args.length > MOST_ARGUMENTS) throw new OscError(`A message has at most ${MOST_ARGUMENTS} arguments.`);
  }
  return args;
}

/** A number of 32 bits as short as it is the same again. */
const floatWords = (value: number): string => {
  const short = Number(value.toPrecision(7));
  const words = String(Math.fround(short) === value ? short : value);
  return /^-?\d+$/.test(words) ? `${words}.0` : words;
};

function valueWords({ type, value }: OscArgument): string {
  if (value === null) return 'nil';
  if (value instanceof Uint8Array) return `blob:${[...value].map((b) => b.toString(16).padStart(2, '0')).join('')}`;
  if (type === 'I') return 'impulse';
  if (type === 'f') return floatWords(Number(value));
  if (type === 'd' || type === 'h') return `${type}:${value}`;
  if (typeof value !== 'string') return String(value);
  const bare = /^[^\s"\\:]+$/.test(value) && argumentOf(value).type === 's';
  return bare ? value : `"${value.replace(/["\\]/g, '\\$&')}"`;
}

/** A message as one line: the address and its arguments. */
export const oscWords = ({ address, args }: OscMessage): string => [address, ...args.map(valueWords)].join(' ');
