/** Makes patches small: a list of thousands in which little has changed is not sent anew. */
import { type Patch } from 'immer';

/** Changes inside one list from which on the list is compared as a whole. */
const MANY = 8;

const valueAt = (root: unknown, path: readonly (string | number)[]): unknown =>
  path.reduce<unknown>((node, key) => (node as Record<string | number, unknown> | undefined)?.[key], root);

/** Marks of a longest run of rising numbers among those that are not −1 (patience sorting, O(n log n)). */
function risingRun(numbers: Int32Array): Uint8Array {
  const { length } = numbers;
  /** Place of the last of the best run of each length, and for each number the place before it in its run. */
  const ends = new Int32Array(length);
  const before = new Int32Array(length);
  let most = 0;
  for (let i = 0; i < length; i += 1) {
    const n = numbers[i] as number;
    if (n < 0) continue;
    // Most often a number goes on where the run has got to.
    let low = most > 0 && (numbers[ends[most - 1] as number] as number) < n ? most : 0;
    let high = most;
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((numbers[ends[middle] as number] as number) < n) low = middle + 1;
      else high = middle;
    }
    before[i] = low > 0 ? (ends[low - 1] as number) : -1;
    ends[low] = i;
    if (low === most) most += 1;
  }
  const run = new Uint8Array(length);
  for (let i = most > 0 ? (ends[most - 1] as number) : -1; i >= 0; i = before[i] as number) run[i] = 1;
  return run;
}

/**
 * What turns one list into another, as patches in order: first what leaves, the last first, then what comes. Items are the same when they are
 * the very same object, as they are in documents that share what has not changed. What has only been moved leaves and comes again; of all
 * that could stay, the most stays.
 */
export function listPatches(path: readonly (string | number)[], before: readonly unknown[], after: readonly unknown[]): Patch[] {
  let start = 0;
  while (start < before.length && start < after.length && before[start] === after[start]) start += 1;
  let end = 0;
  while (end < Math.min(before.length, after.length) - start && before[before.length - 1 - end] === after[after.length - 1 - end]) end += 1;
  const [oldCount, newCount] = [before.length - end - start, after.length - end - start];
  const oldPlaces = new Map<unknown, number>();
  for (let i = 0; i < oldCount; i += 1) oldPlaces.set(before[start + i], i);
  /** Where each item of the changed part was before; −1 for one that is new. */
  const was = new Int32Array(newCount);
  for (let i = 0; i < newCount; i += 1) was[i] = oldPlaces.get(after[start + i]) ?? -1;
  const stays = risingRun(was);
  const kept = new Uint8Array(oldCount);
  for (let i = 0; i < newCount; i += 1) if (stays[i]) kept[was[i] as number] = 1;
  const patches: Patch[] = [];
  for (let i = oldCount - 1; i >= 0; i -= 1) if (!kept[i]) patches.push({ op: 'remove', path: [...path, start + i] });
  for (let i = 0; i < newCount; i += 1) if (!stays[i]) patches.push({ op: 'add', path: [...path, start + i], value: after[start + i] });
  return patches;
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
