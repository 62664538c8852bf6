/** What a room reads of a running show. */
import { type LoudnessReading } from '#core/sound/loudness/loudness-meter';
import { type DeviceState } from '../sound/device-board';
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { type Reach } from '#core/devices/line';
import { type History } from '#core/desk/history';
import { type Held } from '#core/panels/held';
import { type WorkingFormat } from '#core/picture/capability';
import { type EncoderStatus } from '../output/messages';
import { type MixerStats, type SourceHealth } from '../picture/messages';
import { type ReplayStatus } from '../replay/messages';
import { type Space } from '../storage/opfs';

export interface Notice {
  id: string;
  tone: 'info' | 'caution' | 'trouble';
  text: string;
  /** What does it all the same, where that may be asked for. */
  anyway?: Command;
}

/** One second of the engine's life, for the charts. */
export interface HealthSample {
  at: number;
  drawMs: number;
  dropped: number;
  late: number;
  recordingBitrate: number;
  streamBitrate: number;
}

/** What a room reads of the sound desk. */
export interface DeskState {
  devices: DeviceState[];
  loudness: Record<string, LoudnessReading>;
  /** Gain reduction of channels and buses, dB. */
  reduction: Record<string, number>;
  /** Milliseconds of sound that came too late and were heard as silence. */
  lateMs: number;
}

/** How it stands with where a sheet comes from. */
export interface SheetStatus {
  /** When it was last read without a fault, milliseconds since 1970; null when it was not yet. */
  good: number | null;
  /** Why it cannot be read now; null when it can. */
  trouble: string | null;
  /** What somebody may do about it: allow a host, or press once more. */
  wants: { kind: 'host'; host: string } | { kind: 'press' } | null;
}

/** How it stands with a device that is on. */
export interface DeviceStatus {
  reach: Reach;
  /** Why it is away, or what is not well; empty otherwise. */
  message: string;
  /** Messages that wait for it. */
  waiting: number;
  /** What was sent to it last, and what became of that; null for nothing yet. */
  last: { name: string; words: string; ok: boolean; answer: string; millis: number; tries: number } | null;
}

/** What changes with acts and reports. What changes with every frame is in `FrameState`, so that nobody is asked 25 times a second for nothing. */
export interface ShowState {
  desk: Desk;
  history: History;
  /** What somebody has in hand just now. */
  held: readonly Held[];
  health: Record<string, SourceHealth>;
  sizes: Record<string, { width: number; height: number }>;
  encoder: EncoderStatus;
  /** The last recording ended by a fault, or could not begin. */
  recordingFailed: boolean;
  /** Null until replay is used. */
  replay: ReplayStatus | null;
  /** Bytes of decoded frames that the decks hold. */
  replayCache: number;
  samples: HealthSample[];
  renderer: { renderer: string; software: boolean; mixer: string } | null;
  working: WorkingFormat;
  space: Space | null;
  /** By the identity of the sheet; those that are followed. */
  sheets: Record<string, SheetStatus>;
  /** By their identity; those that are on. */
  devices: Record<string, DeviceStatus>;
  /** The browser lets sound play. */
  soundAwake: boolean;
  /** The server is reached, so the remote works. */
  remote: boolean;
  notices: Notice[];
  /** The mixer cannot run at all; why. */
  failure: string | null;
}

/** What changes with every frame. */
export interface FrameState {
  /** The frame last mixed. */
  frame: number;
  mixer: MixerStats;
}

/** Everything that is known at a moment. */
export type LiveState = ShowState & FrameState;
