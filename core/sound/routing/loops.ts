/** Loops of the routing: found, put in words, and broken with the fewest changes. */
import { type Show } from '../../desk/show';
import { components, findCycles, hasCycle, someCycles } from './cycles';
import { cheapestHits } from './hitting-set';
import { type SignalEdge, type SignalGraph, type SignalNode, signalGraph } from './signal-graph';

export class Loop {
  /** Keys of its nodes in order, beginning where sound leaves into the room if it does. */
  readonly keys: readonly string[];
  /** Gain once round, dB: at 0 and above it howls, below it echoes. */
  readonly db: number;
  /** Time once round, ms. */
  readonly delayMs: number;
  /** Crosspoints in it, as `from bus`. */
  readonly crosspoints: readonly string[];

  /** `nodes` in order; `via` leads from each to the next, the last to the first. */
  constructor(
    private readonly nodes: readonly SignalNode[],
    via: readonly SignalEdge[],
  ) {
    this.keys = nodes.map((n) => n.key);
    this.db = via.reduce((sum, e) => sum + e.db, 0);
    this.delayMs = via.reduce((sum, e) => sum + e.delayMs, 0);
    this.crosspoints = via.filter((e) => e.kind === 'send').map((e) => e.ref);
  }

  /** "Pier PA → pier microphones → … → Pier PA". Of a hundred loops few are ever told. */
  get words(): string {
    return [...this.nodes, this.nodes[0]].map((n) => n?.name ?? '').join(' → ');
  }
}

export interface LoopReport {
  loops: Loop[];
  /** There are more than could be listed. */
  more: boolean;
  /** The fewest changes that break every loop. */
  breaks: SignalEdge[];
  /** Loops remain that only hands in the room can break. */
  stays: boolean;
}

/** A silenced output takes more from people than many sends: only where nothing else helps. */
const PRICES: Partial<Record<SignalEdge['kind'], number>> = { send: 1, card: 0.999, patch: 50 };

const isBreakable = (edge: SignalEdge) => PRICES[edge.kind] !== undefined;

/** Cycles that are listed at most. */
const MOST_LOOPS = 120;

/** The part of a graph that can be in a loop at all: nodes of its components, numbered anew, and what connects them. */
interface LoopPart {
  /** Node of the whole graph, by number here. */
  nodes: number[];
  /** Successors of each node, without doubles. */
  out: number[][];
  /** The strongest edge to each successor. */
  via: SignalEdge[][];
  /** All edges between two nodes where there are several, the strongest first; by the strongest. */
  beside: Map<SignalEdge, SignalEdge[]>;
}

function loopPart({ nodes, edges, out }: SignalGraph): LoopPart | null {
  const inLoop = components(nodes.length, (v, at) => edges[(out[v] as number[])[at] as number]?.to).flat();
  if (inLoop.length === 0) return null;
  const place = new Int32Array(nodes.length).fill(-1);
  inLoop.forEach((v, i) => (place[v] = i));
  const part: LoopPart = { nodes: inLoop, out: inLoop.map(() => []), via: inLoop.map(() => []), beside: new Map() };
  inLoop.forEach((v, from) => {
    const [row, via] = [part.out[from] as number[], part.via[from] as SignalEdge[]];
    for (const e of out[v] as number[]) {
      const edge = edges[e] as SignalEdge;
      const to = place[edge.to] as number;
      if (to < 0) continue;
      const at = row.indexOf(to);
      const known = via[at];
      if (!known) {
        row.push(to);
        via.push(edge);
        continue;
      }
      const all = [...(part.beside.get(known) ?? [known]), edge].sort((x, y) => y.db - x.db);
      part.beside.delete(known);
      part.beside.set((via[at] = all[0] as SignalEdge), all);
    }
  });
  return part;
}

/** The strongest edge between two nodes that are connected. */
const edgeOf = ({ out, via }: LoopPart, from: number, to: number): SignalEdge =>
  (via[from] as SignalEdge[])[(out[from] as number[]).indexOf(to)] as SignalEdge;

function loopOf(graph: SignalGraph, part: LoopPart, cycle: readonly number[]): Loop {
  const node = (v: number) => graph.nodes[part.nodes[v] as number] as SignalNode;
  const loudest = cycle.findIndex((v) => node(v).kind === 'speaker' || node(v).kind === 'listener');
  const turned = loudest > 0 ? [...cycle.slice(loudest), ...cycle.slice(0, loudest)] : cycle;
  return new Loop(
    turned.map(node),
    turned.map((v, i) => edgeOf(part, v, (turned[i + 1] ?? turned[0]) as number)),
  );
}

/** Ways to break one cycle here: every connection of it that can be taken away, if nothing runs beside it. */
function waysToBreak(part: LoopPart, cycle: readonly number[]): SignalEdge[] {
  const ways: SignalEdge[] = [];
  for (let i = 0; i < cycle.length; i += 1) {
    const edge = edgeOf(part, cycle[i] as number, (cycle[i + 1] ?? cycle[0]) as number);
    if (isBreakable(edge) && !part.beside.has(edge)) ways.push(edge);
  }
  return ways;
}

/** The fewest changes without which `cycles` stay, asked again until no cycle is left. */
function breaksOf(part: LoopPart, cycles: readonly (readonly number[])[]): { breaks: SignalEdge[]; stays: boolean } {
  const sets: number[][] = [];
  const number = new Map<SignalEdge, number>();
  const list: SignalEdge[] = [];
  const join = (cycle: readonly number[]): boolean => {
    const ways = waysToBreak(part, cycle);
    for (const edge of ways) {
      if (number.has(edge)) continue;
      number.set(edge, list.length);
      list.push(edge);
    }
    sets.push(ways.map((e) => number.get(e) as number));
    return ways.length > 0;
  };
  cycles.forEach(join);
  const hits = () => cheapestHits(sets, (i) => PRICES[(list[i] as SignalEdge).kind] ?? 1).map((i) => list[i] as SignalEdge);
  let breaks = hits();
  // Where there are more loops than were listed, those that remain are looked for and joined, until none is left.
  for (let round = 0; round < 40; round += 1) {
    const gone = new Set(breaks);
    const left = part.out.map((row, v) => row.filter((_, at) => !gone.has(part.via[v]?.[at] as SignalEdge)));
    if (!hasCycle(left)) return { breaks, stays: false };
    if (!someCycles(left, 24).map(join).some(Boolean)) break;
    breaks = hits();
  }
  return { breaks, stays: true };
}

const NO_LOOPS: LoopReport = { loops: [], more: false, breaks: [], stays: false };

/** Every loop of the routing, shortest first, and how to break them. */
export function loopReport(show: Show, graph = signalGraph(show)): LoopReport {
  const part = loopPart(graph);
  if (!part) return NO_LOOPS;
  const { cycles, more } = findCycles(part.out, MOST_LOOPS);
  const loops = cycles.map((c) => loopOf(graph, part, c)).sort((a, b) => a.keys.length - b.keys.length || b.db - a.db);
  return { loops, more, ...breaksOf(part, cycles) };
}

/** The fewest changes that break one loop, named by its keys; null when it is not there (any more). */
export function breaksOfLoop(show: Show, keys: readonly string[]): SignalEdge[] | null {
  const graph = signalGraph(show);
  const part = loopPart(graph);
  const round = part ? keys.map((key) => part.nodes.indexOf(graph.index.get(key) ?? -1)) : [];
  if (!part || round.length === 0 || round.some((v, i) => v < 0 || !part.out[v]?.includes(round[(i + 1) % round.length] as number)))
    return null;
  const breaks = waysToBreak(part, round).sort((a, b) => (PRICES[a.kind] ?? 1) - (PRICES[b.kind] ?? 1));
  return breaks.slice(0, 1);
}

/** The same for two loops over the same nodes, wherever each is said to begin. */
export const loopKey = ({ keys }: Loop): string => [...keys].sort().join(' ');

/** Keys of the loops of a show, to see which ones a change would add. */
export const loopKeys = (report: LoopReport): Set<string> => new Set(report.loops.map(loopKey));
