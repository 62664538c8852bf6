/**
 * The whole signal path as a directed graph: sources and inputs → channels → buses → outputs → loudspeakers → listeners,
 * and the ways back: through the air, the sound card's own mixer, and guests who listen by loudspeaker.
 */
import { type Show } from '../../desk/show';
import { type Channel, channelsOf, seatSource, takenBySeats, waitMsOf } from '../channels';
import { type Pair } from '../document';
import { FADER_FLOOR_DB } from '../level';
import { matrixOf } from './matrix';

export type NodeKind = 'source' | 'input' | 'channel' | 'bus' | 'output' | 'speaker' | 'listener';

export interface SignalNode {
  key: string;
  kind: NodeKind;
  /** As in a path: "bus Room", "Pier PA". */
  name: string;
  /** Identity in the show, where it has one. */
  id: string;
}

/** What makes a connection. `send`, `card` and `patch` can be taken away here; the others only in the room. */
export type EdgeKind = 'feed' | 'send' | 'patch' | 'plug' | 'card' | 'air' | 'hears' | 'leak';

export interface SignalEdge {
  from: number;
  to: number;
  kind: EdgeKind;
  /** Change of level on the way, dB. */
  db: number;
  delayMs: number;
  /** Identity of the crosspoint (`from bus`), patch, card mix or air path. */
  ref: string;
  /** For a send: whether it was set by hand, and why it is open. */
  why: string;
}

export interface SignalGraph {
  readonly nodes: readonly SignalNode[];
  readonly edges: readonly SignalEdge[];
  /** Edges that leave a node, by node. */
  readonly out: readonly (readonly number[])[];
  /** Edges that come into a node, by node. */
  readonly into: readonly (readonly number[])[];
  /** Nodes by their keys. */
  readonly index: ReadonlyMap<string, number>;
}

const deviceKey = (deviceId: string) => deviceId || 'default';
const pairName = (what: string, pair: number) => `${what} ${pair * 2 - 1}–${pair * 2}`;

/** Lists of edges by one of their ends, each made in its final size. */
function byEnd(edges: readonly SignalEdge[], nodes: number, end: 'from' | 'to'): number[][] {
  const counts = new Int32Array(nodes);
  for (const edge of edges) counts[edge[end]] = (counts[edge[end]] as number) + 1;
  const lists = Array.from(counts, (count) => new Array<number>(count));
  for (let e = edges.length - 1; e >= 0; e -= 1) {
    const v = (edges[e] as SignalEdge)[end];
    const place = (counts[v] as number) - 1;
    counts[v] = place;
    (lists[v] as number[])[place] = e;
  }
  return lists;
}

class Builder {
  readonly nodes: SignalNode[] = [];
  readonly edges: SignalEdge[] = [];
  private readonly known = new Map<string, number>();

  /** A new node. */
  add(key: string, kind: NodeKind, name: string, id: string): number {
    return this.nodes.push({ key, kind, name, id }) - 1;
  }

  /** The node with this key, made if there is none; only for nodes that are all made by this. */
  node(key: string, kind: NodeKind, name: () => string): number {
    let node = this.known.get(key);
    if (node === undefined) this.known.set(key, (node = this.add(key, kind, name(), '')));
    return node;
  }

  find(key: string): number | undefined {
    return this.known.get(key);
  }

  edge(from: number, to: number, kind: EdgeKind, db: number, delayMs: number, ref: string, why = ''): void {
    this.edges.push({ from, to, kind, db, delayMs, ref, why });
  }

  finish(): SignalGraph {
    const { nodes, edges } = this;
    let index: Map<string, number> | null = null;
    return {
      nodes,
      edges,
      out: byEnd(edges, nodes.length, 'from'),
      into: byEnd(edges, nodes.length, 'to'),
      // Most who ask for a graph never look a key up.
      get index() {
        return (index ??= new Map(nodes.map(({ key }, v) => [key, v])));
      },
    };
  }
}

/** The graph of everything that can be heard now: muted channels and faders at the bottom let nothing through. */
export function signalGraph(show: Show): SignalGraph {
  const b = new Builder();
  const { sound } = show;
  const cards = new Map(sound.cards.map((c) => [c.deviceId, c]));
  const portName = (side: 'inputs' | 'outputs', deviceId: string, pair: number) =>
    cards.get(deviceId)?.[side].find((p) => p.pair === pair)?.name;
  const input = (deviceId: string, pair: number) =>
    b.node(`in:${deviceKey(deviceId)}:${pair}`, 'input', () => portName('inputs', deviceId, pair) ?? pairName('inputs', pair));
  const singles = new Map<number, { deviceId: string; pair: number }>();
  /** One side of a pair: a microphone of its own. */
  const single = (deviceId: string, first: number) => {
    const pair = Math.ceil(first / 2);
    const node = b.node(`in:${deviceKey(deviceId)}:${pair}:${first}`, 'input', () => {
      const name = portName('inputs', deviceId, pair);
      return name === undefined ? `input ${first}` : `${name} (input ${first})`;
    });
    singles.set(node, { deviceId, pair });
    return node;
  };
  const output = (deviceId: string, pair: number) =>
    b.node(`out:${deviceKey(deviceId)}:${pair}`, 'output', () => pairName('outputs', pair));
  /** What is plugged into the outputs: a named loudspeaker, or the outputs themselves. */
  const speaker = (to: Pair) => {
    const out = output(to.deviceId, to.pair);
    const name = portName('outputs', to.deviceId, to.pair);
    if (name === undefined) return out;
    const key = `spk:${deviceKey(to.deviceId)}:${to.pair}`;
    const known = b.find(key);
    if (known !== undefined) return known;
    const node = b.node(key, 'speaker', () => name);
    b.edge(out, node, 'plug', 0, 0, '');
    return node;
  };

  const buses = new Map(sound.buses.map((bus) => [bus.id, { bus, node: b.add(`bus:${bus.id}`, 'bus', `bus ${bus.name}`, bus.id) }]));
  const groups = new Map(sound.groups.map((g) => [g.id, g]));
  const sources = new Map(show.sources.map((s) => [s.id, s]));
  const taken = takenBySeats(show);
  const channels = new Map<string, { channel: Channel; node: number; wait: number }>();
  for (const channel of channelsOf(show)) {
    const { id, name, feed } = channel;
    const node = b.add(`ch:${id}`, 'channel', `channel ${name}`, id);
    const { gainDb } = channel.sound;
    channels.set(id, { channel, node, wait: waitMsOf(show, channel) });
    if (feed?.kind === 'device') {
      b.edge(
        feed.stereo ? input(feed.deviceId, Math.ceil(feed.first / 2)) : single(feed.deviceId, feed.first),
        node,
        'feed',
        gainDb,
        0,
        '',
      );
      continue;
    }
    if (feed?.kind === 'tone') {
      b.edge(b.add(`src:${id}`, 'source', name, id), node, 'feed', gainDb, 0, '');
      continue;
    }
    const source = sources.get((feed?.kind === 'seat' ? seatSource(show, feed.seatId) : id) ?? '');
    // A source whose seat has a channel is heard there, not by its own.
    if (!source || (feed === null ? taken.has(id) : taken.get(source.id) !== id)) continue;
    const own = source.settings;
    if (own.kind === 'camera' && own.audioDeviceId !== null) {
      b.edge(input(own.audioDeviceId, 1), node, 'feed', gainDb, 0, '');
    } else b.edge(b.add(`src:${source.id}`, 'source', source.name, source.id), node, 'feed', gainDb, 0, '');
  }

  const matrix = matrixOf(show);
  for (const { fromId, busId, levelDb, tap, why } of matrix.open) {
    const to = buses.get(busId);
    if (!to || levelDb <= FADER_FLOOR_DB) continue;
    const found = channels.get(fromId);
    if (found) {
      const { channel, node, wait } = found;
      const { faderDb, muted, delayMs, groupId } = channel.sound;
      const group = groupId === null ? undefined : groups.get(groupId);
      const closed = muted || group?.muted || (tap === 'after' && (faderDb <= FADER_FLOOR_DB || (group?.faderDb ?? 0) <= FADER_FLOOR_DB));
      if (closed) continue;
      b.edge(
        node,
        to.node,
        'send',
        levelDb + (tap === 'after' ? faderDb + (group?.faderDb ?? 0) : 0),
        delayMs + (to.bus.timing === 'picture' ? wait : 0),
        `${fromId} ${busId}`,
        why,
      );
      continue;
    }
    const from = buses.get(fromId);
    if (from && !from.bus.muted && (tap === 'before' || from.bus.faderDb > FADER_FLOOR_DB)) {
      b.edge(from.node, to.node, 'send', levelDb + (tap === 'after' ? from.bus.faderDb : 0), 0, `${fromId} ${busId}`, why);
    }
  }

  const plays = (busId: string) => {
    const found = buses.get(busId);
    return found && !found.bus.muted && found.bus.faderDb > FADER_FLOOR_DB ? found : null;
  };
  for (const { id, busId, to } of sound.patches) {
    const from = plays(busId);
    if (!from) continue;
    b.edge(from.node, output(to.deviceId, to.pair), 'patch', from.bus.faderDb, from.bus.delayMs, id);
    speaker(to);
  }
  for (const card of sound.cards) {
    for (const { id, on, from, fromPair, to, toPair, levelDb } of card.mixes) {
      if (!on || levelDb <= FADER_FLOOR_DB) continue;
      const start = from === 'input' ? input(card.deviceId, fromPair) : output(card.deviceId, fromPair);
      if (to === 'output') speaker({ ...card, pair: toPair });
      b.edge(start, to === 'input' ? input(card.deviceId, toPair) : output(card.deviceId, toPair), 'card', levelDb, 0, id);
    }
  }
  for (const { id, on, from, to, levelDb, delayMs } of sound.paths) {
    if (on) b.edge(speaker(from), input(to.deviceId, to.pair), 'air', levelDb, delayMs, id);
  }
  // What comes to a pair from inside the card or through the air comes to each of its sides.
  for (const [node, { deviceId, pair }] of singles) {
    const whole = b.find(`in:${deviceKey(deviceId)}:${pair}`);
    if (whole !== undefined && b.edges.some((e) => e.to === whole)) b.edge(whole, node, 'feed', 0, 0, '');
  }
  for (const listener of sound.listeners) {
    const ear = b.add(`ear:${listener.id}`, 'listener', listener.name, listener.id);
    const physical = listener.kind === 'room' || listener.kind === 'presenter' || listener.kind === 'producer';
    const patches = sound.patches.filter((p) => p.busId === listener.busId);
    if (listener.place) b.edge(speaker(listener.place), ear, 'hears', 0, 0, '');
    else if (physical) for (const { to } of patches) b.edge(speaker(to), ear, 'hears', 0, 0, '');
    else {
      const from = plays(listener.busId);
      if (from) b.edge(from.node, ear, 'hears', from.bus.faderDb, from.bus.delayMs, '');
    }
    // A loudspeaker beside their own microphone: what they hear comes back, about this much weaker.
    if (listener.open)
      for (const id of listener.ownIds)
        if (channels.has(id)) b.edge(ear, (channels.get(id) as { node: number }).node, 'leak', LEAK_DB, LEAK_MS, '');
  }
  return b.finish();
}

/** Level of a loudspeaker at the microphone beside it, dB: an estimate for a table in a living room. */
const LEAK_DB = -20;
/** Time until it is back: the way over the network and through the guest's machine, ms. */
const LEAK_MS = 120;
