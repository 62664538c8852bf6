/** Makes recorder and streamer do what air asks for, and tells air when they have ended by themselves. */
import { RESERVE_BYTES, recordingRoom } from '#core/output/storage-budget';
import { type Desk } from '#core/desk/air';
import { format as formatDate } from 'date-fns';
import { extensionOf } from '../output/codecs';
import { type EncodeSettings, type EncoderStatus, type FromEncoder, type ToEncoder } from '../output/messages';
import { db } from '../storage/db';
import { type Space, storageSpace } from '../storage/opfs';
import { type HostState, type Notice } from './state';

export interface OutputHost {
  state(): HostState;
  notify(tone: Notice['tone'], text: string): void;
  /** Stops an output through its command, so that log and remote see it. */
  command(type: 'output.stopRecording' | 'output.stopStream'): void;
  status(status: EncoderStatus): void;
  space(space: Space): void;
  /** Bytes a second that sound tracks take beside the programme. */
  trackRate(): number;
  /** Asks the mixer for the clean programme. */
  cleanFrames(): { port: MessagePort; end: () => void };
}

export const IDLE_ENCODER: EncoderStatus = { recording: null, stream: null, doubled: 0, encodes: 0, silenceMs: 0 };

export class OutputControl {
  private recordingId: string | null = null;
  private streamId: string | null = null;
  private warned = false;
  private endClean: (() => void) | null = null;
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly worker: Worker,
    private readonly host: OutputHost,
  ) {
    worker.onmessage = ({ data }: MessageEvent<FromEncoder>) => void this.receive(data);
    this.timer = setInterval(() => void this.watchSpace(), 2000);
    void this.watchSpace();
  }

  connect(frames: MessagePort, sound: MessagePort): void {
    this.worker.postMessage({ type: 'programme', frames, sound } satisfies ToEncoder, [frames, sound]);
  }

  reconcile(desk: Desk): void {
    this.followFeeds(desk);
    const { show, air } = desk;
    if (air.recording && air.recording.id !== this.recordingId) {
      this.recordingId = air.recording.id;
      void this.startRecording(air.recording.id);
    } else if (!air.recording && this.recordingId !== null) {
      this.recordingId = null;
      this.send({ type: 'stop-recording' });
    }
    if (air.stream && air.stream.id !== this.streamId) {
      this.streamId = air.stream.id;
      const { url, key, megabits, feed } = show.output.stream;
      const address = new URL(url, location.href).href;
      this.send({ type: 'stream', id: air.stream.id, url: address, key, settings: this.settings('h264', megabits, feed) });
    } else if (!air.stream && this.streamId !== null) {
      this.streamId = null;
      this.send({ type: 'stop-stream' });
    }
  }

  /** The clean programme is drawn only while a recording or stream of it runs. */
  private followFeeds({ show: { output }, air }: Desk): void {
    const wanted = (air.recording !== null && output.recording.feed === 'clean') || (air.stream !== null && output.stream.feed === 'clean');
    if (wanted && !this.endClean) {
      const { port, end } = this.host.cleanFrames();
      this.worker.postMessage({ type: 'clean', frames: port } satisfies ToEncoder, [port]);
      this.endClean = end;
    } else if (!wanted) {
      this.endClean?.();
      this.endClean = null;
    }
  }

  private send(message: ToEncoder): void {
    this.worker.postMessage(message);
  }

  private settings(codec: EncodeSettings['codec'], megabits: number, feed: EncodeSettings['feed']): EncodeSettings {
    const { desk, working } = this.host.state();
    return { codec, bitrate: Math.round(megabits * 1e6), raster: working.raster, rate: desk.show.rate, frameStep: working.frameStep, feed };
  }

  private async startRecording(id: string): Promise<void> {
    const { show } = this.host.state().desk;
    const { codec, megabits, feed } = show.output.recording;
    const space = await storageSpace();
    const settings = this.settings(codec, megabits, feed);
    if (recordingRoom(space.free, settings.bitrate / 8 + this.host.trackRate()).stop) {
      this.host.notify(
        'trouble',
        `Not recording: only ${Math.floor(space.free / 1e6)} MB are left in this browser. Save and delete older recordings first.`,
      );
      this.host.command('output.stopRecording');
      return;
    }
    const extension = extensionOf(codec);
    const now = Date.now();
    this.warned = false;
    const name = `${show.name} ${formatDate(now, 'yyyy-MM-dd HH.mm.ss')}`;
    await db.recordings.add({ id, showId: show.id, name, extension, startedAt: now, state: 'recording', bytes: 0, seconds: 0, note: '' });
    if (this.recordingId === id) this.send({ type: 'record', id, fileName: `${id}.${extension}`, settings });
    // Stopped before it began: nothing will ever be written.
    else await db.recordings.delete(id);
  }

  private async receive(message: FromEncoder): Promise<void> {
    if (message.type === 'status') {
      this.host.status(message.status);
      const { recording } = message.status;
      if (recording) void db.recordings.update(recording.id, { bytes: recording.bytes, seconds: recording.seconds });
      return;
    }
    if (message.type === 'recording-ended') {
      const { id, seconds, bytes, error } = message;
      await db.recordings.update(id, { state: 'done', seconds, bytes, note: error });
      if (error) this.host.notify('trouble', `The recording ended early: ${error}. What was recorded is kept.`);
      if (this.recordingId === id) this.host.command('output.stopRecording');
      return;
    }
    if (message.error) this.host.notify('trouble', `The stream ended: ${message.error}.`);
    if (this.streamId === message.id) this.host.command('output.stopStream');
  }

  /** Warns while there is time, and ends a recording cleanly before the disk is full. */
  private async watchSpace(): Promise<void> {
    const space = await storageSpace();
    this.host.space(space);
    const { recording } = this.host.state().encoder;
    if (!recording || this.recordingId === null) return;
    const room = recordingRoom(space.free, Math.max(recording.bitrate / 8, 25_000) + this.host.trackRate());
    if (room.stop) {
      this.host.notify(
        'trouble',
        `Recording stopped: less than ${Math.round(RESERVE_BYTES / 1e6)} MB are left in this browser. All of it is kept.`,
      );
      this.host.command('output.stopRecording');
    } else if (room.warn && !this.warned) {
      this.warned = true;
      this.host.notify(
        'caution',
        `Room for ${Math.max(1, Math.round(room.secondsLeft / 60))} more minutes of recording. Save and delete older ones.`,
      );
    }
  }

  close(): void {
    clearInterval(this.timer);
  }
}
