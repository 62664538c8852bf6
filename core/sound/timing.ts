/** Milliseconds that a live input waits in a `picture` bus, so that it meets the picture of the same moment. */
export const LIVE_WAIT_MS = 130;
