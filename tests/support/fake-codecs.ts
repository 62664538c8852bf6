/** Decoders for tests outside a browser: a packet's first byte is what its picture shows; they take their time, as real ones do. */
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

export class FakeVideoDecoder {
  static made = 0;
  /** Not closed yet. */
  static alive = 0;
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

/** Puts frames, packets and decoders in the place of the browser's until `vi.unstubAllGlobals`. */
export function useFakeDecoders(): void {
  useFakeFrames();
  Object.assign(FakeVideoDecoder, { made: 0, alive: 0, damaged: new Set() });
  vi.stubGlobal('EncodedVideoChunk', FakeChunk);
  vi.stubGlobal('VideoDecoder', FakeVideoDecoder);
}
