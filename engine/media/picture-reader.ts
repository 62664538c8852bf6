/** Reads a file's pictures in order, and anew from wherever the player is moved to. */
import { type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny';

/** Further ahead than this, decoding everything between is slower than starting anew. */
const SKIP_SECONDS = 1.5;

export class PictureReader {
  private readonly sink: VideoSampleSink;
  private samples: AsyncGenerator<VideoSample, void, unknown> | null = null;
  private current: VideoSample | null = null;
  private ahead: VideoSample | null = null;

  constructor(track: InputVideoTrack) {
    this.sink = new VideoSampleSink(track);
  }

  /** The last picture at or before `position` seconds, as a frame of the caller's; null when it is the same as before. */
  async read(position: number): Promise<VideoFrame | null> {
    const before = this.current;
    const jump = !this.current || position < this.current.timestamp || position > this.current.timestamp + SKIP_SECONDS;
    if (jump) await this.restart(position);
    while (this.ahead && this.ahead.timestamp <= position) {
      this.current?.close();
      this.current = this.ahead;
      this.ahead = await this.pull();
    }
    return this.current && this.current !== before ? this.current.toVideoFrame() : null;
  }

  private async restart(position: number): Promise<void> {
    await this.close();
    this.samples = this.sink.samples(Math.max(0, position));
    this.current = await this.pull();
    this.ahead = await this.pull();
  }

  private async pull(): Promise<VideoSample | null> {
    const { value, done } = (await this.samples?.next()) ?? { done: true, value: undefined };
    return done || !value ? null : value;
  }

  async close(): Promise<void> {
    await this.samples?.return();
    this.current?.close();
    this.ahead?.close();
    this.samples = this.current = this.ahead = null;
  }
}
