/** Steps in words: "Show *Names* with *Maren Tolv*". */
import { type Command } from '../commands/command';
import { nameOf } from '../desk/entities';
import { walkRefs } from '../desk/refs';
import { findCommand } from '../desk/registry';
import { type Show } from '../desk/show';
import { type FieldInfo, fieldMap } from '../schema/fields';
import { type RefTarget } from '../schema/kinds';
import { formatClock } from '../graphics/clocks';
import { askedIn } from './asked';
import { type StepAct, type UntilAct } from './document';
import { WAITS } from './waits';

/** A piece of a sentence; what stands for a thing or a value is strong. */
export interface Word {
  text: string;
  strong: boolean;
}

const MOST_TEXT = 60;
const cut = (text: string): string => (text.length > MOST_TEXT ? `${text.slice(0, MOST_TEXT - 1)}…` : text);

/** A value as it is read: numbers with at most three digits after the point, what is long cut. */
function plainWords(value: unknown): string {
  if (value === null) return 'nothing';
  if (value === true) return 'on';
  if (value === false) return 'off';
  if (typeof value === 'number') return String(Math.round(value * 1000) / 1000);
  if (typeof value === 'string') return cut(value);
  if (Array.isArray(value)) return value.length === 1 ? plainWords(value[0]) : `${value.length} values`;
  const inner = Object.entries(value as object).filter(([key]) => key !== 'kind');
  return inner.length === 1 ? plainWords(inner[0]?.[1]) : cut(inner.map(([key, v]) => `${key} ${plainWords(v)}`).join(', '));
}

/** The value of an argument, things of the show by their names. */
function argumentWords(show: Show, field: FieldInfo | undefined, value: unknown, by: Record<string, unknown>): string {
  const asked = askedIn(value);
  if (asked !== null) return `‹${asked}›`;
  if (field?.ref && typeof value === 'string') {
    const to = field.ref.by === undefined ? field.ref.to[0] : field.ref.to.find((t) => t === by[field.ref?.by as string]);
    return to ? nameOf(show, to, value) : plainWords(value);
  }
  if (field?.ref && Array.isArray(value)) {
    const to = field.ref.to[0] as RefTarget;
    return cut(value.map((id) => nameOf(show, to, String(id))).join(', '));
  }
  if (field?.nested && !field.nested.list && typeof value === 'object' && value !== null) {
    const inner = fieldMap(field.nested.of());
    const raw = value as Record<string, unknown>;
    const refs = [...inner.values()].filter((f) => f.ref && typeof raw[f.name] === 'string');
    if (refs.length > 0) return refs.map((f) => argumentWords(show, f, raw[f.name], raw)).join(', ');
  }
  return plainWords(value);
}

/** A command with its arguments as a sentence. */
export function commandWords(show: Show, { type, args = {} }: Command): Word[] {
  const spec = findCommand(type);
  if (!spec) return [{ text: `“${cut(type)}”, which is no command here`, strong: false }];
  const fields = fieldMap(spec.args);
  const said = (name: string): Word => ({ text: argumentWords(show, fields.get(name), args[name], args), strong: true });
  const { says: phrase } = spec;
  const left = [...(phrase ?? '').matchAll(/\{(\w+)\}/g)].some(([, name = '']) => fields.get(name)?.optional && args[name] === undefined);
  if (phrase !== undefined && !left) {
    const words: Word[] = [];
    for (const piece of phrase.split(/(\{\w+\})/)) {
      if (piece === '') continue;
      const name = /^\{(\w+)\}$/.exec(piece)?.[1];
      if (name === undefined) words.push({ text: piece, strong: false });
      else words.push(Object.hasOwn(args, name) ? said(name) : { text: '?', strong: true });
    }
    return words;
  }
  const rest = [...fields.values()].filter((f) => Object.hasOwn(args, f.name) && args[f.name] !== undefined);
  return [
    { text: rest.length === 0 ? spec.title : `${spec.title}: `, strong: false },
    ...rest.flatMap((f, i): Word[] => [
      ...(i > 0 ? [{ text: ', ', strong: false }] : []),
      ...(f.ref ? [] : [{ text: `${f.name} `, strong: false }]),
      said(f.name),
    ]),
  ];
}

function untilWords(show: Show, act: UntilAct): Word[] {
  const { words, after, of } = WAITS[act.event];
  const plain = (text: string): Word => ({ text, strong: false });
  const strong = (text: string): Word => ({ text, strong: true });
  if (of) {
    const id = act[of.field];
    return [plain('Wait until '), strong(typeof id === 'string' ? nameOf(show, of.to, id) : 'nothing yet'), plain(` ${after}`)];
  }
  if (act.event === 'press') return [plain(`Wait for ${words}`)];
  if (act.event === 'roll') return [plain('Wait until the play-out of '), strong(`deck ${act.deck ?? '?'}`), plain(' has ended')];
  if (act.event === 'time')
    return [plain('Wait until '), strong(act.time === null ? 'no time yet' : formatClock(act.time, 'h:mm:ss', false, show.rate))];
  return [plain(`Wait until ${words}`)];
}

/** What a step does, as a sentence. */
export function actWords(show: Show, act: StepAct): Word[] {
  if (act.kind === 'command') return commandWords(show, act);
  if (act.kind === 'until') return untilWords(show, act);
  const unit = act.unit === 'frames' ? (act.amount === 1 ? 'frame' : 'frames') : 's';
  return [
    { text: 'Wait ', strong: false },
    { text: `${plainWords(act.amount)} ${unit}`, strong: true },
  ];
}

/** A sentence as plain text. */
export const sentence = (words: readonly Word[]): string => words.map((w) => w.text).join('');

/** What a command names of the show: identities with what they should be. */
export function namedBy({ type, args = {} }: Command): { id: string; to: RefTarget }[] {
  const spec = findCommand(type);
  const named: { id: string; to: RefTarget }[] = [];
  if (spec) walkRefs(spec.args, args, ({ id, to }) => named.push({ id, to }));
  return named;
}
