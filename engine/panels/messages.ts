/** What windows of one browser say to each other through the broker. */

export type ToBroker =
  /** This window runs the show from now on. */
  | { type: 'host'; showId: string }
  | { type: 'host-gone' }
  /** A window wants an output's pictures on `port`, as PlanesMessages; `showId` null is whichever show runs. */
  | { type: 'want'; showId: string | null; outputId: string; port: MessagePort };

/** To a host: somebody wants an output. */
export interface Wanted {
  type: 'want';
  outputId: string;
  port: MessagePort;
}
