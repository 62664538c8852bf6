/** Records channels and buses as WAV files of their own while a recording runs. */
import { format as formatDate } from 'date-fns';
import { causeOf } from '#core/schema/cause';
import { type Desk } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { channelsOf } from '#core/sound/channels';
import { deskConfig } from '#core/sound/desk-config';
import { frameToMicros } from '#core/time/rate';
import { SAMPLE_RATE } from '../sound/chunk';
import { type OutletSource } from '../sound/desk-messages';
import { type SoundDesk } from '../sound/sound-desk';
import { type FromTrackRecorder, type ToTrackRecorder, type TrackToRecord } from '../sound/track-messages';
import { db } from '../storage/db';
import { type Follower, type HostAccess } from './follower';

/** Bytes a second of one track: stereo, 24 bits. */
const TRACK_RATE = SAMPLE_RATE * 6;

interface Wanted {
  name: string;
  from: OutletSource;
}

/** The tracks of one recording. */
interface Taking {
  readonly recordingId: string;
  readonly ends: (() => void)[];
  /** Null until the tracks are listed. */
  worker: Worker | null;
  stopped: boolean;
}

/** What is recorded beside the programme: channels as they come in, buses as they leave. */
function wantedTracks({ show, air }: Desk): Wanted[] {
  const config = new Map(deskConfig(show, air).channels.map((c) => [c.id, c]));
  const channels = channelsOf(show).flatMap(({ id, name, sound }): Wanted[] => {
    const c = config.get(id);
    return sound.iso && c?.feed && 'key' in c.feed ? [{ name, from: { kind: 'feed', key: c.feed.key } }] : [];
  });
  return [
    ...show.sound.buses.filter((b) => b.record).map(({ id, name }): Wanted => ({ name: `${name} mix`, from: { kind: 'bus', busId: id } })),
    ...channels,
  ];
}

/** Samples from midnight to a moment, local time. */
function sinceMidnight(at: Date): number {
  const midnight = new Date(at);
  midnight.setHours(0, 0, 0, 0);
  return Math.round(((at.getTime() - midnight.getTime()) / 1000) * SAMPLE_RATE);
}

/** Longest that the files of tracks are waited for at the end, milliseconds. */
const ENDING_MS = 4000;

export class TrackControl implements Follower {
  /** The recording that air speaks of. */
  private recordingId: string | null = null;
  /** Null when its tracks have ended, or it has none. */
  private taking: Taking | null = null;
  /** Recorders whose files are not closed yet, with what to do when they are. */
  private readonly writing = new Map<Worker, { closed: Promise<void>; done: () => void }>();

  constructor(
    private readonly showId: string,
    private readonly sound: SoundDesk,
    private readonly host: Pick<HostAccess, 'notify'>,
  ) {}

  /** Bytes a second that the tracks take now. */
  get byteRate(): number {
    return (this.taking?.ends.length ?? 0) * TRACK_RATE;
  }

  follow(desk: Desk): void {
    const { recording } = desk.air;
    if ((recording?.id ?? null) === this.recordingId) return;
    this.stop();
    this.recordingId = recording?.id ?? null;
    if (!recording) return;
    const taking: Taking = { recordingId: recording.id, ends: [], worker: null, stopped: false };
    this.taking = taking;
    this.start(taking, recording.startFrame, desk).catch((error: unknown) => {
      this.host.notify('trouble', `The sound tracks cannot be recorded: ${causeOf(error)}. The recording goes on without them.`);
      if (this.taking === taking) this.stop();
    });
  }

  /** Resolves when every file of tracks that were stopped is closed and listed. */
  async settled(): Promise<void> {
    await Promise.all([...this.writing.values()].map((w) => w.closed));
  }

  async close(): Promise<void> {
    await Promise.race([this.settled(), new Promise((resolve) => setTimeout(resolve, ENDING_MS))]);
  }

  private async start(taking: Taking, startFrame: number, desk: Desk): Promise<void> {
    const wanted = wantedTracks(desk);
    if (wanted.length === 0) return;
    const { show } = desk;
    const now = new Date();
    const base = `${show.name} ${formatDate(now, 'yyyy-MM-dd HH.mm.ss')}`;
    const tracks = wanted.map(({ name, from }, i): TrackToRecord => {
      const { port1, port2 } = new MessageChannel();
      const trackId = `${taking.recordingId}-${i + 1}`;
      taking.ends.push(this.sound.sendTo(`track ${trackId}`, from, port1));
      return {
        id: trackId,
        port: port2,
        info: {
          channels: 2,
          sampleRate: SAMPLE_RATE,
          description: `${show.name}: ${name}`,
          startedAt: now,
          timeReference: sinceMidnight(now),
        },
      };
    });
    await db.recordings.bulkAdd(
      tracks.map((t, i) => ({
        id: t.id,
        showId: this.showId,
        name: `${base} · ${wanted[i]?.name}`,
        extension: 'wav' as const,
        startedAt: now.getTime(),
        state: 'recording' as const,
        bytes: 0,
        seconds: 0,
        note: '',
      })),
    );
    const worker = new Worker(new URL('../sound/track-recorder.worker.ts', import.meta.url), { type: 'module' });
    taking.worker = worker;
    let done = () => undefined as void;
    const closed = new Promise<void>((resolve) => {
      done = resolve;
    });
    this.writing.set(worker, { closed, done });
    worker.onmessage = ({ data }: MessageEvent<FromTrackRecorder>) => void this.receive(worker, data);
    const message: ToTrackRecorder = { type: 'start', startSample: startSample(show, startFrame), tracks };
    worker.postMessage(
      message,
      tracks.map((t) => t.port),
    );
    // Stopped while its tracks were being listed: the files are made, and closed at once.
    if (taking.stopped) worker.postMessage({ type: 'stop' } satisfies ToTrackRecorder);
  }

  private stop(): void {
    const { taking } = this;
    this.taking = null;
    if (!taking) return;
    taking.stopped = true;
    for (const end of taking.ends) end();
    taking.worker?.postMessage({ type: 'stop' } satisfies ToTrackRecorder);
  }

  private async receive(worker: Worker, message: FromTrackRecorder): Promise<void> {
    const ended = message.type === 'ended';
    if (ended) {
      worker.terminate();
      if (message.error) {
        this.host.notify('trouble', `The sound tracks ended early: ${message.error}. What was recorded is kept.`);
        if (this.taking?.worker === worker) this.stop();
      }
    }
    for (const { id, bytes, seconds } of message.tracks)
      await db.recordings.update(id, { bytes, seconds, ...(ended && { state: 'done' as const, note: message.error }) });
    if (ended) {
      this.writing.get(worker)?.done();
      this.writing.delete(worker);
    }
  }
}

/** Show sample of a frame. */
const startSample = (show: Show, frame: number): number => Math.round((frameToMicros(frame, show.rate) * SAMPLE_RATE) / 1e6);
