/** Macros as a file: JSON with the names of all that their steps name, so that another show can find its own things for them. */
import { entitiesOf, nameOf } from '../desk/entities';
import { rename, walkNamed } from '../desk/named';
import { type Show } from '../desk/show';
import { check } from '../schema/check';
import { isTooDeep } from '../schema/depth';
import { kindsOf, OUTSIDE, REF_TARGETS, type RefTarget } from '../schema/kinds';
import { plainCopy } from '../schema/plain-copy';
import { Macro, MOST_MACROS, Step } from './document';

const VERSION = 1;
/** Characters of a file. */
export const MOST_TEXT = 10_000_000;

/** Why a file cannot be used: place, cause and remedy. */
export class MacroFileError extends Error {}

/** Something that steps name. */
export interface Named {
  id: string;
  to: RefTarget;
  /** What it was called where the file was made. */
  name: string;
}

export interface MacroFile {
  macros: Macro[];
  named: Named[];
}

/** What a step names of the show, waits too. */
function namedIn(step: Step): { id: string; to: RefTarget }[] {
  const named: { id: string; to: RefTarget }[] = [];
  walkNamed(Step, step, ({ id, to }) => named.push({ id, to }));
  return named;
}

/** Everything that these macros name, each once. */
function allNamed(macros: readonly Macro[]): { id: string; to: RefTarget }[] {
  const found = new Map<string, RefTarget>();
  for (const { steps } of macros) for (const step of steps) for (const { id, to } of namedIn(step)) if (!found.has(id)) found.set(id, to);
  return [...found].map(([id, to]) => ({ id, to }));
}

/** The text of a file of these macros. */
export function writeMacroFile(show: Show, ids: readonly string[]): string {
  const macros = show.automation.macros.filter((m) => ids.includes(m.id));
  const named = allNamed(macros).map(({ id, to }) => ({ id, to, name: nameOf(show, to, id) }));
  return JSON.stringify({ format: 'bivoca-macros', version: VERSION, macros, named }, null, 2);
}

/** @throws MacroFileError when it is no such file, is damaged, too new or too large: nothing has changed then. */
export function readMacroFile(text: string): MacroFile {
  if (text.length > MOST_TEXT) throw new MacroFileError('The file is larger than any file of macros is (10 MB). Choose another.');
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch (error) {
    throw new MacroFileError(
      `The file is no JSON, or cut off: ${error instanceof Error ? error.message : 'it cannot be read'}. Save it again where it was made.`,
    );
  }
  const { format, version, macros, named } = (raw ?? {}) as Record<string, unknown>;
  if (format !== 'bivoca-macros') throw new MacroFileError('This is no file of macros: its format mark is missing.');
  if (typeof version !== 'number' || version > VERSION)
    throw new MacroFileError(
      `The file is of version ${JSON.stringify(version)}; this Bivoca reads up to ${VERSION}. Update it to bring it in.`,
    );
  if (!Array.isArray(macros) || macros.length === 0 || macros.length > MOST_MACROS)
    throw new MacroFileError('There are no macros in the file.');
  if (isTooDeep(raw)) throw new MacroFileError('The file is nested deeper than any macro is.');
  for (const [i, macro] of (macros as unknown[]).entries()) {
    const [problem] = check(Macro, macro, `macros[${i}]`);
    if (problem) throw new MacroFileError(`${problem.path} ${problem.message}. Mend it in the file, or save it again where it was made.`);
  }
  const names = new Map<string, string>();
  for (const one of Array.isArray(named) ? (named as unknown[]) : []) {
    const { id, name } = (one ?? {}) as Record<string, unknown>;
    if (typeof id === 'string' && typeof name === 'string') names.set(id, name.slice(0, 120));
  }
  const list = macros as Macro[];
  return { macros: list, named: allNamed(list).map(({ id, to }) => ({ id, to, name: names.get(id) ?? id })) };
}

export interface Missing extends Named {
  /** What of the same name stands in this show; null where nothing does. */
  like: string | null;
}

/** What a file names that this show does not have. */
export function missingOf(show: Show, { macros, named }: MacroFile): Missing[] {
  const own = new Set(macros.map((m) => m.id));
  return named.flatMap(({ id, to, name }): Missing[] => {
    if (own.has(id) || kindsOf(to).every((k) => OUTSIDE.includes(k))) return [];
    const list = entitiesOf(show, to);
    if (list.some((e) => e.id === id)) return [];
    return [{ id, to, name, like: list.find((e) => e.name === name)?.id ?? null }];
  });
}

/** Words for what something is. */
export const kindWords = (to: RefTarget): string => REF_TARGETS[to].words;

/** What becomes of a macro of a file. */
export type Decision = { kind: 'new' } | { kind: 'replace'; id: string } | { kind: 'leave' };

/**
 * The macros of a file as they come into a show: with identities of their own or those of the macros that they replace, things put in the place of
 * those that are missing, and steps left out that name what has none. Numbers that are taken are given up. Pure.
 */
export function macrosFor(
  show: Show,
  file: MacroFile,
  decisions: ReadonlyMap<string, Decision>,
  places: ReadonlyMap<string, string | null>,
  newId: () => string,
): Macro[] {
  const coming = file.macros.filter((m) => (decisions.get(m.id) ?? { kind: 'new' }).kind !== 'leave');
  const ids = new Map(
    coming.map((m) => {
      const decision = decisions.get(m.id);
      return [m.id, decision?.kind === 'replace' ? decision.id : newId()] as const;
    }),
  );
  const names = new Map([...ids, ...[...places].flatMap(([from, to]) => (to === null ? [] : [[from, to] as const]))]);
  const left = new Set([...places].flatMap(([from, to]) => (to === null ? [from] : [])));
  for (const m of file.macros) if (!ids.has(m.id) && !show.automation.macros.some((own) => own.id === m.id)) left.add(m.id);
  const taken = new Set(show.automation.macros.flatMap((m) => (m.number === null || [...ids.values()].includes(m.id) ? [] : [m.number])));
  return coming.map((macro): Macro => {
    const steps = macro.steps.flatMap((step) => {
      if (namedIn(step).some(({ id }) => left.has(id))) return [];
      const copy = { ...plainCopy(step), id: newId() };
      walkNamed(Step, copy, (found) => rename(found, names.get(found.id) ?? found.id));
      return [copy];
    });
    const fallback =
      macro.fallbackId === null
        ? null
        : (ids.get(macro.fallbackId) ?? (show.automation.macros.some((m) => m.id === macro.fallbackId) ? macro.fallbackId : null));
    return {
      ...macro,
      id: ids.get(macro.id) as string,
      number: macro.number !== null && taken.has(macro.number) ? null : macro.number,
      fallbackId: fallback,
      steps,
    };
  });
}
