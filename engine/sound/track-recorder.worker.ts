/** Writes sound tracks as WAV files into OPFS, all from the same sample on. */
import { MOST_WAV_BYTES, packSamples, WAV_HEAD, wavHead } from '#core/sound/wav';
import { openForWriting, type SyncHandle } from '../storage/opfs';
import { workerScope } from '../worker-scope';
import { SAMPLE_RATE, type SoundChunk } from './chunk';
import { type FromTrackRecorder, type ToTrackRecorder, type TrackToRecord } from './track-messages';

/** The head is written anew this often, so that a file that is cut off plays nearly to its end. */
const HEAD_SECONDS = 1;
/** Bytes of a sample of both sides. */
const STRIDE = 6;

const say = (message: FromTrackRecorder) => workerScope.postMessage(message);

class Track {
  bytes = 0;
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

  /** Adds a chunk; what is missing before it is silence, what was there already is left out. */
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

let tracks: Track[] = [];
let timer: ReturnType<typeof setInterval> | undefined;

const figures = () => tracks.map(({ track, bytes, seconds, silence }) => ({ id: track.id, bytes: WAV_HEAD + bytes, seconds, silence }));

function end(error: string): void {
  clearInterval(timer);
  const ended = figures();
  for (const track of tracks) track.close();
  tracks = [];
  say({ type: 'ended', tracks: ended, error });
}

function wordsOf(error: unknown): string {
  if (error instanceof DOMException && error.name === 'QuotaExceededError') return 'the disk is full';
  return error instanceof Error ? error.message : String(error);
}

async function start({ startSample, tracks: wanted }: Extract<ToTrackRecorder, { type: 'start' }>): Promise<void> {
  try {
    // Chunks wait in their ports until every file is open.
    for (const track of wanted) tracks.push(new Track(track, await openForWriting('recordings', `${track.id}.wav`), startSample));
  } catch (error) {
    return end(wordsOf(error));
  }
  for (const track of tracks) {
    track.track.port.onmessage = ({ data }: MessageEvent<SoundChunk>) => {
      try {
        track.write(data);
      } catch (error) {
        end(wordsOf(error));
      }
    };
  }
  timer = setInterval(() => say({ type: 'status', tracks: figures() }), 1000);
}

/** A stop that comes while files are still being opened waits for them: none may stay open. */
let starting: Promise<void> = Promise.resolve();

workerScope.onmessage = ({ data }: MessageEvent<ToTrackRecorder>) => {
  if (data.type === 'start') starting = start(data);
  else void starting.then(() => end(''));
};
