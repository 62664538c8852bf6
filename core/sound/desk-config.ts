/** The show's sound desk as the audio thread needs it: only numbers and keys. Gains that change by the frame are apart. */
import { type Air } from '../desk/air';
import { type Show } from '../desk/show';
import { channelsOf, seatSource, waitMsOf } from './channels';
import { type Tap } from './document';
import { dbToGain, faderGain } from './level';
import { routingReport } from './routing/findings';
import { matrixOf } from './routing/matrix';
import { type Equaliser, type Processing } from './strip';

/** Where a channel's sound comes in: a feed by key, one side of it or both; or a tone. */
export type ChannelFeed = { key: string; side: 'both' | 'left' | 'right' } | { hz: number; gain: number } | null;

export interface ChannelConfig {
  id: string;
  feed: ChannelFeed;
  processing: Processing;
  delayMs: number;
  /** Further delay in `picture` buses, ms: for live inputs. */
  waitMs: number;
  pan: number;
}

export interface BusConfig {
  id: string;
  eq: Equaliser;
  ceilingDb: number;
  delayMs: number;
  live: boolean;
  /** The routing has a loop through this bus: it is watched closely. */
  looped: boolean;
  /** Its loudness: 0 was never measured, or the number of the measurement; stopped or not. */
  run: number;
  stopped: boolean;
  /** Talkback is added now. */
  talk: boolean;
}

export interface SendConfig {
  from: string;
  bus: string;
  gain: number;
  tap: Tap;
}

export interface DeskConfig {
  channels: ChannelConfig[];
  buses: BusConfig[];
  sends: SendConfig[];
  /** What the operator hears: soloed channels and buses, or one bus. */
  ears: { busId: string; solos: readonly { id: string; tap: Tap }[] };
  talk: { channelId: string; dim: number } | null;
}

/** Key of a device's pair of inputs. */
export const inputKey = (deviceId: string, pair: number): string => `input ${deviceId || 'default'} ${pair}`;

function feedOf(show: Show, id: string, feed: ReturnType<typeof channelsOf>[0]['feed']): ChannelFeed {
  if (feed === null) return { key: id, side: 'both' };
  switch (feed.kind) {
    case 'device':
      return {
        key: inputKey(feed.deviceId, Math.ceil(feed.first / 2)),
        side: feed.stereo ? 'both' : feed.first % 2 === 1 ? 'left' : 'right',
      };
    case 'seat': {
      const source = seatSource(show, feed.seatId);
      return source === null ? null : { key: source, side: 'both' };
    }
    case 'tone':
      return { hz: feed.hz, gain: dbToGain(feed.levelDb) };
  }
}

/** The configuration of the audio thread for a show as it stands. */
export function deskConfig(show: Show, { sound: air }: Air): DeskConfig {
  const { sound } = show;
  const looped = new Set(routingReport(show).loops.loops.flatMap((l) => l.keys));
  const targets = new Set(sound.listeners.filter((l) => air.talkback?.listenerIds.includes(l.id)).map((l) => l.busId));
  return {
    channels: channelsOf(show).map(({ id, feed, sound: strip }) => {
      const { gainDb, pick, highPass, gate, eq, compressor, delayMs, pan } = strip;
      return {
        id,
        feed: feedOf(show, id, feed),
        processing: { gainDb, pick, highPass, gate, eq, compressor },
        delayMs,
        waitMs: waitMsOf(show, { id, feed }),
        pan,
      };
    }),
    buses: sound.buses.map(({ id, eq, ceilingDb, delayMs, timing }) => ({
      id,
      eq,
      ceilingDb,
      delayMs,
      live: timing === 'live',
      looped: looped.has(`bus:${id}`),
      run: air.loudness[id] ? air.loudness[id].start + 1 : 0,
      stopped: air.loudness[id] ? air.loudness[id].stop !== null : false,
      talk: targets.has(id),
    })),
    sends: matrixOf(show).open.map(({ fromId, busId, levelDb, tap }) => ({ from: fromId, bus: busId, gain: faderGain(levelDb), tap })),
    ears: { busId: air.earsId, solos: air.solos.map(({ id, tap }) => ({ id, tap })) },
    talk: sound.talkbackId === null ? null : { channelId: sound.talkbackId, dim: dbToGain(sound.dimDb) },
  };
}
