/** The matrix of sends: what rules make of who listens, and what hands have set over it. */
import { isDraft } from 'immer';
import { KeepLast } from '../../desk/keep-last';
import { type Show } from '../../desk/show';
import { type Channel, channelsOf, seatSource } from '../channels';
import { type Listener, type Send, type Tap } from '../document';

/** One crosspoint of the matrix. */
export interface Crosspoint {
  fromId: string;
  busId: string;
  on: boolean;
  levelDb: number;
  tap: Tap;
  /** Made by the rule of the bus's listener, or set by hand. */
  by: 'rule' | 'hand';
  /** In plain words, why it is as it is. */
  why: string;
}

export interface Matrix {
  /** The crosspoint of a channel or bus into a bus. */
  at(fromId: string, busId: string): Crosspoint;
  /** Every open crosspoint. */
  open: Crosspoint[];
  /** Channels of producers: crew that no rule lets into a mix. */
  crew: ReadonlySet<string>;
  /** Listeners whose own voice a channel carries, by channel. */
  owners: ReadonlyMap<string, Listener[]>;
}

/** Listeners whose own a channel is: by the channel, or by the source that fills its seat. */
function ownersOf(show: Show, channels: readonly Channel[]): Map<string, Listener[]> {
  const owners = new Map<string, Listener[]>();
  const claims = new Map<string, Listener[]>();
  for (const listener of show.sound.listeners) for (const id of listener.ownIds) claims.set(id, [...(claims.get(id) ?? []), listener]);
  if (claims.size === 0) return owners;
  for (const { id, feed } of channels) {
    const source = feed?.kind === 'seat' ? seatSource(show, feed.seatId) : null;
    const found = new Set([...(claims.get(id) ?? []), ...(source === null ? [] : (claims.get(source) ?? []))]);
    if (found.size > 0) owners.set(id, [...found]);
  }
  return owners;
}

interface Ruling {
  on: boolean;
  tap: Tap;
  why: string;
}

/** What the rule of `listener` says of a channel. */
function ruling(listener: Listener, owners: readonly Listener[]): Ruling {
  const closed = (why: string): Ruling => ({ on: false, tap: 'after', why });
  if (owners.some((l) => l.kind === 'producer')) return closed('crew: no mix gets it by rule');
  const guest = owners.some((l) => l.kind === 'guest');
  switch (listener.rule) {
    case 'hand':
      return closed('not sent');
    case 'guests':
      return guest
        ? { on: true, tap: 'before', why: `${listener.name} hears the guests, before their faders` }
        : closed(`${listener.name} hears the guests only`);
    case 'all-but-self':
      return owners.some((l) => l.id === listener.id)
        ? closed(`${listener.name} would hear themself`)
        : { on: true, tap: 'after', why: `${listener.name} hears everything but themself` };
    case 'programme':
      return { on: true, tap: 'after', why: `${listener.name} hears the programme` };
  }
}

function makeMatrix(show: Show): Matrix {
  const channels = channelsOf(show);
  const owners = ownersOf(show, channels);
  // What is set by hand, by bus and then by what is sent: nothing is put together into keys, of which there may be thousands.
  const hands = new Map<string, Map<string, Send>>();
  for (const bus of show.sound.buses) hands.set(bus.id, new Map());
  for (const send of show.sound.sends) hands.get(send.busId)?.set(send.fromId, send);
  const ruler = (busId: string) => show.sound.listeners.find((l) => l.busId === busId && l.rule !== 'hand');
  const rulers = new Map(show.sound.buses.map((b) => [b.id, ruler(b.id)]));
  const known = new Set(channels.map((c) => c.id));
  const at = (fromId: string, busId: string): Crosspoint => {
    const hand = hands.get(busId)?.get(fromId);
    if (hand)
      return {
        fromId,
        busId,
        on: hand.on,
        levelDb: hand.levelDb,
        tap: hand.tap,
        by: 'hand',
        why: hand.on ? 'opened by hand' : 'closed by hand',
      };
    const listener = rulers.get(busId);
    const { on, tap, why } =
      listener && known.has(fromId) ? ruling(listener, owners.get(fromId) ?? []) : { on: false, tap: 'after' as const, why: 'not sent' };
    return { fromId, busId, on, levelDb: 0, tap, by: 'rule', why };
  };
  const open: Crosspoint[] = [];
  for (const { id: busId } of show.sound.buses) {
    const listener = rulers.get(busId);
    if (!listener) continue;
    const set = hands.get(busId);
    for (const { id: fromId } of channels) {
      if (set?.has(fromId)) continue;
      const { on, tap, why } = ruling(listener, owners.get(fromId) ?? NOBODY);
      if (on) open.push({ fromId, busId, on, levelDb: 0, tap, by: 'rule', why });
    }
  }
  for (const { fromId, busId, on, levelDb, tap } of show.sound.sends) {
    if (on && rulers.has(busId) && (known.has(fromId) || rulers.has(fromId)))
      open.push({ fromId, busId, on, levelDb, tap, by: 'hand', why: 'opened by hand' });
  }
  const crew = new Set([...owners].filter(([, list]) => list.some((l) => l.kind === 'producer')).map(([id]) => id));
  return { at, open, crew, owners };
}

const NOBODY: readonly Listener[] = [];

const kept = new KeepLast<Matrix>();

/** The matrix of a show; worked out once for each state of it. */
export const matrixOf = (show: Show): Matrix => (isDraft(show) ? makeMatrix(show) : kept.get([show], () => makeMatrix(show)));
