/** A macro as text: the same steps as JSON that can be read and typed. What is wrong is told by its path; the text and the list of steps are one thing. */
import { refProblems } from '../desk/missing';
import { findCommand } from '../desk/registry';
import { type Show } from '../desk/show';
import { check } from '../schema/check';
import { type Constructor } from '../schema/fields';
import { isTooDeep } from '../schema/depth';
import { isRecord } from '../schema/record';
import { askedNames, filledArgs, trialMap } from './asked';
import { createStep, untilAct } from './create';
import {
  Asked,
  type Macro,
  MOST_ASKED,
  MOST_STEPS,
  ON_FAILURE,
  type Step,
  type StepAct,
  UNTIL_EVENTS,
  UntilAct,
  type UntilEvent,
  WAIT_UNITS,
  WaitAct,
} from './document';
import { canBeStep } from './record';

/** A place in the text: names and places from its root. */
export type TextPath = (string | number)[];

export interface TextFault {
  path: TextPath;
  message: string;
}

/** What a text says of a macro. */
export interface MacroWords {
  name: string;
  note: string;
  onFailure: Macro['onFailure'];
  asks: Asked[];
  steps: Step[];
}

/** Names that every step may have beside what it does. */
const BESIDE = ['off', 'together', 'note', 'group'] as const;
/** What a step of each kind begins with, and the other names that it may have. */
export const STEP_NAMES: Record<StepAct['kind'], { first: string; more: readonly string[] }> = {
  command: { first: 'do', more: ['with'] },
  wait: { first: 'wait', more: ['unit'] },
  until: { first: 'until', more: ['clockId', 'sourceId', 'macroId', 'deck', 'time'] },
};
export const TOP_NAMES = ['name', 'note', 'onFailure', 'asks', 'steps'] as const;
/** Names of something that is asked for. */
export const ASKED_NAMES = ['name', 'kind', 'otherwise'] as const;
export const STEP_KEYS: readonly string[] = [...Object.values(STEP_NAMES).flatMap((n) => [n.first, ...n.more]), ...BESIDE];

function actWords(act: StepAct): Record<string, unknown> {
  if (act.kind === 'command') return { do: act.type, ...(Object.keys(act.args).length > 0 && { with: act.args }) };
  if (act.kind === 'wait') return { wait: act.amount, unit: act.unit };
  const { event, clockId, sourceId, macroId, deck, time } = act;
  return {
    until: event,
    ...Object.fromEntries(Object.entries({ clockId, sourceId, macroId, deck, time }).filter(([, value]) => value !== null)),
  };
}

const stepWords = ({ act, on, joined, note, group }: Step): Record<string, unknown> => ({
  ...actWords(act),
  ...(!on && { off: true }),
  ...(joined && { together: true }),
  ...(note !== '' && { note }),
  ...(group !== '' && { group }),
});

/** JSON on one line, with blanks where a person would put them. */
function inline(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(inline).join(', ')}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  const entries = Object.entries(value).filter(([, v]) => v !== undefined);
  return entries.length === 0 ? '{}' : `{ ${entries.map(([key, v]) => `${JSON.stringify(key)}: ${inline(v)}`).join(', ')} }`;
}

/** A macro as text, a line for each step. */
export function macroText({ name, note, onFailure, asks, steps }: Macro): string {
  const list = (lines: readonly string[]) => `[${lines.length > 0 ? `\n${lines.map((l) => `    ${l}`).join(',\n')}\n  ` : ''}]`;
  const head = [`  "name": ${JSON.stringify(name)},`, `  "note": ${JSON.stringify(note)},`, `  "onFailure": ${JSON.stringify(onFailure)},`];
  const asked = asks.map(({ name: called, kind, otherwise }) => inline({ name: called, kind, ...(otherwise !== '' && { otherwise }) }));
  if (asks.length > 0) head.push(`  "asks": ${list(asked)},`);
  return `{\n${head.join('\n')}\n  "steps": ${list(steps.map((s) => inline(stepWords(s))))}\n}\n`;
}

type Raw = Record<string, unknown>;

/** A path of a problem, such as `boxes[0].content.id`, as names and places. */
const placesOf = (path: string): TextPath => path.split(/[.[\]]/).flatMap((p) => (p === '' ? [] : [/^\d+$/.test(p) ? Number(p) : p]));

class Reader {
  readonly faults: TextFault[] = [];
  /** What its steps may ask for. */
  private asks: readonly Asked[] = [];
  private trial: ReadonlyMap<string, unknown> = new Map();

  constructor(private readonly show: Show) {}

  fault(path: TextPath, message: string): void {
    this.faults.push({ path, message });
  }

  private checked(of: Constructor, value: object, path: TextPath): boolean {
    const problems = [...check(of, value), ...refProblems(this.show, of, value)];
    for (const { path: at, message } of problems) this.fault([...path, ...placesOf(at)], message);
    return problems.length === 0;
  }

  private command(raw: Raw, path: TextPath): StepAct | null {
    const { do: type } = raw;
    const args = raw.with ?? {};
    const spec = typeof type === 'string' ? findCommand(type) : undefined;
    if (!spec)
      this.fault([...path, 'do'], typeof type === 'string' ? `there is no command “${type.slice(0, 60)}”` : 'says which command, as text');
    else if (!canBeStep(spec)) this.fault([...path, 'do'], `${spec.title} is nothing that a macro can do`);
    if (!isRecord(args)) {
      this.fault([...path, 'with'], 'holds the arguments by their names');
      return null;
    }
    for (const name of askedNames(args))
      if (!this.asks.some((a) => a.name === name)) this.fault([...path, 'with'], `the macro does not ask for “${name.slice(0, 60)}”`);
    if (spec) this.checked(spec.args, filledArgs(args, this.trial), [...path, 'with']);
    return typeof type === 'string' ? { kind: 'command', type: type.slice(0, 60), args } : null;
  }

  private act(raw: Raw, path: TextPath): StepAct | null {
    const kinds = (Object.keys(STEP_NAMES) as StepAct['kind'][]).filter((kind) => Object.hasOwn(raw, STEP_NAMES[kind].first));
    const [kind] = kinds;
    if (kind === undefined || kinds.length > 1) {
      this.fault(path, kind === undefined ? 'a step has “do”, “wait” or “until”' : 'a step has one of “do”, “wait” and “until”');
      return null;
    }
    const names: readonly string[] = [STEP_NAMES[kind].first, ...STEP_NAMES[kind].more, ...BESIDE];
    for (const name of Object.keys(raw))
      if (!names.includes(name)) this.fault([...path, name], `there is no “${name.slice(0, 40)}” here; there is ${names.join(', ')}`);
    if (kind === 'command') return this.command(raw, path);
    if (kind === 'wait') {
      const act = { kind, amount: raw.wait as number, unit: (raw.unit ?? 'seconds') as WaitAct['unit'] };
      if (typeof act.amount !== 'number') this.fault([...path, 'wait'], 'is how long, as a number');
      else if (!WAIT_UNITS.includes(act.unit)) this.fault([...path, 'unit'], `is one of ${WAIT_UNITS.join(', ')}`);
      else if (this.checked(WaitAct, act, path)) return act;
      return null;
    }
    const event = raw.until;
    if (!UNTIL_EVENTS.includes(event as UntilEvent)) {
      this.fault([...path, 'until'], `is one of ${UNTIL_EVENTS.join(', ')}`);
      return null;
    }
    const change = Object.fromEntries(STEP_NAMES.until.more.flatMap((name) => (Object.hasOwn(raw, name) ? [[name, raw[name]]] : [])));
    const act = untilAct(event as UntilEvent, change as Partial<UntilAct>);
    return this.checked(UntilAct, act, path) ? act : null;
  }

  /** What the macro asks for; each keeps who it is by its name, otherwise by its place. */
  asked(raw: unknown, macro: Macro, newId: () => string): Asked[] {
    const list: unknown[] = Array.isArray(raw) ? raw : [];
    if (raw !== undefined && !Array.isArray(raw)) this.fault(['asks'], 'is the list of what it asks for');
    if (list.length > MOST_ASKED) this.fault(['asks'], `has ${list.length}; a macro asks for at most ${MOST_ASKED}`);
    const names = list.map((one) => (isRecord(one) ? one.name : undefined));
    const asks = list.slice(0, MOST_ASKED).map((one, i) => {
      const path = ['asks', i];
      const { name = '', kind = '', otherwise = '', ...rest } = isRecord(one) ? one : {};
      for (const more of Object.keys(rest))
        this.fault([...path, more], `there is no “${more.slice(0, 40)}” here; there is ${ASKED_NAMES.join(', ')}`);
      const there = macro.asks.find((a) => a.name === name) ?? macro.asks[i];
      const id = there && (there.name === name || !names.includes(there.name)) ? there.id : newId();
      const made = { id, name, kind, otherwise } as Asked;
      this.checked(Asked, made, path);
      if (names.indexOf(name) !== i) this.fault([...path, 'name'], 'is the name of another already');
      return made;
    });
    this.asks = asks;
    this.trial = trialMap(this.show, { ...macro, asks });
    return asks;
  }

  step(raw: unknown, path: TextPath): Omit<Step, 'id'> | null {
    if (!isRecord(raw)) {
      this.fault(path, 'a step is written in braces');
      return null;
    }
    const flag = (name: 'off' | 'together') => {
      if (raw[name] !== undefined && typeof raw[name] !== 'boolean') this.fault([...path, name], 'is true or false');
      return raw[name] === true;
    };
    const text = (name: 'note' | 'group', most: number) => {
      const value = raw[name] ?? '';
      if (typeof value !== 'string' || value.length > most) this.fault([...path, name], `is a text of at most ${most} characters`);
      return typeof value === 'string' ? value.slice(0, most) : '';
    };
    const act = this.act(raw, path);
    const beside = { on: !flag('off'), joined: flag('together'), note: text('note', 200), group: text('group', 40) };
    return act && { act, ...beside };
  }
}

/** Steps keep who they are: those that say the same, in order, and after them those at the same place. */
function withIds(steps: readonly Omit<Step, 'id'>[], before: readonly Step[], newId: () => string): Step[] {
  const key = ({ act, on, joined, note, group }: Omit<Step, 'id'>) => JSON.stringify([act, on, joined, note, group]);
  const free = new Map<string, string[]>();
  for (const step of before) free.set(key(step), [...(free.get(key(step)) ?? []), step.id]);
  const taken = new Set<string>();
  const same = steps.map((step) => {
    const id = free.get(key(step))?.shift();
    if (id !== undefined) taken.add(id);
    return id;
  });
  return steps.map((step, i) => {
    const there = before[i]?.id;
    let id = same[i];
    if (id === undefined && there !== undefined && !taken.has(there)) id = there;
    id ??= newId();
    taken.add(id);
    return createStep(id, step.act, step);
  });
}

/** What a text says, once it is JSON; every fault with its path. Nothing is to be changed while there are any. */
export function readMacroText(
  show: Show,
  macro: Macro,
  value: unknown,
  newId: () => string,
): { words: MacroWords | null; faults: TextFault[] } {
  const only = (message: string, path: TextPath = []) => ({ words: null, faults: [{ path, message }] });
  if (!isRecord(value)) return only('a macro is written in braces, with its steps in them');
  if (isTooDeep(value)) return only('it is nested deeper than any macro is');
  const reader = new Reader(show);
  for (const name of Object.keys(value))
    if (!(TOP_NAMES as readonly string[]).includes(name))
      reader.fault([name], `there is no “${name.slice(0, 40)}” here; there is ${TOP_NAMES.join(', ')}`);
  const { name = macro.name, note = macro.note, onFailure = macro.onFailure, steps } = value;
  if (typeof name !== 'string' || name === '' || name.length > 60) reader.fault(['name'], 'is a text of 1 to 60 characters');
  if (typeof note !== 'string' || note.length > 400) reader.fault(['note'], 'is a text of at most 400 characters');
  if (!ON_FAILURE.includes(onFailure as Macro['onFailure'])) reader.fault(['onFailure'], `is one of ${ON_FAILURE.join(', ')}`);
  const asks = reader.asked(value.asks, macro, newId);
  if (!Array.isArray(steps)) reader.fault(['steps'], 'is the list of steps');
  else if (steps.length > MOST_STEPS) reader.fault(['steps'], `has ${steps.length} steps; a macro has at most ${MOST_STEPS}`);
  const read = Array.isArray(steps) ? steps.slice(0, MOST_STEPS).map((s: unknown, i) => reader.step(s, ['steps', i])) : [];
  if (reader.faults.length > 0) return { words: null, faults: reader.faults };
  const sound = read.flatMap((s) => s ?? []);
  return {
    words: {
      name: name as string,
      note: note as string,
      onFailure: onFailure as Macro['onFailure'],
      asks,
      steps: withIds(sound, macro.steps, newId),
    },
    faults: [],
  };
}
