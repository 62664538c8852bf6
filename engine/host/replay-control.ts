/** Makes the replay recorder and the decks do what show and air ask for, and tells air what the disk keeps. */
import { type Angle, PROGRAMME_SOUND } from '#core/replay/document';
import { deckPlace, rollLeft } from '#core/replay/deck';
import { rollTransition } from '#core/replay/roll-transition';
import { protectedSpans } from '#core/replay/retention';
import { type Desk } from '#core/desk/air';
import { isLetIn } from '#core/guests/let-in';
import { findSource, pictureName } from '#core/desk/pictures';
import { framesPerSecond, frameToMicros, microsToFrame } from '#core/time/rate';
import { type Driver, type EngineFormat } from '../capture/driver';
import {
  type FromDecks,
  type FromReplayRecorder,
  type RecordingFormat,
  type ReplayStatus,
  type ToDecks,
  type ToReplayRecorder,
} from '../replay/messages';
import { type SoundDesk } from '../sound/sound-desk';
import { type Show } from '#core/desk/show';
import { findOutput, type Output, pictureOutput } from '#core/screens/outputs';
import { RECORDER_FRAMES } from '../picture/frame-outlet';
import { type ShowReplay } from '../client/show-client';
import { isKind } from '#core/show/source-kinds';
import { type Follower, type HostAccess } from './follower';

const PROTECT_MS = 2500;
const SOON_MS = 150;
/** Frames ahead of its end at which a roll's return is set up, so that it begins on the very frame. */
const RETURN_AHEAD = 4;
/** A thumbnail that does not come within this is given up, milliseconds. */
const THUMBNAIL_MS = 8000;
/** What grows is closed within this, or read as it is on disk, milliseconds. */
const CLOSING_MS = 10_000;

interface Workers {
  recorder: Worker;
  decks: Worker;
}

export class ReplayControl implements ShowReplay, Follower {
  private workers: Workers | null = null;
  private recordingId: string | null = null;
  private tracks = new Map<string, () => void>();
  private lastDesk: Pick<Desk, 'show' | 'air'> | null = null;
  private timer: ReturnType<typeof setInterval> | undefined;
  private soon: ReturnType<typeof setTimeout> | undefined;
  private keys = 0;
  private readonly closings = new Map<number, () => void>();
  private readonly answers = new Map<string, (message: FromDecks) => void>();

  constructor(
    private readonly showId: string,
    private readonly format: EngineFormat,
    private readonly sound: SoundDesk,
    private readonly host: HostAccess,
  ) {}

  /** The decks as sources, of the same shape as every driver. */
  readonly deckDriver: Driver<'deck'> = ({ settings: { deck } }, _air, link) => {
    const { decks } = this.started();
    const [frames, second, sound] = [link.framePort(), link.framePort(true), link.soundPort()];
    decks.postMessage({ type: 'connect', deck, frames, second, sound } satisfies ToDecks, [frames, second, sound]);
    link.health('live');
    return { stop: () => decks.postMessage({ type: 'disconnect', deck } satisfies ToDecks) };
  };

  /** A trouble with one recording of the angles is over when another runs. */
  private anew(): (desk: Desk) => boolean {
    const id = this.host.state().desk.air.replay.recording?.id;
    return ({ air }) => air.replay.recording !== null && air.replay.recording.id !== id;
  }

  private started(): Workers {
    if (this.workers) return this.workers;
    const recorder = new Worker(new URL('../replay/recorder.worker.ts', import.meta.url), { type: 'module' });
    const decks = new Worker(new URL('../replay/decks.worker.ts', import.meta.url), { type: 'module' });
    this.workers = { recorder, decks };
    recorder.onmessage = ({ data }: MessageEvent<FromReplayRecorder>) => this.fromRecorder(data);
    recorder.onerror = (event) => this.host.notify('trouble', `The replay recorder stopped: ${event.message}`, this.anew());
    decks.onmessage = ({ data }: MessageEvent<FromDecks>) => this.fromDecks(data);
    decks.onerror = (event) => this.host.notify('trouble', `The decks stopped: ${event.message}`, this.anew());
    const { port1, port2 } = new MessageChannel();
    const { clock, rate, frameStep, working } = this.format;
    decks.postMessage({ type: 'start', clock, rate, frameStep, index: port2, size: working } satisfies ToDecks, [port2]);
    recorder.postMessage({ type: 'start', showId: this.showId, index: port1 } satisfies ToReplayRecorder, [port1]);
    this.timer = setInterval(() => this.protect(), PROTECT_MS);
    return this.workers;
  }

  follow(desk: Desk): void {
    const { show, air } = desk;
    const needed = show.replay.angles.length > 0 || air.replay.kept !== null || show.sources.some((s) => isKind(s, 'deck'));
    if (!needed && !this.workers) return;
    const { recorder, decks } = this.started();
    const before = this.lastDesk;
    this.lastDesk = { show, air };
    const { replay } = show;
    if (
      before?.air.replay !== air.replay ||
      before.show.replay.settings !== replay.settings ||
      before.show.replay.angles !== replay.angles
    ) {
      decks.postMessage({ type: 'desk', desk: { replay: air.replay, settings: replay.settings, angles: replay.angles } } satisfies ToDecks);
    }
    if (before?.show.replay.settings !== replay.settings) {
      recorder.postMessage({ type: 'format', format: this.recordingFormat(desk) } satisfies ToReplayRecorder);
      this.protect();
    } else if (before.show.replay.clips !== replay.clips) this.protectSoon();
    this.followTracks(desk);
    const id = air.replay.recording?.id ?? null;
    if (id !== this.recordingId) {
      this.recordingId = id;
      this.protect();
      recorder.postMessage({ type: 'record', on: id !== null } satisfies ToReplayRecorder);
    }
  }

  private recordingFormat({ show }: Desk): RecordingFormat {
    const { height, megabits } = show.replay.settings;
    return { height, bitrate: Math.round(megabits * 1e6), framerate: framesPerSecond(this.format.rate) / this.format.frameStep };
  }

  /** Takes exactly the pictures and sounds that are recorded, and only while they are. */
  private followTracks({ show, air }: Desk): void {
    const angles: Angle[] = air.replay.recording ? show.replay.angles : [];
    // Of a guest who is not let in, nothing is kept.
    const isKept = (id: string) => isLetIn(show, air, findSource(show, id));
    const wanted = new Map<string, () => () => void>();
    for (const { pictureId, soundId } of angles) {
      if (isKept(pictureId)) wanted.set(pictureId, () => this.takePictures(show, pictureId));
      if (soundId !== null && isKept(soundId))
        wanted.set(`sound-${soundId}`, () =>
          this.takeSound(soundId, soundId === PROGRAMME_SOUND ? 'Programme sound' : `Sound of ${pictureName(show, soundId)}`),
        );
    }
    for (const [id, end] of this.tracks) {
      if (wanted.has(id)) continue;
      end();
      this.tracks.delete(id);
    }
    for (const [id, begin] of wanted) if (!this.tracks.has(id)) this.tracks.set(id, begin());
  }

  private track(trackId: string, name: string): MessagePort {
    const { port1, port2 } = new MessageChannel();
    this.workers?.recorder.postMessage({ type: 'track', trackId, name, port: port2 } satisfies ToReplayRecorder, [port2]);
    return port1;
  }

  /** A source is recorded as it comes, without being mixed; every other picture as the mixer makes it. */
  private takePictures(show: Show, id: string): () => void {
    const name = pictureName(show, id);
    const port = this.track(id, name);
    const end = findSource(show, id)
      ? this.copySource(id, port)
      : this.host.mixer.sendOutput(this.outputOf(show, id, name), port, RECORDER_FRAMES);
    return () => {
      end();
      this.workers?.recorder.postMessage({ type: 'track-gone', trackId: id } satisfies ToReplayRecorder);
    };
  }

  private copySource(id: string, port: MessagePort): () => void {
    this.host.mixer.send({ type: 'copies-port', id, port }, [port]);
    return () => this.host.mixer.send({ type: 'copies-gone', id });
  }

  /** A picture that is recorded smaller than the show is worked in is made so small at once. */
  private outputOf(show: Show, id: string, name: string): Output {
    const output = findOutput(show, id) ?? pictureOutput(id, name);
    const { height } = show.replay.settings;
    const { raster } = this.host.state().working;
    if (height === 0 || height >= raster.height) return output;
    const width = Math.round((raster.width * height) / raster.height / 2) * 2;
    return { ...output, id: `${id} at ${height}`, raster: { width, height: Math.round(height / 2) * 2 } };
  }

  private takeSound(id: string, name: string): () => void {
    const end = this.sound.record(id, this.track(`sound-${id}`, name));
    return () => {
      end();
      this.workers?.recorder.postMessage({ type: 'track-gone', trackId: `sound-${id}` } satisfies ToReplayRecorder);
    };
  }

  /** Clips have changed: the recorder hears of it before it next looks for what may go. */
  private protectSoon(): void {
    clearTimeout(this.soon);
    this.soon = setTimeout(() => this.protect(), SOON_MS);
  }

  private protect(): void {
    const { show, air } = this.host.state().desk;
    const frame = this.host.state().frame;
    const message: ToReplayRecorder = {
      type: 'protect',
      spans: protectedSpans(show, air, frame),
      budget: show.replay.settings.budget,
      now: frameToMicros(frame, show.rate),
    };
    this.workers?.recorder.postMessage(message);
  }

  private fromRecorder(message: FromReplayRecorder): void {
    if (message.type === 'trouble') return this.host.notify('trouble', `${message.message.replace(/\.$/, '')}.`, this.anew());
    if (message.type === 'closed') return this.closings.get(message.key)?.();
    this.host.set({ replay: message.status });
    this.reportKept(message.status);
  }

  /** Air knows the oldest frame, and after a recording the newest: decks stop there. */
  private reportKept({ runs }: ReplayStatus): void {
    const { show, air } = this.host.state().desk;
    const all = Object.entries(runs).flatMap(([id, list]) => (id.startsWith('sound-') ? [] : list));
    const { kept, recording } = air.replay;
    if (all.length === 0) {
      if (!recording && kept) this.host.command({ type: 'replay.report', args: { from: null, to: null } });
      return;
    }
    const from = microsToFrame(Math.min(...all.map((r) => r.from)) + 1, show.rate);
    const to = recording ? null : microsToFrame(Math.max(...all.map((r) => r.to)) + 1, show.rate);
    if (kept?.from !== from || (kept.to ?? null) !== to) this.host.command({ type: 'replay.report', args: { from, to } });
  }

  private fromDecks(message: FromDecks): void {
    if (message.type === 'cache') return this.host.set({ replayCache: message.bytes });
    this.answers.get(message.key)?.(message);
    this.answers.delete(message.key);
  }

  /** Closes what grows, so that everything recorded so far can be read from disk; a recorder that does not answer is not waited for. */
  async closeSegments(): Promise<void> {
    const { recorder } = this.started();
    this.keys += 1;
    const key = this.keys;
    await new Promise<void>((resolve) => {
      const done = () => {
        clearTimeout(timer);
        this.closings.delete(key);
        resolve();
      };
      const timer = setTimeout(done, CLOSING_MS);
      this.closings.set(key, done);
      recorder.postMessage({ type: 'close-segments', key } satisfies ToReplayRecorder);
    });
  }

  private ask(message: Extract<ToDecks, { key: string }>): Promise<FromDecks | null> {
    return new Promise((resolve) => {
      const timer = setTimeout(() => {
        this.answers.delete(message.key);
        resolve(null);
      }, THUMBNAIL_MS);
      this.answers.set(message.key, (answer) => {
        clearTimeout(timer);
        resolve(answer);
      });
      this.started().decks.postMessage(message);
    });
  }

  /** A small picture of an angle at a show frame, or near it unless `exact`; null in a gap. The caller closes it. */
  async thumbnail(trackId: string, frame: number, width: number, exact = false): Promise<ImageBitmap | null> {
    this.keys += 1;
    const answer = await this.ask({
      type: 'thumbnail',
      key: `t${this.keys}`,
      trackId,
      micros: frameToMicros(frame, this.format.rate),
      width,
      exact,
    });
    return answer?.type === 'thumbnail' ? answer.image : null;
  }

  /** Reads one frame as a deck would: milliseconds, and the stamp it has. For the bench and tests. */
  async probe(trackId: string, frame: number): Promise<{ ms: number; stamp: number | null } | null> {
    this.keys += 1;
    const answer = await this.ask({ type: 'probe', key: `p${this.keys}`, trackId, micros: frameToMicros(frame, this.format.rate) });
    return answer?.type === 'probe' ? { ms: answer.ms, stamp: answer.stamp } : null;
  }

  /** Sets up the return of a roll that is about to end; call once a frame. */
  tick({ show, air }: Desk, frame: number): void {
    const { takeBack, decks } = air.replay;
    if (!takeBack) return;
    const deck = decks[takeBack.deck];
    const left = rollLeft(deck, deckPlace(deck, air.replay, frame, show.rate))?.all;
    if (left === undefined) return;
    // A cut cannot be set up ahead: it happens with its command.
    const ahead = rollTransition({ show, air }).kind === 'cut' ? 1 : RETURN_AHEAD;
    if (left <= ahead && deck.motion.kind === 'play') this.host.command({ type: 'roll.finish', args: { at: Math.round(frame + left) } });
  }

  /** Ends recording; resolves when everything is on disk. */
  async close(): Promise<void> {
    clearInterval(this.timer);
    clearTimeout(this.soon);
    for (const end of this.tracks.values()) end();
    this.tracks.clear();
    if (this.workers && this.recordingId !== null)
      await Promise.race([this.closeSegments(), new Promise((resolve) => setTimeout(resolve, 3000))]);
    this.workers?.recorder.terminate();
    this.workers?.decks.terminate();
    this.workers = null;
  }
}
