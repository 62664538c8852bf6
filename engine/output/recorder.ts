/** Writes the programme to a file in OPFS as it comes: MP4 in fragments or WebM in clusters, so that a cut-off file plays. */
import {
  EncodedAudioPacketSource,
  EncodedPacket,
  EncodedVideoPacketSource,
  Mp4OutputFormat,
  Output,
  StreamTarget,
  type StreamTargetChunk,
  WebMOutputFormat,
} from 'mediabunny';
import { causeOf } from '#core/schema/cause';
import { type Codec } from '#core/output/document';
import { openForWriting, type SyncHandle } from '../storage/opfs';
import { ByteRate } from './byte-rate';
import { type RecordingStatus } from './messages';
import { shifted } from './packets';
import { type PacketSink } from './programme-encode';

const TRACK_CODEC = { h264: 'avc', vp9: 'vp9', av1: 'av1' } as const;

export class Recorder implements PacketSink {
  bytes = 0;
  seconds = 0;
  pictures = 0;
  error = '';
  private readonly rate = new ByteRate();
  private readonly videoTrack: EncodedVideoPacketSource;
  private readonly audioTrack = new EncodedAudioPacketSource('opus');
  private readonly output: Output;
  private base: number | null = null;
  /** Packets are muxed one after another. */
  private queue: Promise<void> = Promise.resolve();

  private constructor(
    readonly id: string,
    codec: Codec,
    private readonly handle: SyncHandle,
    private readonly onFailed: () => void,
  ) {
    this.videoTrack = new EncodedVideoPacketSource(TRACK_CODEC[codec]);
    const format =
      codec === 'h264'
        ? new Mp4OutputFormat({ fastStart: 'fragmented', minimumFragmentDuration: 0.9 })
        : new WebMOutputFormat({ minimumClusterDuration: 0.9 });
    const target = new StreamTarget(
      new WritableStream<StreamTargetChunk>({
        write: ({ data, position }) => {
          // After a failed write nothing more is written: the file ends with its last whole piece, and plays up to it.
          if (this.error) return;
          try {
            handle.write(data, { at: position });
          } catch (error) {
            const full = error instanceof DOMException && error.name === 'QuotaExceededError';
            this.failed(full ? 'the disk is full' : `the disk refused it (${String(error)})`);
            return;
          }
          this.bytes = Math.max(this.bytes, position + data.byteLength);
          this.rate.add(data.byteLength, this.seconds);
          handle.flush();
        },
      }),
    );
    this.output = new Output({ format, target });
    this.output.addVideoTrack(this.videoTrack);
    this.output.addAudioTrack(this.audioTrack);
  }

  /** Opens `fileName` among the recordings. `onFailed` is called when it must be ended early. */
  static async open(id: string, fileName: string, codec: Codec, onFailed: () => void): Promise<Recorder> {
    const handle = await openForWriting('recordings', fileName);
    const recorder = new Recorder(id, codec, handle, onFailed);
    await recorder.output.start();
    return recorder;
  }

  private put(action: () => Promise<void>): void {
    this.queue = this.queue.then(action).catch((error: unknown) => this.failed(causeOf(error)));
  }

  video(chunk: EncodedVideoChunk, meta: EncodedVideoChunkMetadata): void {
    this.base ??= chunk.timestamp;
    const packet = shifted(EncodedPacket.fromEncodedChunk(chunk), this.base);
    this.seconds = packet.timestamp + packet.duration;
    this.pictures += 1;
    this.put(() => this.videoTrack.add(packet, meta));
  }

  audio(chunk: EncodedAudioChunk, meta: EncodedAudioChunkMetadata): void {
    if (this.base === null || chunk.timestamp < this.base) return;
    const packet = shifted(EncodedPacket.fromEncodedChunk(chunk), this.base);
    this.put(() => this.audioTrack.add(packet, meta));
  }

  failed(message: string): void {
    if (this.error) return;
    this.error = message;
    this.onFailed();
  }

  status(): RecordingStatus {
    return { id: this.id, seconds: this.seconds, pictures: this.pictures, bytes: this.bytes, bitrate: this.rate.bitrate };
  }

  /** Finishes the file. What was written stays, whatever goes wrong here. */
  async close(): Promise<void> {
    await this.queue;
    try {
      if (this.base !== null) await this.output.finalize();
      else await this.output.cancel();
    } catch (error) {
      this.error ||= causeOf(error);
    }
    this.bytes = this.handle.getSize();
    this.handle.flush();
    this.handle.close();
  }
}
