/** Milliseconds that a live input waits in a `picture` bus, so that it meets the picture of the same moment. */
export const LIVE_WAIT_MS = 130;

/** The same for what comes by a connection: its pictures are decoded, which takes longer than its sound (measured: docs/bench.md). */
export const REMOTE_WAIT_MS = 180;
