/** The shape of sound devices: those of the browser and stand-ins alike. */
import { type Sound } from '#core/sound/document';

export interface SoundDeviceInfo {
  deviceId: string;
  label: string;
  /** Pairs, as far as is known before it is opened; 0 where it has no such side. */
  inputPairs: number;
  outputPairs: number;
  /** The operator can hear its outputs here (`listen`). */
  monitored?: boolean;
}

/** One side of a device while it is open. */
export interface OpenDevice {
  /** What should be known of it, such as a converted sample rate; empty for nothing. */
  note: string;
  /** Pairs that this side has. */
  pairs: number;
  /** Node that gives or takes a pair, counted from 1. @throws Error in plain words when the device has no such pair. */
  pair(pair: number): AudioNode;
  /** The node's output or input for the pair. */
  index(pair: number): number;
  close(): void;
}

export interface SoundDeviceDriver {
  /** Devices now. */
  list(): Promise<SoundDeviceInfo[]>;
  owns(deviceId: string): boolean;
  /** @throws Error in plain words when it cannot be opened. `onLost` is called when it goes. */
  openInput(context: AudioContext, deviceId: string, label: string, pairs: number, onLost: (cause: string) => void): Promise<OpenDevice>;
  openOutput(context: AudioContext, deviceId: string, label: string, pairs: number, onLost: (cause: string) => void): Promise<OpenDevice>;
  /** The show's word on the device's own mixer and room has changed; only stand-ins can obey. */
  obey?(sound: Sound): void;
  /** Lets the operator hear a pair of outputs where the device is; null for none. */
  listen?(pair: number | null, ears: AudioNode): void;
}
