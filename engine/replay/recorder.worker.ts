/** The replay recorder's thread: one encoder for each angle, segments on disk, and the budget. */
import { type Budget } from '#core/replay/document';
import { budgetState, toDrop } from '#core/replay/retention';
import { type Run, runsOf } from '#core/replay/timeline';
import { causeOf } from '#core/schema/cause';
import { type FrameMessage } from '../picture/messages';
import { takeFrames } from '../picture/frame-outlet';
import { type SoundChunk } from '../sound/chunk';
import { addSegment, dropSegments, finishSegment, recoverSegments } from '../storage/replay-segments';
import { workerScope } from '../worker-scope';
import { AngleRecorder } from './angle-recorder';
import { type FromReplayRecorder, type IndexMessage, type RecordingFormat, type StoredSegment, type ToReplayRecorder } from './messages';
import { SoundRecorder } from './sound-recorder';
import { Track } from './track';

const say = (message: FromReplayRecorder) => workerScope.postMessage(message);

const STATUS_MS = 500;
const RETAIN_MS = 2000;
const RELEASE_MS = 500;

interface Running {
  recorder: AngleRecorder | SoundRecorder;
  port: MessagePort;
}

const running = new Map<string, Running>();
const segments = new Map<string, StoredSegment>();
let showId = '';
let index: MessagePort | null = null;
let format: RecordingFormat = { height: 0, bitrate: 2e6, framerate: 25 };
let recording = false;
let protect: { spans: Run[]; budget: Budget; now: number } | null = null;
let saidOverfull = false;
/** What happens after the older segments are known. */
let ready: Promise<void> = Promise.resolve();

const tell = (message: IndexMessage) => index?.postMessage(message);

function makeTrack(trackId: string, name: string): Track {
  return new Track(trackId, name, showId, {
    opened: (segment) => {
      segments.set(segment.id, segment);
      // Should the database refuse: the file itself says whose it is.
      void addSegment(showId, segment).catch(() => undefined);
      tell({ type: 'opened', segment });
    },
    packet: (segmentId, packet) => tell({ type: 'packet', segmentId, packet }),
    closed: async (segment) => {
      tell({ type: 'closed', segment });
      if (segment.groups.length === 0) segments.delete(segment.id);
      await finishSegment(showId, segment).catch(() => undefined);
      // Only those who read need to know where its groups begin; in an hour that would be megabytes here.
      if (segments.has(segment.id)) segments.set(segment.id, { ...segment, groups: [] });
    },
    trouble: (message) => say({ type: 'trouble', message }),
  });
}

function addTrack({ trackId, name, port }: Extract<ToReplayRecorder, { type: 'track' }>): void {
  removeTrack(trackId);
  const track = makeTrack(trackId, name);
  if (trackId.startsWith('sound-')) {
    const recorder = new SoundRecorder(track);
    port.onmessage = ({ data }: MessageEvent<SoundChunk>) => {
      if (recording) recorder.chunk(data);
    };
    running.set(trackId, { recorder, port });
    return;
  }
  const recorder = new AngleRecorder(track, format);
  takeFrames(port, ({ frame, stamp }) => {
    if (recording) recorder.frame(frame, stamp);
    else frame.close();
  });
  running.set(trackId, { recorder, port });
}

async function end({ recorder, port }: Running): Promise<void> {
  // Who sends closes the port: a frame on its way would stay open if it were closed here.
  port.onmessage = ({ data }: MessageEvent<Partial<FrameMessage>>) => data.frame?.close();
  await recorder.flush();
  recorder.track.endSegment();
  recorder.close();
}

function removeTrack(trackId: string): void {
  const old = running.get(trackId);
  running.delete(trackId);
  if (old) void end(old);
}

/** Ends every open segment; recording goes on in new ones. */
async function closeSegments(): Promise<void> {
  await Promise.all(
    [...running.values()].map(async ({ recorder }) => {
      await recorder.flush();
      recorder.track.endSegment();
      await recorder.track.settled();
    }),
  );
}

async function record(on: boolean): Promise<void> {
  await ready;
  recording = on;
  for (const { recorder } of running.values())
    Object.assign(recorder.track.status, { state: 'waiting', trouble: on ? 'waiting for its first picture' : '' });
  if (!on) await closeSegments();
  report();
}

/** Drops what the budget no longer grants. */
function retain(): void {
  if (!protect) return;
  const open = new Set([...running.values()].map(({ recorder }) => recorder.track.open?.id));
  const closed = [...segments.values()].filter((s) => !open.has(s.id));
  const drop = toDrop(closed, protect.spans, protect.budget, protect.now);
  if (drop.length === 0) return;
  const ids = drop.map((s) => s.id);
  for (const id of ids) segments.delete(id);
  tell({ type: 'dropped', ids });
  // The decks need a moment to let go of the files.
  setTimeout(() => void dropSegments(ids), RELEASE_MS);
}

function report(): void {
  const tracks = [...running.values()].map(({ recorder }) => recorder.track.report());
  const bytesPerSecond = tracks.reduce((sum, t) => sum + t.bytesPerSecond, 0);
  const all = [...segments.values()];
  const byTrack = new Map<string, StoredSegment[]>();
  for (const segment of all) {
    const list = byTrack.get(segment.trackId);
    if (list) list.push(segment);
    else byTrack.set(segment.trackId, [segment]);
  }
  const runs = Object.fromEntries([...byTrack].map(([id, list]) => [id, runsOf(list)]));
  const state = budgetState(all, protect?.budget ?? { kind: 'gigabytes', value: 8 }, bytesPerSecond);
  const { usedBytes, limitBytes, secondsLeft, overfull } = state;
  if (overfull && !saidOverfull)
    say({
      type: 'trouble',
      message:
        'The replay budget is used up, and all of it lies under clips. Recording goes on beyond it: raise the budget, or remove clips',
    });
  saidOverfull = overfull;
  say({
    type: 'status',
    status: {
      recording,
      tracks,
      runs,
      usedBytes,
      limitBytes,
      secondsLeft: Number.isFinite(secondsLeft) ? secondsLeft : -1,
      overfull,
      bytesPerSecond,
    },
  });
}

async function start(message: Extract<ToReplayRecorder, { type: 'start' }>): Promise<void> {
  showId = message.showId;
  index = message.index;
  const known = await recoverSegments(showId);
  for (const segment of known) segments.set(segment.id, { ...segment, groups: [] });
  tell({ type: 'segments', segments: known });
  report();
  setInterval(report, STATUS_MS);
  setInterval(retain, RETAIN_MS);
}

workerScope.onmessage = ({ data }: MessageEvent<ToReplayRecorder>) => {
  switch (data.type) {
    case 'start':
      ready = start(data).catch((error: unknown) =>
        say({ type: 'trouble', message: `Older replay material cannot be read: ${causeOf(error)}` }),
      );
      return;
    case 'format':
      format = data.format;
      for (const { recorder } of running.values()) if (recorder instanceof AngleRecorder) recorder.setFormat(format);
      return;
    case 'track':
      return addTrack(data);
    case 'track-gone':
      return removeTrack(data.trackId);
    case 'record':
      void record(data.on);
      return;
    case 'protect':
      protect = data;
      return;
    case 'close-segments':
      void closeSegments().then(() => say({ type: 'closed', key: data.key }));
      return;
  }
};
