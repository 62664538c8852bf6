/**
 * The whole signal path as a directed graph: sources and inputs → channels → buses → outputs → loudspeakers → listeners,
 * and the ways back: through the air, the sound card's own mixer, and guests who listen by loudspeaker.
 */
import { type Show } from '../../show/show';
import { channelsOf, isLive, seatSource, takenBySeats } from '../channels';
import { type Pair } from '../document';
import { FADER_FLOOR_DB } from '../level';
import { LIVE_WAIT_MS } from '../timing';
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
  nodes: SignalNode[];
  edges: SignalEdge[];
  /** Edges that leave a node, by node. */
  out: number[][];
  /** Edges that come into a node, by node. */
  into: number[][];
  index: Map<string, number>;
}

const deviceKey = (deviceId: string) => deviceId || 'default';
const pairName = (what: string, pair: number) => `${what} ${pair * 2 - 1}–${pair * 2}`;

class Builder {
  readonly graph: SignalGraph = { nodes: [], edges: [], out: [], into: [], index: new Map() };

  node(key: string, kind: NodeKind, name: string, id: string): number {
    const { nodes, out, into, index } = this.graph;
    const known = index.get(key);
    if (known !== undefined) return known;
    index.set(key, nodes.length);
    nodes.push({ key, kind, name, id });
    out.push([]);
    into.push([]);
    return nodes.length - 1;
  }

  edge(from: number, to: number, kind: EdgeKind, db: number, delayMs: number, ref: string, why = ''): void {
    const { edges, out, into } = this.graph;
    (out[from] as number[]).push(edges.length);
    (into[to] as number[]).push(edges.length);
    edges.push({ from, to, kind, db, delayMs, ref, why });
  }
}

/** The graph of everything that can be heard now: muted channels and faders at the bottom let nothing through. */
export function signalGraph(show: Show): SignalGraph {
  const b = new Builder();
  const { sound } = show;
  const portName = (side: 'inputs' | 'outputs', deviceId: string, pair: number) =>
    sound.cards.find((c) => c.deviceId === deviceId)?.[side].find((p) => p.pair === pair)?.name;
  const input = (deviceId: string, pair: number) =>
    b.node(`in:${deviceKey(deviceId)}:${pair}`, 'input', portName('inputs', deviceId, pair) ?? pairName('inputs', pair), '');
  /** One side of a pair: a microphone of its own. */
  const single = (deviceId: string, first: number) => {
    const pair = Math.ceil(first / 2);
    const name = portName('inputs', deviceId, pair);
    const node = b.node(`in:${deviceKey(deviceId)}:${pair}:${first}`, 'input', name === undefined ? `input ${first}` : `${name} (input ${first})`, '');
    singles.set(node, { deviceId, pair });
    return node;
  };
  const singles = new Map<number, { deviceId: string; pair: number }>();
  const output = (deviceId: string, pair: number) => b.node(`out:${deviceKey(deviceId)}:${pair}`, 'output', pairName('outputs', pair), '');
  /** What is plugged into the outputs: a named loudspeaker, or the outputs themselves. */
  const speaker = (to: Pair) => {
    const out = output(to.deviceId, to.pair);
    const name = portName('outputs', to.deviceId, to.pair);
    if (name === undefined) return out;
    const key = `spk:${deviceKey(to.deviceId)}:${to.pair}`;
    const fresh = !b.graph.index.has(key);
    const node = b.node(key, 'speaker', name, '');
    if (fresh) b.edge(out, node, 'plug', 0, 0, '');
    return node;
  };

  const buses = new Map(sound.buses.map((bus) => [bus.id, { bus, node: b.node(`bus:${bus.id}`, 'bus', `bus ${bus.name}`, bus.id) }]));
  const groups = new Map(sound.groups.map((g) => [g.id, g]));
  const taken = takenBySeats(show);
  const channels = new Map(channelsOf(show).map((c) => [c.id, { ...c, node: b.node(`ch:${c.id}`, 'channel', `channel ${c.name}`, c.id) }]));
  for (const { id, name, feed, sound: strip, node } of channels.values()) {
    if (feed?.kind === 'device') {
      b.edge(feed.stereo ? input(feed.deviceId, Math.ceil(feed.first / 2)) : single(feed.deviceId, feed.first), node, 'feed', strip.gainDb, 0, '');
      continue;
    }
    if (feed?.kind === 'tone') {
      b.edge(b.node(`src:${id}`, 'source', name, id), node, 'feed', strip.gainDb, 0, '');
      continue;
    }
    const sourceId = feed?.kind === 'seat' ? seatSource(show, feed.seatId) : id;
    const source = show.sources.find((s) => s.id === sourceId);
    // A source whose seat has a channel is heard there, not by its own.
    if (!source || (feed === null ? taken.has(id) : taken.get(source.id) !== id)) continue;
    const own = source.settings;
    if (own.kind === 'camera' && own.audioDeviceId !== null) {
      b.edge(input(own.audioDeviceId, 1), node, 'feed', strip.gainDb, 0, '');
    } else b.edge(b.node(`src:${source.id}`, 'source', source.name, source.id), node, 'feed', strip.gainDb, 0, '');
  }

  const matrix = matrixOf(show);
  for (const { fromId, busId, levelDb, tap, why } of matrix.open) {
    const to = buses.get(busId);
    if (!to || levelDb <= FADER_FLOOR_DB) continue;
    const channel = channels.get(fromId);
    if (channel) {
      const { faderDb, muted, delayMs, groupId } = channel.sound;
      const group = groupId === null ? undefined : groups.get(groupId);
      const closed = muted || group?.muted || (tap === 'after' && (faderDb <= FADER_FLOOR_DB || (group?.faderDb ?? 0) <= FADER_FLOOR_DB));
      if (closed) continue;
      const wait = to.bus.timing === 'picture' && isLive(show, channel) ? LIVE_WAIT_MS : 0;
      b.edge(channel.node, to.node, 'send', levelDb + (tap === 'after' ? faderDb + (group?.faderDb ?? 0) : 0), delayMs + wait, `${fromId} ${busId}`, why);
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
    const whole = b.graph.index.get(`in:${deviceKey(deviceId)}:${pair}`);
    if (whole !== undefined && (b.graph.into[whole] as number[]).length > 0) b.edge(whole, node, 'feed', 0, 0, '');
  }
  for (const listener of sound.listeners) {
    const ear = b.node(`ear:${listener.id}`, 'listener', listener.name, listener.id);
    const physical = listener.kind === 'room' || listener.kind === 'presenter' || listener.kind === 'producer';
    const patches = sound.patches.filter((p) => p.busId === listener.busId);
    if (listener.place) b.edge(speaker(listener.place), ear, 'hears', 0, 0, '');
    else if (physical) for (const { to } of patches) b.edge(speaker(to), ear, 'hears', 0, 0, '');
    else {
      const from = plays(listener.busId);
      if (from) b.edge(from.node, ear, 'hears', from.bus.faderDb, from.bus.delayMs, '');
    }
    // A loudspeaker beside their own microphone: what they hear comes back, about this much weaker.
    if (listener.open) for (const id of listener.ownIds) if (channels.has(id)) b.edge(ear, (channels.get(id) as { node: number }).node, 'leak', LEAK_DB, LEAK_MS, '');
  }
  return b.graph;
}

/** Level of a loudspeaker at the microphone beside it, dB: an estimate for a table in a living room. */
const LEAK_DB = -20;
/** Time until it is back: the way over the network and through the guest's machine, ms. */
const LEAK_MS = 120;
