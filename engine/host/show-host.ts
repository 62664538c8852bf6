/** Runs one show: the only place where show and air change, and where the threads are wired together. */
import { type Patch } from 'immer';
import { nanoid } from 'nanoid';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type Command, CommandError } from '#core/commands/command';
import { execute, type Refusal } from '#core/desk/execute';
import { EMPTY_HISTORY, redo, remember, undo } from '#core/desk/history';
import { causeOf } from '#core/schema/cause';
import { type Desk } from '#core/desk/air';
import { readShow } from '#core/desk/migrate';
import { type Feed } from '#core/output/document';
import { type Show, SHOW_VERSION } from '#core/desk/show';
import { frameToMicros, microsToFrame } from '#core/time/rate';
import { type Drivers } from '../capture/driver';
import { RECORDER_FRAMES, takeFrames, WINDOW_FRAMES } from '../picture/frame-outlet';
import { type FromMixer, type MonitorPicture, type SourceHealth, type ToMixer } from '../picture/messages';
import { preferredMixer } from '../picture/mixer-choice';
import { type SoundDeviceDriver } from '../sound/device-driver';
import { SoundDesk } from '../sound/sound-desk';
import { db, type ShowRow } from '../storage/db';
import { storageSpace } from '../storage/opfs';
import { PICTURE_DELAY_MICROS } from '../time/delays';
import { SharedClock } from '../time/shared-clock';
import { AsRunLog } from './as-run-log';
import { HostRemote } from './host-remote';
import { Journal } from './journal';
import { IDLE_ENCODER, OutputControl } from './output-control';
import { PaceControl } from './pace-control';
import { ReplayControl } from './replay-control';
import { ReplayExport, sweepExports } from './replay-export';
import { recoverAir, recoverRecordings } from './recovery';
import { followSound } from './sound-events';
import { SourceDrivers } from './source-drivers';
import { TrackControl } from './track-control';
import { type HealthSample, type HostState, type Notice } from './state';

export type DispatchResult = { ok: true; result: Record<string, unknown> } | { ok: false; error: Refusal };

/** Seconds of health kept for the charts. */
const SAMPLE_LIMIT = 300;

/** The show without its clips, which may be thousands: play-outs hold their own copies. */
function forMixer(show: Show): Show {
  return show.replay.clips.length === 0 ? show : { ...show, replay: { ...show.replay, clips: [] } };
}

export class ShowHost {
  readonly store: StoreApi<HostState>;
  readonly sound: SoundDesk;
  readonly replay: ReplayControl;
  readonly exports: ReplayExport;
  private readonly mixer: Worker;
  private readonly encoder: Worker;
  private readonly outputs: OutputControl;
  private readonly tracks: TrackControl;
  private readonly drivers: SourceDrivers;
  private readonly journal: Journal;
  private readonly asRun: AsRunLog;
  private readonly remote: HostRemote;
  private lastSample = 0;
  private readonly pace = new PaceControl();
  private closed = false;
  private ending: Promise<void> | null = null;
  private readonly tickListeners = new Set<(frame: number) => void>();

  private constructor(
    readonly showId: string,
    desk: Desk,
    private readonly clock: SharedClock,
    sound: SoundDesk,
    drivers: Drivers,
    notices: string[],
    /** Wall time of this opening, as the show's row has it. */
    private readonly openedAt: number,
  ) {
    const { show, air } = desk;
    const working = this.pace.format(desk);
    this.sound = sound;
    this.store = createStore<HostState>(() => ({
      desk,
      history: EMPTY_HISTORY,
      frame: this.nextFrame(desk),
      health: {},
      sizes: {},
      mixer: { frames: 0, dropped: 0, late: 0, monitorsSkipped: 0, drawMs: 0, usualMs: 0 },
      encoder: IDLE_ENCODER,
      replay: null,
      replayCache: 0,
      samples: [],
      renderer: null,
      working,
      space: null,
      soundAwake: sound.awake,
      remote: false,
      notices: notices.map((text) => ({ id: nanoid(), tone: 'caution' as const, text })),
      failure: null,
    }));
    this.journal = new Journal(showId, (message) => this.notify('trouble', `The show cannot be saved: ${message}`));
    this.asRun = new AsRunLog(showId);
    this.mixer = new Worker(new URL('../picture/mixer.worker.ts', import.meta.url), { type: 'module' });
    this.encoder = new Worker(new URL('../output/encoder.worker.ts', import.meta.url), { type: 'module' });
    this.mixer.onmessage = ({ data }: MessageEvent<FromMixer>) => this.fromMixer(data);
    this.mixer.onerror = (event) => this.set({ failure: `The picture mixer stopped: ${event.message}` });
    this.toMixer({ type: 'start', clock: clock.memory, working, desk: { show: forMixer(show), air }, prefer: preferredMixer() });
    const format = { clock: clock.memory, rate: show.rate, frameStep: 1, working: working.raster };
    this.replay = new ReplayControl(showId, format, sound, {
      desk: () => this.state.desk,
      frame: () => this.state.frame,
      command: (command) => void this.dispatch(command),
      notify: (tone, text) => this.notify(tone, text),
      status: (replay) => this.set({ replay }),
      cache: (replayCache) => this.set({ replayCache }),
      toMixer: (m, t) => this.toMixer(m, t),
    });
    this.exports = new ReplayExport(showId, show.rate, () => this.replay.closeSegments());
    this.drivers = new SourceDrivers(
      { ...drivers, deck: this.replay.deckDriver },
      format,
      (m, t) => this.toMixer(m, t),
      sound,
      (id, health) => this.setHealth(id, health),
    );
    this.tracks = new TrackControl(showId, sound, { desk: () => this.state.desk, notify: (tone, text) => this.notify(tone, text) });
    this.outputs = new OutputControl(this.encoder, {
      state: () => this.state,
      notify: (tone, text) => this.notify(tone, text),
      command: (type) => void this.dispatch({ type }),
      status: (encoder) => this.set({ encoder }),
      space: (space) => this.set({ space }),
      trackRate: () => this.tracks.byteRate,
      cleanFrames: () => this.cleanFrames(),
    });
    this.connectOutputs();
    this.drivers.reconcile(show, air);
    this.replay.reconcile(desk);
    this.remote = new HostRemote(showId, {
      desk: () => this.state.desk,
      frame: () => this.state.frame,
      status: () => this.remoteStatus(),
      command: (command) => this.dispatch((command ?? {}) as Command),
      saved: () => this.journal.settled(),
      connected: (remote) => this.set({ remote }),
    });
    followSound(sound, {
      desk: () => (this.closed ? null : this.state.desk),
      command: (command) => void this.dispatch(command),
      notify: (tone, text) => this.notify(tone, text),
    });
    sound.context.onstatechange = () => this.set({ soundAwake: sound.awake });
  }

  /** Opens a stored show and starts it, as it was when it was left. */
  static async open(stored: ShowRow, drivers: Drivers, soundDrivers: readonly SoundDeviceDriver[]): Promise<ShowHost> {
    // A show that an older Bivoca has stored is brought up to date here, as an import is. One of this version opens as it is:
    // it came from commands, and nobody should be kept out of a show by a fault that does not stop it.
    const row = stored.show.version === SHOW_VERSION ? stored : { ...stored, show: readShow(stored.show) };
    const last = await db.airs.get(row.id);
    const { air, notices } = recoverAir(row, last?.air ?? null, stored.show.version);
    const now = Date.now();
    const epoch = row.epoch ?? now;
    const clock = new SharedClock();
    const after = frameToMicros((last?.savedFrame ?? 0) + 1, row.show.rate);
    clock.jumpTo(Math.max((now - epoch) * 1000, after) + PICTURE_DELAY_MICROS);
    await db.shows.update(row.id, { epoch, openedAt: now, openSince: now });
    const [sound, cutOff] = await Promise.all([SoundDesk.create(clock, soundDrivers), recoverRecordings(row.id)]);
    void navigator.storage.persist?.();
    void sweepExports();
    const host = new ShowHost(row.id, { show: row.show, air }, clock, sound, drivers, [...notices, ...cutOff], now);
    await host.asRun.closeStale(microsToFrame(clock.now(), row.show.rate), now);
    void sound.wake();
    return host;
  }

  get state(): HostState {
    return this.store.getState();
  }

  private set(change: Partial<HostState>): void {
    this.store.setState(change);
  }

  private toMixer(message: ToMixer, transfer: Transferable[] = []): void {
    this.mixer.postMessage(message, transfer);
  }

  private connectOutputs(): void {
    const pictures = new MessageChannel();
    const sounds = new MessageChannel();
    this.toMixer({ type: 'programme-port', key: 'encoder', port: pictures.port1, feed: 'programme', waiting: RECORDER_FRAMES }, [
      pictures.port1,
    ]);
    this.sound.tapTo(sounds.port1);
    this.outputs.connect(pictures.port2, sounds.port2);
  }

  /** Frames of the clean programme for the encoder, until the returned function is called. */
  private cleanFrames(): { port: MessagePort; end: () => void } {
    const { port1, port2 } = new MessageChannel();
    this.toMixer({ type: 'programme-port', key: 'encoder-clean', port: port1, feed: 'clean', waiting: RECORDER_FRAMES }, [port1]);
    return { port: port2, end: () => this.toMixer({ type: 'programme-gone', key: 'encoder-clean' }) };
  }

  /** The next frame that the mixer will draw. */
  private nextFrame(desk: Desk): number {
    return microsToFrame(this.clock.now() - PICTURE_DELAY_MICROS, desk.show.rate) + 1;
  }

  /** Runs a command from anywhere. Synchronous: on return, state and mixer have it. Never throws: a fault of a handler is a refusal too. */
  dispatch(command: Command): DispatchResult {
    try {
      return this.run(command);
    } catch (error) {
      console.error(error);
      return {
        ok: false,
        error: {
          code: 'fault',
          message: `${typeof command?.type === 'string' ? command.type.slice(0, 60) : 'This'} could not be done: ${causeOf(error)} Nothing was changed.`,
        },
      };
    }
  }

  private run(command: Command): DispatchResult {
    const { desk, history } = this.state;
    if (command?.type === 'history.undo' || command?.type === 'history.redo') return this.step(command.type, command.args?.anyway === true);
    const outcome = execute(desk, command, { frame: this.nextFrame(desk), newId: () => nanoid(12) });
    if (!outcome.ok) return outcome;
    const mergeKey = outcome.spec.mergeKey?.((command.args ?? {}) as never) ?? null;
    const key = mergeKey === null ? null : `${command.type} ${mergeKey}`;
    this.apply(
      outcome.desk,
      outcome.patches,
      remember(history, outcome.spec.title, outcome.patches, outcome.inverse, key, performance.now()),
    );
    return { ok: true, result: outcome.result };
  }

  private step(type: 'history.undo' | 'history.redo', anyway: boolean): DispatchResult {
    try {
      const done = (type === 'history.undo' ? undo : redo)(this.state.history, this.state.desk, anyway);
      this.apply(done.desk, done.patches, done.history);
      return { ok: true, result: { title: done.title } };
    } catch (error) {
      if (!(error instanceof CommandError)) throw error;
      return { ok: false, error: { code: error.code, message: error.message, ...(error.field !== undefined && { field: error.field }) } };
    }
  }

  private apply(desk: Desk, patches: Patch[], history: HostState['history']): void {
    if (patches.length === 0) return;
    const before = this.state.desk;
    // Air comes before the screen: whoever listens to the state may take its time.
    this.toMixer({ type: 'desk', show: forMixer(desk.show), air: desk.air });
    this.set({ desk, history });
    this.journal.save(desk, this.state.frame);
    if (desk.show.raster !== before.show.raster) this.setWorking(desk);
    this.drivers.reconcile(desk.show, desk.air);
    this.outputs.reconcile(desk);
    this.tracks.reconcile(desk);
    this.replay.reconcile(desk);
    this.remote.changed(patches);
  }

  /** Works in the show's raster, as far as the pace lets it. */
  private setWorking(desk: Desk): void {
    const before = this.state.working;
    const working = this.pace.format(desk);
    this.set({ working });
    this.toMixer({ type: 'working', working });
    if (before.raster.width !== working.raster.width || before.raster.height !== working.raster.height) this.drivers.resize(working.raster);
  }

  private fromMixer(message: FromMixer): void {
    switch (message.type) {
      case 'tick':
        this.tick(message.frame, message.stats);
        // The next one is sent when this one has been dealt with.
        return this.toMixer({ type: 'tick-taken' });
      case 'ready': {
        const { renderer, software, mixer } = message;
        return this.set({ renderer: { renderer, software, mixer } });
      }
      case 'source-seen':
        return this.set({ sizes: { ...this.state.sizes, [message.id]: { width: message.width, height: message.height } } });
      case 'thumbnail':
        return void db.shows.update(this.showId, { thumbnail: message.blob });
      case 'failed':
        return this.set({ failure: message.message });
    }
  }

  private tick(frame: number, mixer: HostState['mixer']): void {
    if (this.closed) return;
    const { desk } = this.state;
    this.set({ frame, mixer });
    this.sound.apply(desk.show, desk.air, frame);
    this.asRun.follow(desk.show, desk.air, frame);
    this.replay.tick(desk, frame);
    for (const listener of this.tickListeners) listener(frame);
    const now = performance.now();
    if (now - this.lastSample >= 1000) this.sample(now);
  }

  /** Calls `listener` at every mixed frame, outside React. */
  onTick(listener: (frame: number) => void): () => void {
    this.tickListeners.add(listener);
    return () => this.tickListeners.delete(listener);
  }

  private sample(now: number): void {
    this.lastSample = now;
    const { mixer, encoder, samples } = this.state;
    const sample: HealthSample = {
      at: Date.now(),
      drawMs: mixer.drawMs,
      dropped: mixer.dropped,
      late: mixer.late,
      recordingBitrate: encoder.recording?.bitrate ?? 0,
      streamBitrate: encoder.stream?.bitrate ?? 0,
    };
    this.set({ samples: [...samples.slice(-SAMPLE_LIMIT + 1), sample] });
    if (this.pace.second(mixer, this.state.desk, this.state.working.frameStep)) this.setWorking(this.state.desk);
    this.remote.tellStatus();
    if (samples.length % 10 === 5) this.toMixer({ type: 'thumbnail' });
    // The clock's mark moves on although nothing changed, so that time never goes back after a crash.
    if (samples.length % 5 === 0) void db.airs.update(this.showId, { savedFrame: this.state.frame });
  }

  /** What /api/status tells: figures, not documents. */
  remoteStatus(): Record<string, unknown> {
    const { frame, mixer, encoder, replay, health, renderer, working, space, soundAwake, failure } = this.state;
    return {
      frame,
      mixer,
      encoder,
      replay,
      health,
      renderer,
      working,
      space,
      soundAwake,
      failure,
      clockError: this.sound.clockError,
      sound: this.sound.store.getState(),
    };
  }

  private setHealth(id: string, health: SourceHealth): void {
    this.set({ health: { ...this.state.health, [id]: health } });
    this.reportLost(id, health);
    this.toMixer({ type: 'source-health', id, health });
  }

  /** Tells air which sources give no picture, so that a stinger that is lost is known before the take. */
  private reportLost(id: string, { state, cause }: SourceHealth): void {
    const now = state === 'lost' ? cause.slice(0, 300) || 'no picture' : '';
    if (state === 'waiting') return;
    // Not at once: drivers report in the middle of commands too.
    queueMicrotask(() => {
      const { show, air } = this.state.desk;
      if (!this.closed && show.sources.some((s) => s.id === id) && (air.lost[id] ?? '') !== now)
        this.dispatch({ type: 'source.report', args: { source: id, cause: now } });
    });
  }

  notify(tone: Notice['tone'], text: string): void {
    this.set({ notices: [...this.state.notices.slice(-9), { id: nanoid(), tone, text }] });
  }

  dismiss(id: string): void {
    this.set({ notices: this.state.notices.filter((n) => n.id !== id) });
  }

  /** Gives a canvas over to the mixer, which shows `picture` in it until the returned function is called. */
  attachMonitor(
    canvas: HTMLCanvasElement,
    picture: MonitorPicture,
  ): { resize: (width: number, height: number) => void; detach: () => void } {
    const key = nanoid();
    const offscreen = canvas.transferControlToOffscreen();
    this.toMixer({ type: 'monitor', key, canvas: offscreen, picture }, [offscreen]);
    return {
      resize: (width, height) => this.toMixer({ type: 'monitor-size', key, width, height }),
      detach: () => this.toMixer({ type: 'monitor-gone', key }),
    };
  }

  /** Programme frames for another window; the receiver closes each. */
  programmeFrames(receive: (frame: VideoFrame) => void, feed: Feed = 'programme'): () => void {
    const { port1, port2 } = new MessageChannel();
    const key = nanoid();
    takeFrames<{ frame: VideoFrame }>(port2, ({ frame }) => receive(frame));
    this.toMixer({ type: 'programme-port', key, port: port1, feed, waiting: WINDOW_FRAMES }, [port1]);
    // The mixer closes the port after its last frame: one on its way would stay open if it were closed here.
    return () => this.toMixer({ type: 'programme-gone', key });
  }

  async refreshSpace(): Promise<void> {
    this.set({ space: await storageSpace() });
  }

  /** Starts a lost source's driver anew. */
  restartSource(id: string): void {
    const { show, air } = this.state.desk;
    const source = show.sources.find((s) => s.id === id);
    if (source) this.drivers.restart(source, air);
  }

  /** Ends everything in order: outputs first, then sources, then the threads. */
  close(): Promise<void> {
    this.ending ??= this.end();
    return this.ending;
  }

  private async end(): Promise<void> {
    if (this.state.desk.air.recording) this.dispatch({ type: 'output.stopRecording' });
    if (this.state.desk.air.stream) this.dispatch({ type: 'output.stopStream' });
    const started = performance.now();
    while ((this.state.encoder.recording || this.state.encoder.stream) && performance.now() - started < 6000) {
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    await Promise.race([this.tracks.settled(), new Promise((resolve) => setTimeout(resolve, 4000))]);
    this.exports.close();
    await this.replay.close();
    this.closed = true;
    this.outputs.close();
    this.drivers.stopAll();
    this.remote.close();
    await this.journal.settled();
    // Whoever has taken the show over meanwhile has it open.
    await db.shows
      .where('id')
      .equals(this.showId)
      .modify((row) => {
        if (row.openSince === this.openedAt) row.openSince = null;
      });
    this.mixer.terminate();
    this.encoder.terminate();
    await this.sound.close();
  }
}
