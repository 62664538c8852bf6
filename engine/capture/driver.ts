/** The shape of every driver: devices, files, drawn sources and stand-ins alike. */
import { type Air } from '#core/desk/air';
import { type Raster } from '#core/show/raster';
import { type Source, type SourceKind } from '#core/show/source';
import { type SourceOf } from '#core/show/source-kinds';
import { type Rate } from '#core/time/rate';
import { type SourceHealth } from '../picture/messages';

/** What a driver delivers into. Each call replaces what was connected before. */
export interface SourceLink {
  /** A port for FrameMessages. `second` is for the other picture of a deck. */
  framePort(second?: boolean): MessagePort;
  /** One picture that stays. */
  still(image: ImageBitmap): void;
  /** A port for SoundChunks. */
  soundPort(): MessagePort;
  soundStream(stream: MediaStream): void;
  health(state: SourceHealth['state'], cause?: string): void;
}

export interface EngineFormat {
  clock: SharedArrayBuffer;
  rate: Rate;
  /** Every how many frames of the show are drawn here: 1, or more on a slow machine. */
  frameStep: number;
  working: Raster;
}

export interface DriverHandle {
  stop(): void;
  /** The source or its player has changed without needing a restart. */
  update?(source: Source, air: Air): void;
  /** The press by the person at the machine that it has waited for (see `needsPress`). */
  press?(): void;
  /** The engine works in another raster now; for sources that are drawn at it. */
  resize?(working: Raster): void;
}

/** A driver that takes sources of any kind. */
export type AnyDriver = (source: Source, air: Air, link: SourceLink, format: EngineFormat) => DriverHandle;

/** A driver for sources of one kind. */
export type Driver<K extends SourceKind> = (source: SourceOf<K>, air: Air, link: SourceLink, format: EngineFormat) => DriverHandle;

/** Kinds of sources that a driver brings; the mixer draws the others itself. */
export type DrivenKind = Exclude<SourceKind, 'colour'>;

/** A driver for every kind: one that is not wired in does not compile. */
export type Drivers = { [K in DrivenKind]: Driver<K> };

/** Those that come from outside of the engine: decks are replay's own, guests and encoders those of their lines. */
export type OutsideDrivers = Omit<Drivers, 'deck' | 'guest' | 'encoder'>;
