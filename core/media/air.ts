/** What players of media files are doing now. */

/** The transport of a media source: at `start` it stood at `position` seconds. */
export interface Player {
  playing: boolean;
  start: number;
  position: number;
}
