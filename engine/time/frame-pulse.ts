/**
 * The frames that sound follows. As a rule they are those the mixer has mixed; when the mixer stands still the show clock goes on, and so
 * does sound: a fade must not stop because a picture is late.
 */

/** Frames that the mixer may be behind the show clock before sound goes on without it. */
const PATIENCE = 2;

export class FramePulse {
  private last = -1;

  constructor(
    /** The frame that the mixer should have mixed by now. */
    private readonly due: () => number,
    private readonly apply: (frame: number) => void,
  ) {}

  /** The mixer has mixed `frame`. */
  mixed(frame: number): void {
    if (frame <= this.last) return;
    this.last = frame;
    this.apply(frame);
  }

  /** Call it often, from something that the mixer cannot hold up. */
  beat(): void {
    const due = this.due();
    if (this.last < 0 || due - this.last <= PATIENCE) return;
    this.last = due;
    this.apply(due);
  }
}
