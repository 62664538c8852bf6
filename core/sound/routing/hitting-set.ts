/** The cheapest choice of items so that every set has one of them (minimum hitting set). */

/** Sets up to which the cheapest choice is looked for exactly: a hundred loops at once are broken greedily, and then bettered a little. */
const MOST_EXACT_SETS = 24;

const bitCount = (word: number): number => {
  // Bits in pairs, in fours, in bytes (Warren, Hacker's Delight, 5-1).
  let v = word - ((word >>> 1) & 0x55555555);
  v = (v & 0x33333333) + ((v >>> 2) & 0x33333333);
  return Math.imul((v + (v >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
};

/**
 * The cheapest choice that hits every set: exact by branch and bound for what people meet, and otherwise the greedy one.
 * Sets hold numbers; `cost` prices each. Sets that are empty cannot be hit and are left out.
 */
export function cheapestHits(sets: readonly (readonly number[])[], cost: (item: number) => number): number[] {
  const open = sets.filter((s) => s.length > 0);
  const words = (open.length + 31) >>> 5;
  const place = new Map<number, number>();
  for (const set of open) for (const item of set) if (!place.has(item)) place.set(item, place.size);
  const items = [...place.keys()];
  const costs = items.map(cost);
  /** The sets that an item hits, one bit each. */
  const hits = new Uint32Array(items.length * words);
  open.forEach((set, s) => {
    for (const item of set) {
      const at = (place.get(item) as number) * words + (s >>> 5);
      hits[at] = (hits[at] as number) | (1 << (s & 31));
    }
  });

  const everySet = new Uint32Array(words);
  for (let s = 0; s < open.length; s += 1) everySet[s >>> 5] = (everySet[s >>> 5] as number) | (1 << (s & 31));
  const isEmpty = (left: Uint32Array) => left.every((word) => word === 0);
  const strike = (left: Uint32Array, item: number, into: Uint32Array) => {
    for (let w = 0; w < words; w += 1) into[w] = (left[w] as number) & ~(hits[item * words + w] as number);
  };

  let best: number[] = [];
  const left = everySet.slice();
  while (!isEmpty(left)) {
    let choice = 0;
    let worth = -1;
    for (let item = 0; item < items.length; item += 1) {
      let count = 0;
      for (let w = 0; w < words; w += 1) count += bitCount((left[w] as number) & (hits[item * words + w] as number));
      if (count / (costs[item] as number) > worth) [choice, worth] = [item, count / (costs[item] as number)];
    }
    best.push(choice);
    strike(left, choice, left);
  }

  let bestCost = best.reduce((sum, item) => sum + (costs[item] as number), 0);
  const most = open.length > MOST_EXACT_SETS ? 60 : 4000;
  let tries = 0;
  const chosen: number[] = [];
  const search = (spent: number, rest: Uint32Array) => {
    tries += 1;
    if (spent >= bestCost - 1e-9 || tries > most) return;
    // The smallest set has the fewest ways to be hit.
    let smallest: readonly number[] | null = null;
    for (let s = 0; s < open.length; s += 1) {
      const set = open[s] as readonly number[];
      if (((rest[s >>> 5] as number) >>> (s & 31)) & 1 && (smallest === null || set.length < smallest.length)) smallest = set;
    }
    if (smallest === null) {
      best = [...chosen];
      bestCost = spent;
      return;
    }
    const after = new Uint32Array(words);
    for (const item of new Set(smallest)) {
      const at = place.get(item) as number;
      strike(rest, at, after);
      chosen.push(at);
      search(spent + (costs[at] as number), after);
      chosen.pop();
    }
  };
  search(0, everySet);
  return best.map((at) => items[at] as number);
}
