/** One encode of the programme, which any number of outputs share. */
import { type SoundChunk } from '../sound/chunk';
import { SOUND_CONFIG, videoConfig } from './codecs';
import { type EncodeSettings } from './messages';

export interface PacketSink {
  /** Timestamps in show microseconds. The first picture a sink gets is a key picture. */
  video(chunk: EncodedVideoChunk, meta: EncodedVideoChunkMetadata): void;
  audio(chunk: EncodedAudioChunk, meta: EncodedAudioChunkMetadata): void;
  failed(message: string): void;
}

/** Seconds between key pictures: a cut-off recording loses less than this, a stream joins within it. */
const KEY_SECONDS = 1;
const SAMPLE_RATE = SOUND_CONFIG.sampleRate;
/** Silence is put in when sound is this much behind the picture, samples. It is normally 0.2 s behind. */
const SOUND_PATIENCE = SAMPLE_RATE * 0.8;
/** Pictures waiting in the encoder beyond this are too many: the newest is left out. */
const QUEUE_LIMIT = 12;

interface Member {
  sink: PacketSink;
  /** Has had its first key picture. */
  begun: boolean;
}

export class ProgrammeEncode {
  doubled = 0;
  silence = 0;
  private readonly sinks: Member[] = [];
  private readonly videoEncoder: VideoEncoder;
  private readonly audioEncoder: AudioEncoder;
  private readonly stepMicros: number;
  private videoMeta: EncodedVideoChunkMetadata = {};
  private audioMeta: EncodedAudioChunkMetadata = {};
  private last: VideoFrame | null = null;
  private lastKey = -Infinity;
  private keyWanted = true;
  /** Next sample of show time to encode; null before the first picture. */
  private sample: number | null = null;
  private closed = false;

  constructor(readonly settings: EncodeSettings) {
    this.stepMicros = (settings.rate.den * 1e6 * settings.frameStep) / settings.rate.num;
    const failed = (error: DOMException) => {
      for (const { sink } of [...this.sinks]) sink.failed(`the encoder failed: ${error.message}`);
    };
    this.videoEncoder = new VideoEncoder({ output: (chunk, meta) => this.videoOut(chunk, meta), error: failed });
    this.videoEncoder.configure(videoConfig(settings));
    this.audioEncoder = new AudioEncoder({ output: (chunk, meta) => this.audioOut(chunk, meta), error: failed });
    this.audioEncoder.configure(SOUND_CONFIG);
  }

  /** Outputs that share this encode. */
  get members(): number {
    return this.sinks.length;
  }

  join(sink: PacketSink): void {
    this.sinks.push({ sink, begun: false });
    this.keyWanted = true;
  }

  leave(sink: PacketSink): void {
    const at = this.sinks.findIndex((m) => m.sink === sink);
    if (at >= 0) this.sinks.splice(at, 1);
  }

  /** Takes a programme frame over. */
  frame(frame: VideoFrame): void {
    if (this.closed || this.videoEncoder.state !== 'configured') {
      frame.close();
      return;
    }
    this.fillGap(frame.timestamp);
    this.sample ??= Math.round((frame.timestamp * SAMPLE_RATE) / 1e6);
    if (this.videoEncoder.encodeQueueSize < QUEUE_LIMIT) this.encode(frame);
    this.last?.close();
    this.last = frame;
    this.fillSilence(frame.timestamp);
  }

  private encode(frame: VideoFrame): void {
    const keyFrame = this.keyWanted || frame.timestamp - this.lastKey >= KEY_SECONDS * 1e6 - 1;
    if (keyFrame) this.lastKey = frame.timestamp;
    this.keyWanted = false;
    this.videoEncoder.encode(frame, { keyFrame });
  }

  /** Repeats the last picture for frames that the mixer gave up, so that the file keeps its rate; not for an encoder that is itself behind. */
  private fillGap(timestamp: number): void {
    if (!this.last) return;
    const missing = Math.round((timestamp - this.last.timestamp) / this.stepMicros) - 1;
    for (let i = 1; i <= Math.min(missing, 50) && this.videoEncoder.encodeQueueSize < QUEUE_LIMIT; i += 1) {
      const again = new VideoFrame(this.last, { timestamp: Math.round(this.last.timestamp + i * this.stepMicros) });
      this.encode(again);
      again.close();
      this.doubled += 1;
    }
  }

  /** Takes in sound, put to its place: what comes twice is cut off, what is missing becomes silence. */
  sound(chunk: SoundChunk): void {
    if (this.sample === null || this.closed || this.audioEncoder.state !== 'configured') return;
    const length = chunk.channels[0]?.length ?? 0;
    const skip = this.sample - chunk.sample;
    if (skip >= length) return;
    if (skip < 0) this.putSilence(-skip);
    const from = Math.max(0, skip);
    const [left, right] = chunk.channels;
    if (left) this.putSound(left.subarray(from), (right ?? left).subarray(from));
  }

  private fillSilence(timestamp: number): void {
    if (this.sample === null) return;
    const behind = Math.round((timestamp * SAMPLE_RATE) / 1e6) - this.sample;
    if (behind > SOUND_PATIENCE) this.putSilence(behind - SOUND_PATIENCE / 2);
  }

  private putSilence(samples: number): void {
    this.silence += samples;
    for (let left = Math.round(samples); left > 0; left -= SAMPLE_RATE / 10) {
      const count = Math.min(left, SAMPLE_RATE / 10);
      const quiet = new Float32Array(count);
      this.putSound(quiet, quiet);
    }
  }

  private putSound(left: Float32Array, right: Float32Array): void {
    if (this.sample === null) return;
    const data = new Float32Array(left.length * 2);
    data.set(left, 0);
    data.set(right, left.length);
    const audio = new AudioData({
      format: 'f32-planar',
      sampleRate: SAMPLE_RATE,
      numberOfFrames: left.length,
      numberOfChannels: 2,
      timestamp: Math.round((this.sample * 1e6) / SAMPLE_RATE),
      data,
    });
    this.sample += left.length;
    this.audioEncoder.encode(audio);
    audio.close();
  }

  private videoOut(chunk: EncodedVideoChunk, meta?: EncodedVideoChunkMetadata): void {
    if (meta?.decoderConfig) this.videoMeta = meta;
    for (const member of this.sinks) {
      if (!member.begun && chunk.type !== 'key') continue;
      const first = !member.begun;
      member.begun = true;
      member.sink.video(chunk, first ? this.videoMeta : (meta ?? {}));
    }
  }

  private audioOut(chunk: EncodedAudioChunk, meta?: EncodedAudioChunkMetadata): void {
    if (meta?.decoderConfig) this.audioMeta = meta;
    for (const { sink, begun } of this.sinks) if (begun) sink.audio(chunk, this.audioMeta);
  }

  /** Waits for everything put in so far to come out. */
  async flush(): Promise<void> {
    if (this.videoEncoder.state === 'configured') await this.videoEncoder.flush();
    if (this.audioEncoder.state === 'configured') await this.audioEncoder.flush();
    this.keyWanted = true;
  }

  close(): void {
    this.closed = true;
    this.last?.close();
    this.last = null;
    if (this.videoEncoder.state !== 'closed') this.videoEncoder.close();
    if (this.audioEncoder.state !== 'closed') this.audioEncoder.close();
  }
}
