/** What the window that runs a show and the server say to each other about devices. */
import { type Device } from './document';

/** A device as the server has to know it. */
export type Reached = Pick<Device, 'id' | 'settings' | 'answers' | 'waitSeconds' | 'retries'>;

export type ToDevices =
  /** The devices that are on; connections to others are closed. */
  { kind: 'devices'; list: Reached[] } | { kind: 'send'; key: number; deviceId: string; method: string; path: string; text: string };

/** How it stands with a device: nothing is known yet, it is reached, or it is not. */
export type Reach = 'unknown' | 'reached' | 'away';

export type FromDevices =
  /** What became of something that was sent. */
  | { kind: 'done'; key: number; ok: boolean; millis: number; tries: number; answer: string | null; message: string }
  /** It said something unasked. */
  | { kind: 'heard'; deviceId: string; text: string }
  | { kind: 'state'; deviceId: string; reach: Reach; message: string; waiting: number };

/** Bytes of one message on this line at most. */
export const MOST_LINE_BYTES = 2_000_000;
/** Bytes of an answer that are kept. */
export const MOST_ANSWER = 65_536;
