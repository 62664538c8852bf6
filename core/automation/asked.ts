/** What macros ask for when they are run: checked, and put into their steps. */
import { CommandError } from '../commands/command';
import { entitiesOf, entityNamed, nameOf } from '../desk/entities';
import { type Show } from '../desk/show';
import { type RefTarget } from '../schema/kinds';
import { isRecord } from '../schema/record';
import { type Asked, ASKED_KINDS, type AskedKind, type Macro, type Step } from './document';

/** The things of the show that can be given for a kind; null for numbers and texts. */
export const ASKED_TARGETS: Record<AskedKind, RefTarget | null> = {
  picture: 'picture',
  source: 'source',
  layout: 'layout',
  seat: 'seat',
  entry: 'entry',
  lane: 'lane',
  clock: 'clock',
  clip: 'clip',
  message: 'message',
  number: null,
  text: null,
};

/** The name of what stands for a value; null for values that are given as they are. */
export function askedIn(value: unknown): string | null {
  if (!isRecord(value)) return null;
  const { asked, ...rest } = value;
  return typeof asked === 'string' && Object.keys(rest).length === 0 ? asked : null;
}

/** A value with all that is asked for put in, however deep it stands. */
function filled(value: unknown, values: ReadonlyMap<string, unknown>): unknown {
  const name = askedIn(value);
  if (name !== null) return values.has(name) ? values.get(name) : value;
  if (Array.isArray(value)) return (value as unknown[]).map((v) => filled(v, values));
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, v]) => [key, filled(v, values)]));
}

/** Arguments with what was asked for in its places. */
export const filledArgs = (args: Record<string, unknown>, values: ReadonlyMap<string, unknown>): Record<string, unknown> =>
  filled(args, values) as Record<string, unknown>;

/** Names of all that these arguments ask for. */
export function askedNames(value: unknown): string[] {
  const name = askedIn(value);
  if (name !== null) return [name];
  if (typeof value !== 'object' || value === null) return [];
  return Object.values(value).flatMap(askedNames);
}

/** Steps with what was asked for in its places. */
export const filledSteps = (steps: readonly Step[], values: ReadonlyMap<string, unknown>): Step[] =>
  values.size === 0
    ? [...steps]
    : steps.map((step) =>
        step.act.kind === 'command' ? { ...step, act: { ...step.act, args: filledArgs(step.act.args, values) } } : step,
      );

/** A value as it goes into steps. @throws CommandError when it is none of its kind. */
function valueOf(show: Show, macro: Macro, { name, kind }: Asked, raw: unknown): unknown {
  const wrong = (why: string) => new CommandError('macro-asks', `${macro.name}: ${name} ${why}.`, 'given');
  if (kind === 'text') {
    if (typeof raw !== 'string' && typeof raw !== 'number') throw wrong('is a text');
    return String(raw).slice(0, 1000);
  }
  if (kind === 'number') {
    const value = typeof raw === 'string' && raw.trim() !== '' ? Number(raw) : raw;
    if (typeof value !== 'number' || !Number.isFinite(value)) throw wrong('is a number');
    return value;
  }
  const to = ASKED_TARGETS[kind] as RefTarget;
  // People and devices say names; what is stored is the identity.
  const found = typeof raw === 'string' ? (entitiesOf(show, to).find((e) => e.id === raw) ?? entityNamed(show, to, raw)) : undefined;
  if (!found) throw wrong(`is “${String(raw).slice(0, 60)}”, and no ${kind} here is called so`);
  return found.id;
}

/** What a macro is run with. @throws CommandError when something is missing, is not asked for, or is none of its kind. */
export function givenValues(show: Show, macro: Macro, given: Record<string, unknown> = {}): Map<string, unknown> {
  const unknown = Object.keys(given).find((name) => !macro.asks.some((a) => a.name === name));
  if (unknown !== undefined) throw new CommandError('macro-asks', `${macro.name} does not ask for “${unknown.slice(0, 60)}”.`, 'given');
  const values = new Map<string, unknown>();
  for (const asked of macro.asks) {
    const raw = Object.hasOwn(given, asked.name) ? given[asked.name] : asked.otherwise;
    if (raw === '' && asked.kind !== 'text')
      throw new CommandError(
        'macro-asks',
        `${macro.name} asks for ${asked.name}: give it along, or say in the macro what it is otherwise.`,
        'given',
      );
    values.set(asked.name, valueOf(show, macro, asked, raw));
  }
  return values;
}

/** A value to try a macro with: what it is otherwise, or the first there is. */
function trialValue(show: Show, { kind, otherwise }: Asked): unknown {
  if (otherwise !== '') return otherwise;
  const to = ASKED_TARGETS[kind];
  return to === null ? (kind === 'number' ? 0 : '') : (entitiesOf(show, to)[0]?.id ?? '');
}

/** Values to try a macro with, by name. */
export const trialValues = (show: Show, { asks }: Macro): Record<string, unknown> =>
  Object.fromEntries(asks.map((asked) => [asked.name, trialValue(show, asked)]));

/** What something that is asked for is otherwise, in words; empty where it has to be given. */
export function otherwiseWords(show: Show, { kind, otherwise }: Asked): string {
  const to = ASKED_TARGETS[kind];
  return to === null || otherwise === '' ? otherwise : nameOf(show, to, otherwise);
}

/** The values of a trial as they go into steps: of what is faulty itself, none. */
export function trialMap(show: Show, macro: Macro): Map<string, unknown> {
  const sound = macro.asks.filter((asked) => ASKED_KINDS.includes(asked.kind));
  return new Map(
    sound.flatMap((asked): [string, unknown][] => {
      try {
        return [[asked.name, valueOf(show, macro, asked, trialValue(show, asked))]];
      } catch (error) {
        if (error instanceof CommandError) return [];
        throw error;
      }
    }),
  );
}
