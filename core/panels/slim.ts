/** Makes patches small: a list of thousands in which little has changed is not sent anew. */
import { type Patch } from 'immer';

/** Changes inside one list from which on the list is compared as a whole. */
const MANY = 8;

const valueAt = (root: unknown, path: readonly (string | number)[]): unknown =>
  path.reduce<unknown>((node, key) => (node as Record<string | number, unknown> | undefined)?.[key], root);

/**
 * What turns one list into another, as patches in order: first what leaves, the last first, then what comes. Items are the same when they are
 * the very same object, as they are in documents that share what has not changed; so lists that are moved about come out as they went in.
 */
export function listPatches(path: readonly (string | number)[], before: readonly unknown[], after: readonly unknown[]): Patch[] {
  let start = 0;
  while (start < before.length && start < after.length && before[start] === after[start]) start += 1;
  let end = 0;
  while (end < before.length - start && end < after.length - start && before[before.length - 1 - end] === after[after.length - 1 - end])
    end += 1;
  const coming = new Set(after.slice(start, after.length - end));
  // What stays within the changed part must stay in its order, or it leaves and comes again.
  const left: unknown[] = [];
  const patches: Patch[] = [];
  for (let i = before.length - end - 1; i >= start; i -= 1) {
    if (coming.has(before[i])) left.unshift(before[i]);
    else patches.push({ op: 'remove', path: [...path, i] });
  }
  let at = 0;
  for (let i = start; i < after.length - end; i += 1) {
    if (after[i] === left[at]) at += 1;
    else patches.push({ op: 'add', path: [...path, i], value: after[i] });
  }
  return at < left.length ? [{ op: 'replace', path: [...path], value: after }] : patches;
}

const isList = (root: unknown, path: readonly (string | number)[]) => Array.isArray(valueAt(root, path));

/** The lists that a change goes through and that are better told as a whole: their paths, by name. */
function changedLists(before: unknown, after: unknown, patches: readonly Patch[]): Map<string, (string | number)[]> {
  const counts = new Map<string, { path: (string | number)[]; count: number }>();
  for (const { path } of patches) {
    const whole = isList(after, path);
    const list = whole ? path : path.slice(0, -1);
    if (!isList(after, list) || !isList(before, list)) continue;
    const known = counts.get(list.join('/')) ?? { path: list, count: 0 };
    counts.set(list.join('/'), { path: list, count: known.count + (whole ? MANY : 1) });
  }
  return new Map([...counts].filter(([, { count }]) => count >= MANY).map(([name, { path }]) => [name, path]));
}

/** The same change in fewer bytes. `before` and `after` are what the patches lead from and to. */
export function slimPatches(before: unknown, after: unknown, patches: readonly Patch[]): Patch[] {
  const lists = changedLists(before, after, patches);
  const done = new Set<string>();
  return patches.flatMap((patch) => {
    // The outermost list that is told as a whole tells everything inside it too.
    const at = patch.path.findIndex((_, i) => lists.has(patch.path.slice(0, i + 1).join('/')));
    if (at < 0) return [patch];
    const path = patch.path.slice(0, at + 1);
    const name = path.join('/');
    if (done.has(name)) return [];
    done.add(name);
    const [from, to] = [valueAt(before, path) as unknown[], valueAt(after, path) as unknown[]];
    const slim = listPatches(path, from, to);
    return slim.length > to.length / 2 ? [{ op: 'replace', path: [...path], value: to }] : slim;
  });
}
