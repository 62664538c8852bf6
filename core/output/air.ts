/** What is recorded and streamed now. */

/** A recording or stream that the crew has asked for. */
export interface OutputRun {
  id: string;
  startFrame: number;
}
