/** Encodes the pictures of one source in short groups. */
import { causeOf } from '#core/schema/cause';
import { pictureConfig } from './codec';
import { type RecordingFormat } from './messages';
import { sameOr, toBase64, type TrackConfig } from './segment-format';
import { RETRY_MS, type Track } from './track';

/** Longest group of pictures: any frame is this near to a key frame. */
export const GROUP_MICROS = 320_000;
/** Frames waiting in the encoder beyond this are too many: the newest is left out and counted. */
const QUEUE_LIMIT = 6;

export class AngleRecorder {
  private encoder: VideoEncoder | null = null;
  private shape = '';
  private config: TrackConfig | null = null;
  private lastKey = -Infinity;
  private lastStamp = NaN;
  private step = 40_000;
  private retryAt = 0;

  constructor(
    readonly track: Track,
    private format: RecordingFormat,
  ) {}

  setFormat(format: RecordingFormat): void {
    this.format = format;
  }

  /** Takes a frame over; `stamp` in show microseconds. */
  frame(frame: VideoFrame, stamp: number): void {
    try {
      this.encode(frame, stamp);
    } catch (error) {
      this.failed(error);
    } finally {
      frame.close();
    }
  }

  private encode(frame: VideoFrame, stamp: number): void {
    if (stamp <= this.lastStamp) return;
    const encoder = this.encoderFor(frame);
    if (!encoder) return;
    const since = stamp - this.lastStamp;
    if (since < 200_000) this.step += (since - this.step) * 0.2;
    this.lastStamp = stamp;
    if (encoder.encodeQueueSize >= QUEUE_LIMIT) {
      this.track.status.missed += 1;
      return;
    }
    const keyFrame = stamp + this.step - this.lastKey > GROUP_MICROS + 1;
    if (keyFrame) this.lastKey = stamp;
    const stamped = new VideoFrame(frame, { timestamp: stamp, duration: Math.round(this.step) });
    try {
      encoder.encode(stamped, { keyFrame });
    } finally {
      stamped.close();
    }
    this.track.status.frames += 1;
  }

  private encoderFor(frame: VideoFrame): VideoEncoder | null {
    const { width, height } = recordedSize(frame.displayWidth, frame.displayHeight, this.format.height);
    const shape = JSON.stringify([width, height, this.format.bitrate]);
    if (this.encoder?.state === 'configured' && shape === this.shape) return this.encoder;
    if (performance.now() < this.retryAt) return null;
    this.close();
    this.shape = shape;
    this.lastKey = -Infinity;
    const encoder = new VideoEncoder({
      output: (chunk, meta) => this.output(chunk, meta, width, height),
      error: (error) => this.failed(error),
    });
    encoder.configure(pictureConfig(width, height, this.format));
    this.encoder = encoder;
    return encoder;
  }

  private output(chunk: EncodedVideoChunk, meta: EncodedVideoChunkMetadata | undefined, width: number, height: number): void {
    const described = meta?.decoderConfig;
    if (described)
      this.config = sameOr(this.config, {
        kind: 'picture',
        codec: described.codec,
        width,
        height,
        description: toBase64(described.description),
      });
    if (!this.config) return;
    const data = new Uint8Array(chunk.byteLength);
    chunk.copyTo(data);
    this.track.put({ key: chunk.type === 'key', stamp: chunk.timestamp, duration: chunk.duration ?? this.step, data }, this.config);
  }

  private failed(error: unknown): void {
    this.close();
    this.retryAt = performance.now() + RETRY_MS;
    this.track.endSegment();
    this.track.fail(`its encoder failed (${causeOf(error)}); it is tried again`);
  }

  /** Puts out what is still in the encoder. */
  async flush(): Promise<void> {
    if (this.encoder?.state === 'configured') await this.encoder.flush().catch(() => undefined);
    this.lastKey = -Infinity;
  }

  close(): void {
    if (this.encoder && this.encoder.state !== 'closed') this.encoder.close();
    this.encoder = null;
  }
}

/** Size that a picture is recorded at: never enlarged, even sides. */
export function recordedSize(width: number, height: number, wanted: number): { width: number; height: number } {
  const scale = wanted === 0 ? 1 : Math.min(1, wanted / height);
  const even = (n: number) => Math.max(2, Math.round((n * scale) / 2) * 2);
  return { width: even(width), height: even(height) };
}
