/** Checks raw data against described classes and names every fault by its path. */
import { faultyFields } from './faulty-fields';
import { type Constructor, type FieldInfo, fieldMap } from './fields';
import { isRecord } from './record';

/** One fault: where (`sources[2].name`), and what is wrong in plain words. */
export interface Problem {
  path: string;
  message: string;
}

/** Faults that are looked for: nobody reads more, and a damaged file may have hundreds of thousands. */
const MOST_PROBLEMS = 200;

const join = (path: string, key: string) => (path === '' ? key : `${path}.${key}`);

/**
 * All faults of `raw` as an instance of `of`; empty when it fits exactly. Unknown fields are faults: a typing
 * mistake in a field's name must not pass silently.
 */
export function check(of: Constructor, raw: unknown, path = ''): Problem[] {
  if (!isRecord(raw)) return [{ path: path || '(all)', message: 'must be an object' }];
  const known = fieldMap(of);
  let problems: Problem[] = [];
  const instance = new of() as Record<string, unknown>;
  for (const key of Object.keys(raw)) {
    if (!known.has(key)) {
      if (problems.length < MOST_PROBLEMS) problems.push({ path: join(path, key.slice(0, 80)), message: 'is not a known field' });
    } else instance[key] = raw[key];
  }
  for (const name of faultyFields(of, instance)) {
    problems.push({ path: join(path, name), message: messageFor(known.get(name), raw[name]) });
  }
  const faulty = new Set(problems.map((p) => p.path));
  for (const info of known.values()) {
    if (!info.nested && !info.variant) continue;
    const place = join(path, info.name);
    if (!faulty.has(place) && problems.length < MOST_PROBLEMS) problems = problems.concat(checkNested(info, raw[info.name], place));
  }
  return problems;
}

function messageFor(info: FieldInfo | undefined, value: unknown): string {
  if (value === undefined) return 'is missing';
  const shown = typeof value === 'string' ? `"${value.slice(0, 40)}"` : String(JSON.stringify(value) ?? value).slice(0, 40);
  return `must be ${info?.type ?? 'valid'}${info?.nullable ? ' or null' : ''}, not ${shown}`;
}

function checkNested(info: FieldInfo, value: unknown, path: string): Problem[] {
  if (value === undefined || value === null) return [];
  if (info.variant) {
    const of = isRecord(value) ? info.variant(value) : null;
    return of ? check(of, value, path) : [{ path, message: 'is of no known kind' }];
  }
  if (!info.nested) return [];
  const { of, list } = info.nested;
  if (!list) return check(of(), value, path);
  let problems: Problem[] = [];
  for (const [index, item] of (value as unknown[]).entries()) {
    if (problems.length >= MOST_PROBLEMS) break;
    problems = problems.concat(check(of(), item, `${path}[${index}]`));
  }
  return problems;
}
