/** Loops of the routing: found, put in words, and broken with the fewest changes. */
import { type Show } from '../../show/show';
import { cheapestHits, components, findCycles, hasCycle, someCycles } from './cycles';
import { type SignalEdge, type SignalGraph, signalGraph } from './signal-graph';

export interface Loop {
  /** Keys of its nodes in order, beginning where sound leaves into the room if it does. */
  keys: string[];
  /** "Pier PA → pier microphones → … → Pier PA". */
  words: string;
  /** Gain once round, dB: at 0 and above it howls, below it echoes. */
  db: number;
  /** Time once round, ms. */
  delayMs: number;
  /** Crosspoints in it, as `from bus`. */
  crosspoints: string[];
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
  out: number[][];
  /** Edges from one node to another, the strongest first; by `from * nodes + to`. */
  between: Map<number, SignalEdge[]>;
}

function loopPart({ nodes, edges, out }: SignalGraph): LoopPart | null {
  const successors = out.map((list) => list.map((e) => (edges[e] as SignalEdge).to));
  const inLoop = components(successors, new Uint8Array(nodes.length).fill(1)).flat();
  if (inLoop.length === 0) return null;
  const place = new Int32Array(nodes.length).fill(-1);
  inLoop.forEach((v, i) => (place[v] = i));
  const part: LoopPart = { nodes: inLoop, out: inLoop.map(() => []), between: new Map() };
  inLoop.forEach((v, from) => {
    for (const e of out[v] as number[]) {
      const edge = edges[e] as SignalEdge;
      const to = place[edge.to] as number;
      if (to < 0) continue;
      const key = from * inLoop.length + to;
      const known = part.between.get(key);
      if (known) {
        known.push(edge);
        known.sort((a, b) => b.db - a.db);
      } else {
        part.between.set(key, [edge]);
        (part.out[from] as number[]).push(to);
      }
    }
  });
  return part;
}

const edgesOf = ({ nodes, between }: LoopPart, from: number, to: number): SignalEdge[] => between.get(from * nodes.length + to) ?? [];

function describe(graph: SignalGraph, part: LoopPart, cycle: readonly number[]): Loop {
  const node = (v: number) => graph.nodes[part.nodes[v] as number];
  const loudest = cycle.findIndex((v) => node(v)?.kind === 'speaker' || node(v)?.kind === 'listener');
  const turned = loudest > 0 ? [...cycle.slice(loudest), ...cycle.slice(0, loudest)] : cycle;
  const round = [...turned, turned[0] as number];
  const loop: Loop = { keys: [], words: round.map((v) => node(v)?.name ?? '').join(' → '), db: 0, delayMs: 0, crosspoints: [] };
  turned.forEach((v, i) => {
    const edge = edgesOf(part, v, round[i + 1] as number)[0] as SignalEdge;
    loop.keys.push(node(v)?.key ?? '');
    loop.db += edge.db;
    loop.delayMs += edge.delayMs;
    if (edge.kind === 'send') loop.crosspoints.push(edge.ref);
  });
  return loop;
}

/** Ways to break one cycle here: every connection of it that can be taken away, if nothing runs beside it. */
function waysToBreak(part: LoopPart, cycle: readonly number[]): SignalEdge[] {
  return cycle.flatMap((v, i) => {
    const between = edgesOf(part, v, cycle[(i + 1) % cycle.length] as number);
    return between.length === 1 && isBreakable(between[0] as SignalEdge) ? between : [];
  });
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
    const left = part.out.map((row, v) => row.filter((w) => edgesOf(part, v, w).some((e) => !gone.has(e))));
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
  const loops = cycles.map((c) => describe(graph, part, c)).sort((a, b) => a.keys.length - b.keys.length || b.db - a.db);
  return { loops, more, ...breaksOf(part, cycles) };
}

/** The fewest changes that break one loop, named by its keys; null when it is not there (any more). */
export function breaksOfLoop(show: Show, keys: readonly string[]): SignalEdge[] | null {
  const graph = signalGraph(show);
  const part = loopPart(graph);
  const round = part ? keys.map((key) => part.nodes.indexOf(graph.index.get(key) ?? -1)) : [];
  if (!part || round.length === 0 || round.some((v, i) => v < 0 || edgesOf(part, v, round[(i + 1) % round.length] as number).length === 0)) return null;
  const breaks = waysToBreak(part, round).sort((a, b) => (PRICES[a.kind] ?? 1) - (PRICES[b.kind] ?? 1));
  return breaks.slice(0, 1);
}

/** The same for two loops over the same nodes, wherever each is said to begin. */
export const loopKey = ({ keys }: Loop): string => [...keys].sort().join(' ');

/** Keys of the loops of a show, to see which ones a change would add. */
export const loopKeys = (report: LoopReport): Set<string> => new Set(report.loops.map(loopKey));
