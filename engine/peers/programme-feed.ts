/** The programme as guests and viewers get it: one track for all of them, made of frames of the mixer. */

export class ProgrammeFeed {
  private generator: MediaStreamVideoTrackGenerator | null = null;
  private end: (() => void) | null = null;
  private last = -Infinity;
  private takers = 0;
  /** The last frame on its way into the track. */
  private writing: Promise<void> = Promise.resolve();

  /** `frames` gives the programme's frames to a receiver that closes each; returns how to end it. */
  constructor(
    private readonly frames: (receive: (frame: VideoFrame) => void) => () => void,
    /** Frames a second at most. */
    private readonly rate: number,
  ) {}

  /** The track, for one more taker. */
  take(): MediaStreamTrack | null {
    if (typeof MediaStreamTrackGenerator === 'undefined') return null;
    this.takers += 1;
    this.generator ??= this.start();
    return this.generator;
  }

  private start(): MediaStreamVideoTrackGenerator {
    const generator = new MediaStreamTrackGenerator({ kind: 'video' }) as MediaStreamVideoTrackGenerator;
    const writer = generator.writable.getWriter();
    this.end = this.frames((frame) => {
      const due = frame.timestamp - this.last >= 1e6 / this.rate || frame.timestamp < this.last;
      // A writer that has not taken the last yet gets no more, as frames are never gathered; nor what was on its way when the last taker left.
      if (!due || this.generator !== generator || (writer.desiredSize ?? 0) < 1) return frame.close();
      this.last = frame.timestamp;
      this.writing = writer.write(frame).catch(() => frame.close());
      return undefined;
    });
    return generator;
  }

  /** One taker less; without any, nothing is made. */
  leave(): void {
    this.takers -= 1;
    if (this.takers > 0) return;
    this.end?.();
    this.end = null;
    const { generator } = this;
    // Stopped while a frame is on its way in, it would leave that one open.
    void this.writing.then(() => generator?.stop());
    this.generator = null;
    this.last = -Infinity;
  }
}
