/** How deep data from outside is nested. */

/** Nesting of anything that the app understands is far below this. */
export const DEEPEST_DATA = 40;

/** True when `value` (data as JSON gives it) is nested more than `limit` deep. Not recursive: it is asked of data that would overflow whoever is. */
export function isTooDeep(value: unknown, limit = DEEPEST_DATA): boolean {
  let level: unknown[] = [value];
  for (let depth = 0; level.length > 0; depth += 1) {
    const below: unknown[] = [];
    for (const item of level) if (typeof item === 'object' && item !== null) pushAll(below, Object.values(item));
    if (below.length > 0 && depth >= limit) return true;
    level = below;
  }
  return false;
}

/** Not by spreading: arguments are limited in number. */
function pushAll(onto: unknown[], values: readonly unknown[]): void {
  for (const value of values) if (typeof value === 'object' && value !== null) onto.push(value);
}
