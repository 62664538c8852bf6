/**
 * The show clock, shared by all threads through a SharedArrayBuffer. Show time is microseconds since the air began; it
 * runs at the pace that the page steers it to, so that it follows the audio device's clock.
 */

const ANCHOR_WALL = 0;
const ANCHOR_SHOW = 1;
const SPEED = 2;
const FIELDS = 3;

/** Microseconds of the wall clock, the same in every thread of this browser. */
export const wallMicros = (): number => (performance.timeOrigin + performance.now()) * 1000;

export class SharedClock {
  private readonly values: Float64Array;
  private readonly sequence: Int32Array;

  /** Joins the clock in `memory`; without it, makes a new one that stands at 0. */
  constructor(readonly memory: SharedArrayBuffer = new SharedArrayBuffer(8 + FIELDS * 8)) {
    this.sequence = new Int32Array(memory, 0, 2);
    this.values = new Float64Array(memory, 8, FIELDS);
    if (this.values[SPEED] === 0) this.set(wallMicros(), 0, 1);
  }

  /** Show time in microseconds at wall time `wall` (default: now). */
  now(wall = wallMicros()): number {
    const { anchorWall, anchorShow, speed } = this.read();
    return anchorShow + (wall - anchorWall) * speed;
  }

  /** Milliseconds of wall time until show time reaches `show` microseconds; negative when it has passed. */
  millisUntil(show: number): number {
    return (show - this.now()) / this.read().speed / 1000;
  }

  /** Moves the clock: show time is `show` from now on. Only the host's page does this, before the show runs. */
  jumpTo(show: number): void {
    this.set(wallMicros(), show, 1);
  }

  /** Goes on from the present moment at `speed` (1 is the wall clock's pace). */
  steer(speed: number): void {
    const wall = wallMicros();
    this.set(wall, this.now(wall), speed);
  }

  private read(): { anchorWall: number; anchorShow: number; speed: number } {
    // A sequence lock: an odd or changed number means that the page was writing; read again.
    for (;;) {
      const before = Atomics.load(this.sequence, 0);
      const [anchorWall, anchorShow, speed] = this.values as unknown as [number, number, number];
      if (before % 2 === 0 && Atomics.load(this.sequence, 0) === before) return { anchorWall, anchorShow, speed };
    }
  }

  private set(anchorWall: number, anchorShow: number, speed: number): void {
    Atomics.add(this.sequence, 0, 1);
    this.values[ANCHOR_WALL] = anchorWall;
    this.values[ANCHOR_SHOW] = anchorShow;
    this.values[SPEED] = speed;
    Atomics.add(this.sequence, 0, 1);
  }
}
