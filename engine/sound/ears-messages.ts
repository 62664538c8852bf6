/** What the page and the worker that encodes for listeners say to each other. */

export type ToEars =
  /** Chunks that come by `port` are encoded under this number. */
  { type: 'add'; number: number; port: MessagePort } | { type: 'gone'; number: number };

/** A packet of Opus. */
export interface FromEars {
  number: number;
  data: Uint8Array;
}
