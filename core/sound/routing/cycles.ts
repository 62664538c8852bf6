/**
 * Loops in a directed graph. Every cycle is listed while they can be counted. Where they run into thousands, those without a
 * shortcut (chordless ones) are: every other cycle runs over the nodes of one of them by a longer way.
 */

/** Strongly connected components with more than one node or a loop onto itself (Tarjan 1972), within `allowed`. */
export function components(out: readonly (readonly number[])[], allowed: Uint8Array): number[][] {
  const n = out.length;
  const order = new Int32Array(n).fill(-1);
  const low = new Int32Array(n);
  const onStack = new Uint8Array(n);
  const stack: number[] = [];
  const found: number[][] = [];
  let count = 0;
  // Without recursion: routings may be long chains.
  const work: { v: number; at: number }[] = [];
  for (let root = 0; root < n; root += 1) {
    if (!allowed[root] || order[root] !== -1) continue;
    work.push({ v: root, at: 0 });
    while (work.length > 0) {
      const top = work[work.length - 1] as { v: number; at: number };
      const { v } = top;
      if (top.at === 0) {
        order[v] = low[v] = count;
        count += 1;
        stack.push(v);
        onStack[v] = 1;
      }
      const next = (out[v] as readonly number[])[top.at];
      if (next !== undefined) {
        top.at += 1;
        if (!allowed[next]) continue;
        if (order[next] === -1) work.push({ v: next, at: 0 });
        else if (onStack[next]) low[v] = Math.min(low[v] as number, order[next] as number);
        continue;
      }
      // An empty row would come here again with at = 0; it is marked as begun by its order.
      work.pop();
      const parent = work[work.length - 1];
      if (parent) low[parent.v] = Math.min(low[parent.v] as number, low[v] as number);
      if (low[v] !== order[v]) continue;
      const part: number[] = [];
      let w: number;
      do {
        w = stack.pop() as number;
        onStack[w] = 0;
        part.push(w);
      } while (w !== v);
      if (part.length > 1 || (out[v] as readonly number[]).includes(v)) found.push(part);
    }
  }
  return found;
}

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
export const someCycles = (out: readonly (readonly number[])[], most: number): number[][] => search(out, most, false, 400 + most * 20).cycles;

/** Cycles with their detours, or only those without a shortcut. */
function search(out: readonly (readonly number[])[], most: number, detours: boolean, mostSteps: number): Cycles {
  const n = out.length;
  const cycles: number[][] = [];
  let steps = 0;
  let more = false;
  const allowed = new Uint8Array(n).fill(1);
  const inScope = new Uint8Array(n);
  const onPath = new Uint8Array(n);
  // How many nodes of the path, but the last, lead straight to a node: going there would be a detour.
  const reached = new Int32Array(n);
  const into: number[][] = Array.from({ length: n }, () => []);
  out.forEach((row, v) => row.forEach((w) => (into[w] as number[]).push(v)));
  const leads = new Uint8Array(n);

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
      if (!detours && ((reached[v] as number) > 1 || (out[v] as readonly number[]).some((w) => w === v || (onPath[w] && w !== start)))) continue;
      onPath[v] = 1;
      path.push(v);
      extend(path, start);
      path.pop();
      onPath[v] = 0;
    }
    for (const w of row) if (w !== last) reached[w] = (reached[w] as number) - 1;
  };

  const parts = components(out, allowed);
  for (let part = parts.pop(); part !== undefined; part = parts.pop()) {
    for (const v of part) inScope[v] = 1;
    const degree = (v: number) => (out[v] as number[]).filter((w) => inScope[w]).length * (into[v] as number[]).filter((w) => inScope[w]).length;
    // The busiest node first: without it little is left to search.
    const start = part.reduce((best, v) => (degree(v) > degree(best) ? v : best));
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
    parts.push(...components(out, rest));
    if (steps > mostSteps) break;
  }
  return { cycles, more: more || parts.length > 0 };
}

/** True when the graph has a cycle. */
export const hasCycle = (out: readonly (readonly number[])[]): boolean => components(out, new Uint8Array(out.length).fill(1)).length > 0;

/**
 * The cheapest choice that hits every set: exact by branch and bound for what people meet, and otherwise the greedy one.
 * Sets hold numbers; `cost` prices each. Sets that are empty cannot be hit and are left out.
 */
export function cheapestHits(sets: readonly (readonly number[])[], cost: (item: number) => number): number[] {
  const open = sets.filter((s) => s.length > 0);
  let best: number[] = [];
  let rest = open;
  while (rest.length > 0) {
    const hits = new Map<number, number>();
    for (const set of rest) for (const item of new Set(set)) hits.set(item, (hits.get(item) ?? 0) + 1);
    const worth = ([item, count]: [number, number]) => count / cost(item);
    const [item] = [...hits].reduce((a, b) => (worth(b) > worth(a) ? b : a));
    best.push(item);
    rest = rest.filter((set) => !set.includes(item));
  }
  let bestCost = best.reduce((sum, item) => sum + cost(item), 0);
  // Exact for what people meet; a hundred loops at once are broken greedily.
  const most = open.length > 24 ? 60 : 4000;
  let tries = 0;
  const search = (chosen: number[], spent: number, left: readonly (readonly number[])[]) => {
    tries += 1;
    if (spent >= bestCost - 1e-9 || tries > most) return;
    if (left.length === 0) {
      best = [...chosen];
      bestCost = spent;
      return;
    }
    // The smallest set has the fewest ways to be hit.
    const set = left.reduce((a, b) => (b.length < a.length ? b : a));
    for (const item of new Set(set)) search([...chosen, item], spent + cost(item), left.filter((s) => !s.includes(item)));
  };
  search([], 0, open);
  return best;
}
