/** Codecs for tests outside a browser: a packet's first byte is what its picture shows; they take their time, as real ones do. */
import { vi } from 'vitest';
import { FakeFrame, useFakeFrames } from './fake-frames';

class FakeChunk {
  readonly type: string;
  readonly timestamp: number;
  readonly duration: number;
  readonly data: Uint8Array;

  constructor({ type, timestamp, duration, data }: { type: string; timestamp: number; duration?: number; data: Uint8Array }) {
    [this.type, this.timestamp, this.duration, this.data] = [type, timestamp, duration ?? 0, data];
  }

  get byteLength(): number {
    return this.data.length;
  }

  copyTo(into: Uint8Array): void {
    into.set(this.data);
  }
}

/** Two classes, as the browser has: who reads packets asks which it is. */
class FakeVideoChunk extends FakeChunk {}
class FakeAudioChunk extends FakeChunk {}

export class FakeVideoDecoder {
  static made = 0;
  /** Not closed yet. */
  static alive = 0;
  /** Packets decoded by all of them. */
  static decoded = 0;
  /** Decoding one of these bytes fails, as damaged data does. */
  static damaged = new Set<number>();
  state: 'unconfigured' | 'configured' | 'closed' = 'unconfigured';
  private work: Promise<void> = Promise.resolve();
  private started = false;

  constructor(private readonly init: { output: (frame: FakeFrame) => void; error: (error: DOMException) => void }) {
    FakeVideoDecoder.made += 1;
    FakeVideoDecoder.alive += 1;
  }

  configure(): void {
    this.state = 'configured';
  }

  decode(chunk: FakeChunk): void {
    if (this.state !== 'configured') throw new DOMException('not configured', 'InvalidStateError');
    if (!this.started && chunk.type !== 'key') throw new DOMException('a key frame is wanted first', 'DataError');
    this.started = true;
    this.work = this.work.then(async () => {
      await new Promise((resolve) => setImmediate(resolve));
      if (this.state !== 'configured') return;
      FakeVideoDecoder.decoded += 1;
      if (FakeVideoDecoder.damaged.has(chunk.data[0] ?? -1)) {
        this.close();
        this.init.error(new DOMException('damaged', 'EncodingError'));
        return;
      }
      this.init.output(new FakeFrame(String(chunk.data[0]), { timestamp: chunk.timestamp, duration: chunk.duration }));
    });
  }

  async flush(): Promise<void> {
    await this.work;
    this.started = false;
    if (this.state === 'closed') throw new DOMException('closed', 'AbortError');
  }

  close(): void {
    if (this.state !== 'closed') FakeVideoDecoder.alive -= 1;
    this.state = 'closed';
  }
}

interface EncoderInit {
  output: (chunk: FakeChunk, meta: object) => void;
  error: (error: DOMException) => void;
}

/** What encoders of pictures and sound have in common: they put out in order, later, and tell their configuration with it first. */
abstract class FakeEncoder<In> {
  state: 'unconfigured' | 'configured' | 'closed' = 'unconfigured';
  encodeQueueSize = 0;
  private work: Promise<void> = Promise.resolve();
  private told = false;

  constructor(private readonly init: EncoderInit) {}

  configure(): void {
    this.state = 'configured';
  }

  protected abstract pack(input: In, keyFrame: boolean): FakeChunk;
  protected abstract readonly config: object;

  encode(input: In, options: { keyFrame?: boolean } = {}): void {
    if (this.state !== 'configured') throw new DOMException('not configured', 'InvalidStateError');
    const chunk = this.pack(input, options.keyFrame ?? false);
    this.encodeQueueSize += 1;
    this.work = this.work.then(async () => {
      await new Promise((resolve) => setImmediate(resolve));
      this.encodeQueueSize -= 1;
      if (this.state !== 'configured') return;
      this.init.output(chunk, this.told ? {} : { decoderConfig: this.config });
      this.told = true;
    });
  }

  async flush(): Promise<void> {
    await this.work;
  }

  /** As when the driver gives up. */
  break(why: string): void {
    this.state = 'closed';
    this.init.error(new DOMException(why, 'EncodingError'));
  }

  close(): void {
    this.state = 'closed';
  }
}

/** H.264 decoder configuration of 64×36 pictures: one sequence and one picture parameter set. */
const AVC_DESCRIPTION = new Uint8Array([
  1, 0x42, 0, 0x1e, 0xff, 0xe1, 0, 9, 0x67, 0x42, 0, 0x1e, 0x95, 0xa8, 0x45, 0x9e, 0x40, 1, 0, 4, 0x68, 0xce, 0x3c, 0x80,
]);

export class FakeVideoEncoder extends FakeEncoder<FakeFrame> {
  static made: FakeVideoEncoder[] = [];
  protected readonly config = { codec: 'avc1.42001e', codedWidth: 64, codedHeight: 36, description: AVC_DESCRIPTION };

  constructor(init: EncoderInit) {
    super(init);
    FakeVideoEncoder.made.push(this);
  }

  protected pack(frame: FakeFrame, keyFrame: boolean): FakeChunk {
    if (frame.closed) throw new DOMException('the frame is closed', 'InvalidStateError');
    return new FakeVideoChunk({
      type: keyFrame ? 'key' : 'delta',
      timestamp: frame.timestamp,
      duration: frame.duration,
      data: new Uint8Array([Number(frame.shows) || 0, 0, 0, 0]),
    });
  }
}

/** Samples of sound, as they go into an encoder. */
export class FakeAudioData {
  readonly timestamp: number;
  readonly numberOfFrames: number;
  readonly data: Float32Array;

  constructor({ timestamp, numberOfFrames, data }: { timestamp: number; numberOfFrames: number; data: Float32Array }) {
    [this.timestamp, this.numberOfFrames, this.data] = [timestamp, numberOfFrames, data.slice()];
  }

  close(): void {
    // Nothing is held.
  }
}

export class FakeAudioEncoder extends FakeEncoder<FakeAudioData> {
  static made: FakeAudioEncoder[] = [];
  /** All that was put in, in order. */
  readonly heard: FakeAudioData[] = [];
  protected readonly config = {
    codec: 'opus',
    sampleRate: 48_000,
    numberOfChannels: 2,
    description: new Uint8Array([...Buffer.from('OpusHead'), 1, 2, 0x38, 1, 0x80, 0xbb, 0, 0, 0, 0, 0]),
  };

  constructor(init: EncoderInit) {
    super(init);
    FakeAudioEncoder.made.push(this);
  }

  protected pack(sound: FakeAudioData): FakeChunk {
    this.heard.push(sound);
    return new FakeAudioChunk({
      type: 'key',
      timestamp: sound.timestamp,
      duration: (sound.numberOfFrames / 48_000) * 1e6,
      data: new Uint8Array([0xfc, 0xff, 0xfe]),
    });
  }
}

/** Puts frames, packets and encoders in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeEncoders(): void {
  useFakeFrames();
  FakeVideoEncoder.made = [];
  FakeAudioEncoder.made = [];
  for (const [name, made] of Object.entries({
    EncodedVideoChunk: FakeVideoChunk,
    EncodedAudioChunk: FakeAudioChunk,
    VideoEncoder: FakeVideoEncoder,
    AudioEncoder: FakeAudioEncoder,
    AudioData: FakeAudioData,
  }))
    vi.stubGlobal(name, made);
}

/** Puts frames, packets and decoders in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeDecoders(): void {
  useFakeFrames();
  Object.assign(FakeVideoDecoder, { made: 0, alive: 0, decoded: 0, damaged: new Set() });
  vi.stubGlobal('EncodedVideoChunk', FakeVideoChunk);
  vi.stubGlobal('VideoDecoder', FakeVideoDecoder);
}
