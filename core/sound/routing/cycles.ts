/**
 * Loops in a directed graph. Every cycle is listed while they can be counted. Where they run into thousands, those without a
 * shortcut (chordless ones) are: every other cycle runs over the nodes of one of them by a longer way.
 */

/** Successors of node `v`, one after another: the one at place `at`, or undefined behind the last. */
export type Successor = (v: number, at: number) => number | undefined;

/** Strongly connected components with more than one node or a loop onto itself (Tarjan 1972), of the nodes 0 to `n` − 1 that are `allowed`. */
export function components(n: number, successor: Successor, allowed?: Uint8Array): number[][] {
  const order = new Int32Array(n).fill(-1);
  const low = new Int32Array(n);
  const onStack = new Uint8Array(n);
  const stack = new Int32Array(n);
  let height = 0;
  const found: number[][] = [];
  let count = 0;
  // Without recursion, as routings may be long chains: the way down, and how far each node on it has been looked at.
  const way = new Int32Array(n);
  const next = new Int32Array(n);
  for (let root = 0; root < n; root += 1) {
    if ((allowed && !allowed[root]) || order[root] !== -1) continue;
    let depth = 0;
    const enter = (v: number) => {
      way[depth] = v;
      depth += 1;
      order[v] = low[v] = count;
      count += 1;
      stack[height] = v;
      height += 1;
      onStack[v] = 1;
    };
    enter(root);
    while (depth > 0) {
      const v = way[depth - 1] as number;
      const w = successor(v, next[v] as number);
      if (w !== undefined) {
        next[v] = (next[v] as number) + 1;
        if (allowed && !allowed[w]) continue;
        if (order[w] === -1) enter(w);
        else if (onStack[w]) low[v] = Math.min(low[v] as number, order[w] as number);
        continue;
      }
      depth -= 1;
      if (depth > 0) {
        const parent = way[depth - 1] as number;
        low[parent] = Math.min(low[parent] as number, low[v] as number);
      }
      if (low[v] !== order[v]) continue;
      const top = height;
      let u: number;
      do {
        height -= 1;
        u = stack[height] as number;
        onStack[u] = 0;
      } while (u !== v);
      if (top - height > 1 || leadsTo(successor, v, v)) found.push([...stack.subarray(height, top)]);
    }
  }
  return found;
}

function leadsTo(successor: Successor, v: number, w: number): boolean {
  for (let at = 0, next = successor(v, 0); next !== undefined; at += 1, next = successor(v, at)) if (next === w) return true;
  return false;
}

const successorsIn =
  (out: readonly (readonly number[])[]): Successor =>
  (v, at) =>
    (out[v] as readonly number[])[at];

export interface Cycles {
  /** Each as nodes in order; the last leads to the first. */
  cycles: number[][];
  /** There are more than were asked for. */
  more: boolean;
}

/** Steps of a search after which it gives up. */
const MOST_STEPS = 4000;
/** Steps granted to the list of every cycle, detours included. */
const DETOUR_STEPS = 1500;

/** The cycles of a graph, up to `most`. `out` holds the successors of each node, without doubles. */
export function findCycles(out: readonly (readonly number[])[], most = 120): Cycles {
  const every = search(out, most, true, DETOUR_STEPS);
  if (!every.more) return every;
  return { cycles: search(out, most, false, MOST_STEPS).cycles, more: true };
}

/** Some cycles without a shortcut, found quickly: at least one where there is any. */
export const someCycles = (out: readonly (readonly number[])[], most: number): number[][] =>
  search(out, most, false, 400 + most * 20).cycles;

/** Cycles with their detours, or only those without a shortcut. */
function search(out: readonly (readonly number[])[], most: number, detours: boolean, mostSteps: number): Cycles {
  const n = out.length;
  const cycles: number[][] = [];
  let steps = 0;
  let more = false;
  const inScope = new Uint8Array(n);
  const onPath = new Uint8Array(n);
  // How many nodes of the path, but the last, lead straight to a node: going there would be a detour.
  const reached = new Int32Array(n);
  const into: number[][] = Array.from({ length: n }, () => []);
  out.forEach((row, v) => row.forEach((w) => (into[w] as number[]).push(v)));
  const leads = new Uint8Array(n);

  const inScopeOf = (row: readonly number[]) => {
    let count = 0;
    for (const w of row) count += inScope[w] as number;
    return count;
  };

  /** Nodes in scope from which `start` can be reached. */
  const markLeads = (start: number) => {
    leads.fill(0);
    const queue = [start];
    leads[start] = 1;
    for (let v = queue.pop(); v !== undefined; v = queue.pop()) {
      for (const w of into[v] as number[]) {
        if (!inScope[w] || leads[w]) continue;
        leads[w] = 1;
        queue.push(w);
      }
    }
  };

  /** Whether `v` leads to itself, or straight to a node of the path other than `start`. */
  const leadsBack = (v: number, start: number) => {
    for (const w of out[v] as readonly number[]) if (w === v || (onPath[w] && w !== start)) return true;
    return false;
  };

  const extend = (path: number[], start: number): void => {
    steps += 1;
    if (cycles.length >= most || steps > mostSteps) {
      more = true;
      return;
    }
    const last = path[path.length - 1] as number;
    const row = out[last] as readonly number[];
    if (path.length > 1 && row.includes(start)) {
      cycles.push([...path]);
      if (!detours) return;
    }
    for (const w of row) if (w !== last) reached[w] = (reached[w] as number) + 1;
    for (const v of row) {
      if (v === last || !inScope[v] || !leads[v] || onPath[v]) continue;
      if (!detours && ((reached[v] as number) > 1 || leadsBack(v, start))) continue;
      onPath[v] = 1;
      path.push(v);
      extend(path, start);
      path.pop();
      onPath[v] = 0;
    }
    for (const w of row) if (w !== last) reached[w] = (reached[w] as number) - 1;
  };

  const successor = successorsIn(out);
  const parts = components(n, successor);
  for (let part = parts.pop(); part !== undefined; part = parts.pop()) {
    for (const v of part) inScope[v] = 1;
    // The busiest node first: without it little is left to search.
    let start = part[0] as number;
    let busiest = -1;
    for (const v of part) {
      const degree = inScopeOf(out[v] as number[]) * inScopeOf(into[v] as number[]);
      if (degree > busiest) [start, busiest] = [v, degree];
    }
    const alone = (out[start] as readonly number[]).includes(start);
    if (alone) cycles.push([start]);
    if (detours || !alone) {
      markLeads(start);
      onPath[start] = 1;
      extend([start], start);
      onPath[start] = 0;
    }
    const rest = new Uint8Array(n);
    for (const v of part) {
      inScope[v] = 0;
      if (v !== start) rest[v] = 1;
    }
    parts.push(...components(n, successor, rest));
    if (steps > mostSteps) break;
  }
  return { cycles, more: more || parts.length > 0 };
}

/** True when the graph has a cycle. */
export const hasCycle = (out: readonly (readonly number[])[]): boolean => components(out.length, successorsIn(out)).length > 0;
