/** One sound track as a WAV file that grows: every chunk at its place, silence where none came. */
import { MOST_WAV_BYTES, packSamples, WAV_HEAD, wavHead } from '#core/sound/wav';
import { type SyncHandle } from '../storage/opfs';
import { SAMPLE_RATE, type SoundChunk } from './chunk';
import { type TrackToRecord } from './track-messages';

/** The head is written anew this often, so that a file that is cut off plays nearly to its end. */
const HEAD_SECONDS = 1;
/** Bytes of a sample of both sides. */
const STRIDE = 6;

export class WavTrack {
  /** Bytes of samples written. */
  bytes = 0;
  /** Samples of silence put in where none came. */
  silence = 0;
  private headAt = 0;
  /** Show sample that comes next. */
  private next: number;

  constructor(
    readonly track: TrackToRecord,
    private readonly handle: SyncHandle,
    startSample: number,
  ) {
    this.next = startSample;
    handle.write(wavHead(track.info, 0), { at: 0 });
  }

  get seconds(): number {
    return this.bytes / STRIDE / SAMPLE_RATE;
  }

  /**
   * Adds a chunk; what is missing before it is silence, what was there already is left out.
   * @throws DOMException when the disk refuses; Error when a WAV file can hold no more.
   */
  write({ sample, channels }: SoundChunk): void {
    const length = channels[0]?.length ?? 0;
    if (sample > this.next) this.fill(sample - this.next);
    const from = this.next - sample;
    if (from >= length) return;
    this.append(packSamples(channels, from, length));
    this.next = sample + length;
  }

  private fill(samples: number): void {
    // More than a minute missing is no gap: time has jumped, and the files go on together.
    const count = Math.min(samples, SAMPLE_RATE * 60);
    this.silence += count;
    this.append(new Uint8Array(count * STRIDE));
    this.next += samples;
  }

  private append(data: Uint8Array<ArrayBuffer>): void {
    if (WAV_HEAD + this.bytes + data.byteLength > MOST_WAV_BYTES) throw new Error('a WAV file holds four hours; the track is full');
    this.handle.write(data, { at: WAV_HEAD + this.bytes });
    this.bytes += data.byteLength;
    if (this.bytes - this.headAt >= HEAD_SECONDS * SAMPLE_RATE * STRIDE) this.head();
  }

  private head(): void {
    this.headAt = this.bytes;
    this.handle.write(wavHead(this.track.info, this.bytes), { at: 0 });
    this.handle.flush();
  }

  close(): void {
    try {
      this.head();
    } catch {
      // The disk is full: the head written last stands.
    }
    this.handle.close();
    this.track.port.close();
  }
}
