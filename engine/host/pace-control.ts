/** How far the engine of this window has stepped down: follows what the mixer counts, once a second. */
import { workingFormat, type WorkingFormat } from '#core/picture/capability';
import { FIRST_PACE, govern } from '#core/picture/governor';
import { type Desk } from '#core/desk/air';
import { framesPerSecond } from '#core/time/rate';
import { type MixerStats } from '../picture/messages';
import { heldStep } from '../picture/mixer-choice';

export class PaceControl {
  private readonly held = heldStep();
  private pace = this.held === null ? FIRST_PACE : { ...FIRST_PACE, step: this.held, reason: this.held === 0 ? '' : 'Held by hand' };
  /** What the mixer had counted a second ago. */
  private counted: Pick<MixerStats, 'frames' | 'late' | 'dropped'> = { frames: 0, late: 0, dropped: 0 };

  /** What the engine works in now. */
  format({ show }: Desk): WorkingFormat {
    return workingFormat(show.raster, framesPerSecond(show.rate), this.pace.step, this.pace.reason);
  }

  /** Takes in what the last second has shown; true when the format is another from now on. */
  second(mixer: MixerStats, { show, air }: Desk, frameStep: number): boolean {
    const { frames, late, dropped } = this.counted;
    const sample = { frames: mixer.frames - frames, late: mixer.late - late, dropped: mixer.dropped - dropped };
    this.counted = { frames: mixer.frames, late: mixer.late, dropped: mixer.dropped };
    if (this.held !== null) return false;
    const before = this.pace.step;
    const frameMs = (1000 / framesPerSecond(show.rate)) * frameStep;
    this.pace = govern(this.pace, { ...sample, cost: mixer.usualMs / frameMs, recording: air.recording !== null || air.stream !== null });
    return this.pace.step !== before;
  }
}
