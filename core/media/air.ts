/** What players of media files are doing now. */
import { createReplayAir, type ReplayAir } from '../replay/air';
import { createSoundAir, type SoundAir } from '../sound/air';
import { type NameCard } from '../show/document';
import { type Show } from '../desk/show';
import { type Transition } from '../picture/document';

/** The transport of a media source: at `start` it stood at `position` seconds. */
export interface Player {
  playing: boolean;
  start: number;
  position: number;
}
