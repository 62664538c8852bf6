/** The frame that is on air at a host elsewhere, as far as can be told: it goes on by itself between what is told. */
import { framesPerSecond, type Rate } from '#core/time/rate';

/** Seconds that it goes on after the last word: figures come every second. */
const GOES_ON_SECONDS = 3;

export class FrameGuess {
  private frame = 0;
  private at = 0;

  told(frame: number): void {
    this.frame = frame;
    this.at = performance.now();
  }

  /** `goesOn`: the host is heard; otherwise the frame stands still. */
  now(rate: Rate, goesOn: boolean): number {
    const since = goesOn ? Math.min(GOES_ON_SECONDS, (performance.now() - this.at) / 1000) : 0;
    return Math.floor(this.frame + since * framesPerSecond(rate));
  }
}
