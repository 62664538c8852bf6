/** Streams the programme as CMAF: one track each for picture and sound, put to the destination segment by segment. */
import { EncodedAudioPacketSource, EncodedPacket, EncodedVideoPacketSource, Mp4OutputFormat, NullTarget, Output } from 'mediabunny';
import { causeOf } from '#core/schema/cause';
import { ByteRate } from './byte-rate';
import { type StreamStatus } from './messages';
import { shifted } from './packets';
import { type PacketSink } from './programme-encode';
import { RefusedError, type Segment, SegmentQueue } from './segment-queue';

/** Seconds of a segment, at least; it ends at the next key picture. */
const SEGMENT_SECONDS = 1.9;
/** Seconds that may wait for each track while the destination is away. */
const BUFFER_SECONDS = 60;
const SEND_TIMEOUT_MS = 10_000;
const FINISH_MS = 5000;

const join = (parts: Uint8Array[]): Uint8Array => {
  const whole = new Uint8Array(parts.reduce((sum, p) => sum + p.byteLength, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.byteLength;
  }
  return whole;
};

/** One CMAF track: packets in, segments out. */
class Track {
  private readonly output: Output;
  private queue: Promise<void>;
  private ftyp = new Uint8Array(0);
  private moof = new Uint8Array(0);
  private moofAt = 0;
  private latest = 0;
  private count = 0;
  private before = 0;

  constructor(
    name: 'video' | 'audio',
    private readonly add: (packet: EncodedPacket, meta: never) => Promise<void>,
    attach: (output: Output) => void,
    out: (segment: Segment) => void,
    private readonly failed: (message: string) => void,
  ) {
    const format = new Mp4OutputFormat({
      fastStart: 'fragmented',
      minimumFragmentDuration: SEGMENT_SECONDS,
      onFtyp: (data) => {
        this.ftyp = data.slice();
      },
      onMoov: (data) => out({ path: `${name}/init.mp4`, data: join([this.ftyp, data]), seconds: 0 }),
      onMoof: (data, _position, at) => {
        this.moof = data.slice();
        this.moofAt = at;
      },
      onMdat: (data) => {
        this.count += 1;
        const end = Math.max(this.latest, this.moofAt);
        const seconds = Math.max(0.02, end - this.before);
        this.before = end;
        out({ path: `${name}/${String(this.count).padStart(6, '0')}.m4s`, data: join([this.moof, data]), seconds });
      },
    });
    this.output = new Output({ format, target: new NullTarget() });
    attach(this.output);
    this.queue = this.output.start();
  }

  put(packet: EncodedPacket, meta: unknown): void {
    this.queue = this.queue
      .then(async () => {
        await this.add(packet, meta as never);
        this.latest = packet.timestamp;
      })
      .catch((error: unknown) => this.failed(causeOf(error)));
  }

  async close(): Promise<void> {
    await this.queue;
    await this.output.finalize();
  }
}

export class Streamer implements PacketSink {
  error = '';
  private readonly queue: SegmentQueue;
  private readonly rate = new ByteRate();
  private readonly videoTrack: Track;
  private readonly audioTrack: Track;
  /** Init segment by track: a destination that was set up anew asks for it again. */
  private readonly inits = new Map<string, Segment>();
  private base: number | null = null;
  private seconds = 0;

  constructor(
    readonly id: string,
    private readonly url: string,
    private readonly key: string,
    private readonly onFailed: () => void,
  ) {
    this.queue = new SegmentQueue({
      send: (segment) => this.send(segment),
      pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)),
      capacitySeconds: BUFFER_SECONDS * 2,
    });
    const out = (segment: Segment) => {
      if (segment.seconds === 0) this.inits.set(segment.path.split('/')[0] ?? '', segment);
      this.queue.push(segment);
    };
    const failed = (message: string) => this.failed(message);
    const video = new EncodedVideoPacketSource('avc');
    const audio = new EncodedAudioPacketSource('opus');
    this.videoTrack = new Track(
      'video',
      (p, m) => video.add(p, m),
      (o) => void o.addVideoTrack(video),
      out,
      failed,
    );
    this.audioTrack = new Track(
      'audio',
      (p, m) => audio.add(p, m),
      (o) => void o.addAudioTrack(audio),
      out,
      failed,
    );
  }

  private async send(segment: Segment): Promise<void> {
    const status = await this.put(segment);
    if (status !== 409) return;
    const init = this.inits.get(segment.path.split('/')[0] ?? '');
    if (init) await this.put(init);
    if (!init || (await this.put(segment)) === 409) throw new Error('The destination wants the stream from its beginning.');
  }

  /** Puts one segment; resolves with the answer's status, 409 when the destination lacks the init segment. */
  private async put({ path, data }: Segment): Promise<number> {
    let response: Response;
    try {
      response = await fetch(`${this.url.replace(/\/$/, '')}/${path}`, {
        method: 'PUT',
        body: data as Uint8Array<ArrayBuffer>,
        headers: { 'Content-Type': 'video/mp4', Authorization: `Bearer ${this.key}` },
        signal: AbortSignal.timeout(SEND_TIMEOUT_MS),
      });
    } catch {
      throw new Error('The destination does not answer.');
    }
    if (response.status === 401 || response.status === 403 || response.status === 404) {
      throw new RefusedError(`The destination refused the stream (${response.status}).`);
    }
    if (!response.ok && response.status !== 409) throw new Error(`The destination answered ${response.status}.`);
    if (response.ok) this.rate.add(data.byteLength, performance.now() / 1000);
    return response.status;
  }

  video(chunk: EncodedVideoChunk, meta: EncodedVideoChunkMetadata): void {
    this.base ??= chunk.timestamp;
    const packet = shifted(EncodedPacket.fromEncodedChunk(chunk), this.base);
    this.seconds = packet.timestamp + packet.duration;
    this.videoTrack.put(packet, meta);
  }

  audio(chunk: EncodedAudioChunk, meta: EncodedAudioChunkMetadata): void {
    if (this.base === null || chunk.timestamp < this.base) return;
    this.audioTrack.put(shifted(EncodedPacket.fromEncodedChunk(chunk), this.base), meta);
  }

  failed(message: string): void {
    if (this.error) return;
    this.error = message;
    this.onFailed();
  }

  status(): StreamStatus {
    const { state, queued, queuedSeconds, dropped, lostSeconds, reconnects, trouble } = this.queue;
    // Both tracks wait side by side: the time waiting is that of one.
    return {
      id: this.id,
      state,
      seconds: this.seconds,
      bitrate: this.rate.bitrate,
      queued,
      queuedSeconds: queuedSeconds / 2,
      dropped,
      lostSeconds: lostSeconds / 2,
      reconnects,
      trouble,
    };
  }

  /** Sends what is left, for a few seconds at most. */
  async close(): Promise<void> {
    try {
      if (this.base !== null) await Promise.all([this.videoTrack.close(), this.audioTrack.close()]);
    } catch (error) {
      this.error ||= causeOf(error);
    }
    const unsent = await this.queue.finish(FINISH_MS);
    if (unsent > 0) this.error ||= `the last ${(unsent / 2).toFixed(1)} s could not be sent`;
  }
}
