/** What a listener hears: each source with its paths, by level. */
import { type EdgeKind, type SignalEdge, type SignalGraph } from './signal-graph';

export class HeardPath {
  /** Nodes from the source to the listener. */
  readonly nodes: readonly number[];
  /** Crosspoints on the way, as `from bus`. */
  readonly crosspoints: readonly string[];
  /** Why its last send is open. */
  readonly why: string;

  /** `way` leads from the source to the listener; `db` is the gain on it. */
  constructor(
    private readonly graph: SignalGraph,
    start: number,
    way: readonly SignalEdge[],
    readonly db: number,
    readonly delayMs: number,
  ) {
    this.nodes = [start, ...way.map((e) => e.to)];
    const sends = way.filter((e) => e.kind === 'send');
    this.crosspoints = sends.map((e) => e.ref);
    this.why = sends.at(-1)?.why ?? '';
  }

  /** From the source to the listener, in words. Of thousands of paths few are ever told. */
  get words(): string {
    return this.nodes.map((v) => this.graph.nodes[v]?.name ?? '').join(' → ');
  }
}

export interface Heard {
  /** Key of the node where the sound begins. */
  key: string;
  name: string;
  /** Gain of all paths together, dB, if they add in phase: the most it can be. */
  db: number;
  /** Loudest first. */
  paths: HeardPath[];
}

/** Paths looked at for one listener; more than that, and nobody reads the list. */
const MOST_STEPS = 20_000;

/** Ways by which sound only comes through rooms. */
const ROOM: readonly EdgeKind[] = ['air', 'leak'];

/**
 * Every source that reaches the node `ear`, loudest first, by every path without a node twice. With `wires`, only paths
 * that do not go through a room.
 */
export function hearsOf(graph: SignalGraph, ear: number, wires = false): Heard[] {
  const heard = new Map<number, Heard>();
  const onPath = new Uint8Array(graph.nodes.length);
  const chain: SignalEdge[] = [];
  let steps = 0;
  const back = (node: number, db: number, delayMs: number) => {
    steps += 1;
    if (steps > MOST_STEPS) return;
    const { kind, key, name } = graph.nodes[node] as SignalGraph['nodes'][0];
    const rows = graph.into[node] as number[];
    // A pair that only leads on to its sides is no sound of its own.
    const last = chain.at(-1);
    const begins = kind === 'source' || (kind === 'input' && graph.nodes[last?.to ?? -1]?.kind !== 'input');
    if (begins) {
      const entry = heard.get(node) ?? { key, name, db: 0, paths: [] };
      entry.paths.push(new HeardPath(graph, node, [...chain].reverse(), db, delayMs));
      heard.set(node, entry);
    }
    onPath[node] = 1;
    for (const e of rows) {
      const edge = graph.edges[e] as SignalEdge;
      if (onPath[edge.from] || (wires && ROOM.includes(edge.kind))) continue;
      chain.push(edge);
      back(edge.from, db + edge.db, delayMs + edge.delayMs);
      chain.pop();
    }
    onPath[node] = 0;
  };
  back(ear, 0, 0);
  const list = [...heard.values()];
  for (const entry of list) {
    entry.paths.sort((a, b) => b.db - a.db);
    entry.db = 20 * Math.log10(entry.paths.reduce((sum, p) => sum + 10 ** (p.db / 20), 0));
  }
  return list.sort((a, b) => b.db - a.db);
}

/** Nodes that sound can come from to one of `ends`, those included. */
export function reaches(
  { nodes, edges, into }: SignalGraph,
  ends: readonly number[],
  skip: (edge: SignalEdge) => boolean = () => false,
): Uint8Array {
  const seen = new Uint8Array(nodes.length);
  const queue = [...ends];
  for (const v of ends) seen[v] = 1;
  for (let v = queue.pop(); v !== undefined; v = queue.pop()) {
    for (const e of into[v] as number[]) {
      const edge = edges[e] as SignalEdge;
      if (seen[edge.from] || skip(edge)) continue;
      seen[edge.from] = 1;
      queue.push(edge.from);
    }
  }
  return seen;
}
