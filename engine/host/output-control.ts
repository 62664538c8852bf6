/** Makes recorder and streamer do what air asks for, and tells air when they have ended by themselves. */
import { RESERVE_BYTES, recordingRoom } from '#core/output/storage-budget';
import { type Desk } from '#core/desk/air';
import { format as formatDate } from 'date-fns';
import { extensionOf } from '../output/codecs';
import { type EncodeSettings, type FromEncoder, type ToEncoder } from '../output/messages';
import { db } from '../storage/db';
import { storageSpace } from '../storage/opfs';
import { RECORDER_FRAMES } from '../picture/frame-outlet';
import { type SoundDesk } from '../sound/sound-desk';
import { findOutput, outputsOf } from '#core/screens/outputs';
import { type Follower, type HostAccess } from './follower';

/** A trouble with one recording is over when another runs. */
const recordsAnew =
  (id: string | null) =>
  ({ air }: Desk): boolean =>
    air.recording !== null && air.recording.id !== id;

/** Longest that the end of a recording or stream is waited for, milliseconds. */
const ENDING_MS = 6000;

export class OutputControl implements Follower {
  private recordingId: string | null = null;
  private streamId: string | null = null;
  private warned = false;
  /** How to end the frames of each output that is taken. */
  private readonly taken = new Map<string, () => void>();
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    private readonly worker: Worker,
    sound: Pick<SoundDesk, 'sendProgramme'>,
    private readonly host: HostAccess,
    /** Bytes a second that sound tracks take beside the programme. */
    private readonly trackRate: () => number,
  ) {
    worker.onmessage = ({ data }: MessageEvent<FromEncoder>) => void this.receive(data);
    const { port1, port2 } = new MessageChannel();
    sound.sendProgramme(port1);
    worker.postMessage({ type: 'sound', sound: port2 } satisfies ToEncoder, [port2]);
    this.timer = setInterval(() => void this.watchSpace(), 2000);
    void this.watchSpace();
  }

  follow(desk: Desk): void {
    this.takeOutputs(desk);
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
      const { url, key, megabits, outputId } = show.output.stream;
      const address = new URL(url, location.href).href;
      this.send({ type: 'stream', id: air.stream.id, url: address, key, settings: this.settings('h264', megabits, outputId) });
    } else if (!air.stream && this.streamId !== null) {
      this.streamId = null;
      this.send({ type: 'stop-stream' });
    }
  }

  /** An output's frames are taken only while a recording or stream of it runs. */
  private takeOutputs({ show, air }: Desk): void {
    const wanted = new Set<string>();
    if (air.recording) wanted.add(show.output.recording.outputId);
    if (air.stream) wanted.add(show.output.stream.outputId);
    for (const [id, end] of this.taken) {
      if (wanted.has(id)) continue;
      end();
      this.taken.delete(id);
    }
    for (const output of outputsOf(show)) {
      if (!wanted.has(output.id) || this.taken.has(output.id)) continue;
      const { port1, port2 } = new MessageChannel();
      this.worker.postMessage({ type: 'output', outputId: output.id, frames: port2 } satisfies ToEncoder, [port2]);
      this.taken.set(output.id, this.host.mixer.sendOutput(output, port1, RECORDER_FRAMES));
    }
  }

  private send(message: ToEncoder): void {
    this.worker.postMessage(message);
  }

  private settings(codec: EncodeSettings['codec'], megabits: number, outputId: string): EncodeSettings {
    const { desk, working } = this.host.state();
    const output = findOutput(desk.show, outputId);
    return {
      codec,
      bitrate: Math.round(megabits * 1e6),
      raster: output?.raster ?? working.raster,
      rate: desk.show.rate,
      frameStep: Math.max(working.frameStep, output?.frameStep ?? 1),
      outputId,
    };
  }

  private async startRecording(id: string): Promise<void> {
    const { show } = this.host.state().desk;
    const { codec, megabits, outputId } = show.output.recording;
    const space = await storageSpace();
    const settings = this.settings(codec, megabits, outputId);
    if (recordingRoom(space.free, settings.bitrate / 8 + this.trackRate()).stop) {
      this.host.notify(
        'trouble',
        `Not recording: only ${Math.floor(space.free / 1e6)} MB are left in this browser. Save and delete older recordings first.`,
        recordsAnew(id),
      );
      this.host.set({ recordingFailed: true });
      this.host.command({ type: 'output.stopRecording' });
      return;
    }
    this.host.set({ recordingFailed: false });
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
      this.host.set({ encoder: message.status });
      const { recording } = message.status;
      if (recording) void db.recordings.update(recording.id, { bytes: recording.bytes, seconds: recording.seconds });
      return;
    }
    if (message.type === 'recording-ended') {
      const { id, seconds, bytes, error } = message;
      await db.recordings.update(id, { state: 'done', seconds, bytes, note: error });
      this.host.set({ recordingFailed: error !== '' });
      if (error) this.host.notify('trouble', `The recording ended early: ${error}. What was recorded is kept.`, recordsAnew(id));
      if (this.recordingId === id) this.host.command({ type: 'output.stopRecording' });
      return;
    }
    if (message.error)
      this.host.notify('trouble', `The stream ended: ${message.error}.`, ({ air }) => air.stream !== null && air.stream.id !== message.id);
    if (this.streamId === message.id) this.host.command({ type: 'output.stopStream' });
  }

  /** Warns while there is time, and ends a recording cleanly before the disk is full. */
  private async watchSpace(): Promise<void> {
    const space = await storageSpace();
    this.host.set({ space });
    const { recording } = this.host.state().encoder;
    if (!recording || this.recordingId === null) return;
    const room = recordingRoom(space.free, Math.max(recording.bitrate / 8, 25_000) + this.trackRate());
    if (room.stop) {
      this.host.notify(
        'trouble',
        `Recording stopped: less than ${Math.round(RESERVE_BYTES / 1e6)} MB are left in this browser. All of it is kept.`,
        recordsAnew(this.recordingId),
      );
      this.host.command({ type: 'output.stopRecording' });
    } else if (room.warn && !this.warned) {
      this.warned = true;
      this.host.notify(
        'caution',
        `Room for ${Math.max(1, Math.round(room.secondsLeft / 60))} more minutes of recording. Save and delete older ones.`,
        ({ air }) => air.recording === null,
      );
    }
  }

  /** Waits until files are closed and segments sent, or will not be. */
  async close(): Promise<void> {
    const started = performance.now();
    const busy = () => this.host.state().encoder.recording !== null || this.host.state().encoder.stream !== null;
    while (busy() && performance.now() - started < ENDING_MS) await new Promise((resolve) => setTimeout(resolve, 100));
    clearInterval(this.timer);
    for (const end of this.taken.values()) end();
    this.worker.terminate();
  }
}
