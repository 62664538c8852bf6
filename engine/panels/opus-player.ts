/** Plays packets of Opus as they come, a little late so that they are even. */

/** Seconds that sound waits, so that packets may come unevenly. */
const WAIT = 0.09;
/** Seconds that may wait at most: more is caught up by leaving out. */
const MOST_WAIT = 0.4;
/** Packets that may wait for the decoder. */
const MOST_DECODING = 25;
const SAMPLE_RATE = 48_000;

export class OpusPlayer {
  private decoder: AudioDecoder | null = null;
  /** When the next packet plays, seconds of the context; null before the first. */
  private next: number | null = null;
  private packets = 0;
  /** Peak of what was played last, 0 to 1. */
  peak = 0;
  /** When the last packet came, milliseconds of the page. */
  heardAt = -Infinity;

  /** `channels` of the sound that comes. */
  constructor(
    private readonly context: AudioContext,
    private readonly to: AudioNode,
    private readonly channels: 1 | 2,
  ) {}

  packet(data: Uint8Array): void {
    this.heardAt = performance.now();
    if (this.context.state !== 'running' || typeof AudioDecoder === 'undefined') return;
    if (this.decoder === null || this.decoder.state === 'closed') {
      // A damaged packet closes the decoder; the next one opens it anew.
      this.decoder = new AudioDecoder({ output: (sound) => this.play(sound), error: () => undefined });
      this.decoder.configure({ codec: 'opus', sampleRate: SAMPLE_RATE, numberOfChannels: this.channels });
    }
    if (this.decoder.decodeQueueSize > MOST_DECODING) return;
    this.packets += 1;
    this.decoder.decode(new EncodedAudioChunk({ type: 'key', timestamp: this.packets * 20_000, data }));
  }

  private play(sound: AudioData): void {
    const { numberOfFrames: length, numberOfChannels, sampleRate } = sound;
    const buffer = this.context.createBuffer(numberOfChannels, length, sampleRate);
    let peak = 0;
    for (let i = 0; i < numberOfChannels; i += 1) {
      const side = buffer.getChannelData(i);
      sound.copyTo(side, { planeIndex: i, format: 'f32-planar' });
      for (const value of side) peak = Math.max(peak, Math.abs(value));
    }
    sound.close();
    this.peak = peak;
    const now = this.context.currentTime;
    // Too late, or so much waits that what is heard would be old: begin anew.
    if (this.next === null || this.next < now + 0.005) this.next = now + WAIT;
    if (this.next > now + MOST_WAIT) return;
    const node = new AudioBufferSourceNode(this.context, { buffer });
    node.connect(this.to);
    node.start(this.next);
    this.next += length / sampleRate;
  }

  close(): void {
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close();
    this.decoder = null;
  }
}
