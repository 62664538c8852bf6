/** What was sent to devices and heard of them. Frames are show frames; the engine sends what is new here, once. */
import { type Method } from './document';

export interface Sent {
  /** Counts up; a number is never given again. */
  number: number;
  /** Frame from which on it is to be sent. */
  frame: number;
  deviceId: string;
  /** Name of the message, for the log. */
  name: string;
  method: Method;
  path: string;
  text: string;
}

export interface Heard {
  /** Counts up; a number is never given again. */
  number: number;
  deviceId: string;
  /** What it said, as one line of text: see `heardText`. */
  text: string;
}

export interface DevicesAir {
  /** Number of what was sent or heard last. */
  last: number;
  /** The newest of what was sent, in order. */
  sent: Sent[];
  /** The newest of what was heard, in order. */
  heard: Heard[];
}

export const createDevicesAir = (): DevicesAir => ({ last: 0, sent: [], heard: [] });
