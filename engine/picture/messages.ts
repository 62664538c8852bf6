/** What page and mixer worker say to each other. */
import { type MosaicLayout } from '#core/panels/mosaic';
import { type WorkingFormat } from '#core/picture/capability';
import { type Air } from '#core/desk/air';
import { type PicturePlan } from '#core/picture/draw';
import { type Output, type View } from '#core/screens/outputs';
import { type Rect } from '#core/show/geometry';
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

/** What a monitor shows: anything that can be seen, any one picture's key, or a transition tried out. */
export type MonitorPicture =
  | Exclude<View, { kind: 'picture' }>
  | { kind: 'picture'; id: string; matte?: boolean }
  /** How a picture would look in a lane, at rest, over what is on air or over Next. */
  | { kind: 'over'; over: 'air' | 'next'; laneId: string; id: string }
  /** What a guest sends, admitted or not: for the green room alone. `id` is of the source. */
  | { kind: 'guest'; id: string }
  | { kind: 'trial'; transition: Transition; fromId: string | null; toId: string | null }
  /** What an output of the show shows now. */
  | { kind: 'output'; id: string }
  /** A canvas or a part of it; with `light`, as the wall looks with its blends on or off; with `template`, over the picture made for the venue. */
  | {
      kind: 'canvas';
      surfaceId: string;
      which: 'air' | 'next';
      view: Rect | null;
      light: 'blended' | 'unblended' | null;
      template?: boolean;
    }
  /** What somebody else has worked out, such as a macro that is tried dry. */
  | { kind: 'plan'; plan: PicturePlan };

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
  /** Without graphics where they are as they were. It counts from a frame on, or at once: then those before it that still wait do too. */
  | { type: 'desk'; show: Omit<Show, 'graphics'> & { graphics: Show['graphics'] | null }; air: Air; from: number | null }
  | { type: 'working'; working: Working }
  /** The page has taken a tick in; until then no further one is sent. */
  | { type: 'tick-taken' }
  | { type: 'source-port'; id: string; port: MessagePort }
  | { type: 'source-still'; id: string; image: ImageBitmap; working: Raster }
  | { type: 'source-gone'; id: string }
  | { type: 'source-health'; id: string; health: SourceHealth }
  /** Pictures for panels: their places, and what each shows by its key; pieces go to `port`. Null ends them. */
  | { type: 'mosaic'; layout: MosaicLayout | null; pictures: Record<string, MonitorPicture>; port: MessagePort | null }
  | { type: 'mosaic-key' }
  | { type: 'monitor'; key: string; canvas: OffscreenCanvas; picture: MonitorPicture }
  | { type: 'monitor-size'; key: string; width: number; height: number }
  | { type: 'monitor-gone'; key: string }
  /** Pictures of an output go to `port` as far as they are taken: at most `waiting` are on their way. As FrameMessages, or as PlanesMessages for other windows. */
  | { type: 'output-port'; key: string; port: MessagePort; output: Output; waiting: number; as: 'frames' | 'planes' }
  | { type: 'output-gone'; key: string }
  /** A copy of every frame of a source goes to `port` as it comes, as far as they are taken. */
  | { type: 'copies-port'; id: string; port: MessagePort }
  | { type: 'copies-gone'; id: string }
  /** Paints are asked over this port from now on. */
  | { type: 'graphics-port'; port: MessagePort }
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
  /** Desks that came after the frame from which on they count: what a macro did was seen late. */
  desksLate: number;
  /** Monitor pictures left out to catch up. */
  monitorsSkipped: number;
  /** Frames a second of outputs that only windows take, by their identity; null while the picture stands still. */
  screens: Record<string, number | null>;
  /** Milliseconds that the last programme frame took, uploads included. */
  drawMs: number;
  /** Milliseconds that programme frames take, averaged over about ten. */
  usualMs: number;
  /** Paints that the graphics worker has drawn, their pixels and milliseconds. */
  paints: { drawn: number; pixels: number; millis: number };
}

/** Nothing counted yet. */
export const noStats = (): MixerStats => ({
  frames: 0,
  dropped: 0,
  late: 0,
  desksLate: 0,
  monitorsSkipped: 0,
  screens: {},
  drawMs: 0,
  usualMs: 0,
  paints: { drawn: 0, pixels: 0, millis: 0 },
});

export type FromMixer =
  | { type: 'ready'; renderer: string; software: boolean; mixer: string }
  | { type: 'tick'; frame: number; stats: MixerStats }
  | { type: 'source-seen'; id: string; width: number; height: number }
  | { type: 'thumbnail'; blob: Blob }
  /** A graphic cannot be drawn, and why. */
  | { type: 'paint-failed'; message: string }
  /** The graphics worker does not answer. */
  | { type: 'graphics-dead' }
  /** Pictures cannot be drawn, and why; null when they can again. */
  | { type: 'failed'; message: string | null };
