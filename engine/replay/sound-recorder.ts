/** Encodes the sound of one source or bus; one track serves every angle that chose it. */
import { causeOf } from '#core/schema/cause';
import { SAMPLE_RATE, type SoundChunk } from '../sound/chunk';
import { REPLAY_SOUND_BITRATE } from './codec';
import { sameOr, toBase64, type TrackConfig } from './segment-format';
import { RETRY_MS, type Track } from './track';

/** A hole up to this many samples is filled with silence; a longer one is a gap. */
const FILL_SAMPLES = SAMPLE_RATE / 4;

export class SoundRecorder {
  private encoder: AudioEncoder | null = null;
  private config: TrackConfig | null = null;
  /** Next sample of show time. */
  private next = NaN;
  private retryAt = 0;

  constructor(readonly track: Track) {}

  chunk({ sample, channels }: SoundChunk): void {
    const [left, right = left] = channels;
    if (!left || !right || performance.now() < this.retryAt) return;
    try {
      this.encoder ??= this.make();
      const ahead = sample - this.next;
      if (Number.isNaN(ahead) || Math.abs(ahead) > FILL_SAMPLES) this.next = sample;
      else if (ahead > 0) this.encode(new Float32Array(ahead), new Float32Array(ahead));
      const skip = Math.max(0, this.next - sample);
      if (skip < left.length) this.encode(left.subarray(skip), right.subarray(skip));
    } catch (error) {
      this.failed(error);
    }
  }

  private make(): AudioEncoder {
    const encoder = new AudioEncoder({ output: (chunk, meta) => this.output(chunk, meta), error: (error) => this.failed(error) });
    encoder.configure({ codec: 'opus', sampleRate: SAMPLE_RATE, numberOfChannels: 2, bitrate: REPLAY_SOUND_BITRATE });
    return encoder;
  }

  private encode(left: Float32Array, right: Float32Array): void {
    const data = new Float32Array(left.length * 2);
    data.set(left);
    data.set(right, left.length);
    const timestamp = Math.round((this.next / SAMPLE_RATE) * 1e6);
    const sound = new AudioData({
      format: 'f32-planar',
      sampleRate: SAMPLE_RATE,
      numberOfFrames: left.length,
      numberOfChannels: 2,
      timestamp,
      data,
    });
    this.encoder?.encode(sound);
    sound.close();
    this.next += left.length;
  }

  private output(chunk: EncodedAudioChunk, meta?: EncodedAudioChunkMetadata): void {
    const described = meta?.decoderConfig;
    if (described)
      this.config = sameOr(this.config, {
        kind: 'sound',
        codec: described.codec,
        sampleRate: described.sampleRate,
        channels: described.numberOfChannels,
        description: toBase64(described.description),
      });
    if (!this.config) return;
    const data = new Uint8Array(chunk.byteLength);
    chunk.copyTo(data);
    this.track.put({ key: true, stamp: chunk.timestamp, duration: chunk.duration ?? 20_000, data }, this.config);
  }

  private failed(error: unknown): void {
    this.close();
    this.retryAt = performance.now() + RETRY_MS;
    this.track.endSegment();
    this.track.fail(`its sound encoder failed (${causeOf(error)}); it is tried again`);
  }

  async flush(): Promise<void> {
    if (this.encoder?.state === 'configured') await this.encoder.flush().catch(() => undefined);
  }

  close(): void {
    if (this.encoder && this.encoder.state !== 'closed') this.encoder.close();
    this.encoder = null;
    this.next = NaN;
  }
}
