/** What page and mixer worker say to each other. */
import { type WorkingFormat } from '#core/picture/capability';
import { type Air } from '#core/desk/air';
import { type Feed } from '#core/output/document';
import { type Raster } from '#core/show/raster';
import { type Show } from '#core/desk/show';
import { type Transition } from '#core/picture/document';

/** Whether a source delivers. `waiting` has not delivered yet; `lost` did, or cannot. */
export type SourceState = 'waiting' | 'live' | 'lost';

export interface SourceHealth {
  state: SourceState;
  /** In plain words, for `lost` and for `waiting` that needs something done. */
  cause: string;
}

/** What a monitor shows: the programme, also without its lanes, Next, any one picture or its key, or a transition tried out. */
export type MonitorPicture =
  | { kind: 'programme' }
  | { kind: 'clean' }
  | { kind: 'next' }
  | { kind: 'source'; id: string; matte?: boolean }
  | { kind: 'trial'; transition: Transition; fromId: string | null; toId: string | null };

/** A frame on its way from a driver to the mixer, over a port of its own. */
export interface FrameMessage {
  frame: VideoFrame;
  /** Show microseconds. */
  stamp: number;
  /** Takes back what was sent for this moment or later. */
  flush?: true;
}

/** Where the other picture of a deck comes in. */
export const secondOf = (id: string): string => `${id}.second`;

export type ToMixer =
  | { type: 'start'; clock: SharedArrayBuffer; working: Working; desk: { show: Show; air: Air }; prefer: 'gl' | 'soft' | null }
  | { type: 'desk'; show: Show; air: Air }
  | { type: 'working'; working: Working }
  /** The page has taken a tick in; until then no further one is sent. */
  | { type: 'tick-taken' }
  | { type: 'source-port'; id: string; port: MessagePort }
  | { type: 'source-still'; id: string; image: ImageBitmap; working: Raster }
  | { type: 'source-gone'; id: string }
  | { type: 'source-health'; id: string; health: SourceHealth }
  | { type: 'monitor'; key: string; canvas: OffscreenCanvas; picture: MonitorPicture }
  | { type: 'monitor-size'; key: string; width: number; height: number }
  | { type: 'monitor-gone'; key: string }
  /** Frames of a feed go to `port`, as far as they are taken: at most `waiting` are on their way. */
  | { type: 'programme-port'; key: string; port: MessagePort; feed: Feed; waiting: number }
  | { type: 'programme-gone'; key: string }
  /** A copy of every frame of a source goes to `port` too, as a FrameMessage. */
  | { type: 'tap'; id: string; port: MessagePort }
  | { type: 'tap-gone'; id: string }
  | { type: 'thumbnail' };

/** What the mixer works in. */
export type Working = Pick<WorkingFormat, 'raster' | 'frameStep' | 'monitors'>;

/** Counted by the mixer since it started. */
export interface MixerStats {
  frames: number;
  /** Programme frames never drawn because the mixer was late. */
  dropped: number;
  /** Programme frames drawn more than one frame late. */
  late: number;
  /** Monitor pictures left out to catch up. */
  monitorsSkipped: number;
  /** Milliseconds that the last programme frame took, uploads included. */
  drawMs: number;
  /** Milliseconds that programme frames take, averaged over about ten. */
  usualMs: number;
}

export type FromMixer =
  | { type: 'ready'; renderer: string; software: boolean; mixer: string }
  | { type: 'tick'; frame: number; stats: MixerStats }
  | { type: 'source-seen'; id: string; width: number; height: number }
  | { type: 'thumbnail'; blob: Blob }
  /** Pictures cannot be drawn, and why; null when they can again. */
  | { type: 'failed'; message: string | null };
