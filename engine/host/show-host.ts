/** Runs one show in this window: the only place where show and air change. It puts together what follows them. */
import { type Patch } from 'immer';
import { nanoid } from 'nanoid';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type Command } from '#core/commands/command';
import { type Desk } from '#core/desk/air';
import { readShow } from '#core/desk/migrate';
import { findCommand } from '#core/desk/registry';
import { resumeMicros } from '#core/desk/resume';
import { perform, type Sent } from '#core/desk/session';
import { SHOW_VERSION } from '#core/desk/version';
import { ActLog } from '#core/log/act-log';
import { logActs } from '#core/log/log-acts';
import { Holds } from '#core/panels/held';
import { type FromPass } from '#core/panels/messages';
import { HOST_CREW } from '#core/panels/sound-line';
import { causeOf } from '#core/schema/cause';
import { findOutput, PROGRAMME_OUTPUT } from '#core/screens/outputs';
import { Ahead } from '#core/time/ahead';
import { microsToFrame } from '#core/time/rate';
import { type OutsideDrivers } from '../capture/driver';
import { type AttachedMonitor, type DispatchAllResult, type DispatchResult, type ShowClient, type ShowFiles } from '../client/show-client';
import { firstState } from '../client/first-state';
import { type FrameState, type LiveState, type Notice, type ShowState } from '../client/state';
import { CrewTalk } from '../panels/crew-talk';
import { OutputBroker } from '../panels/output-broker';
import { type MonitorPicture, noStats } from '../picture/messages';
import { type SoundDeviceDriver } from '../sound/device-driver';
import { SoundDesk } from '../sound/sound-desk';
import { changeShowRow, db, type ShowRow } from '../storage/db';
import { PICTURE_DELAY_MICROS } from '../time/delays';
import { FramePulse } from '../time/frame-pulse';
import { SharedClock } from '../time/shared-clock';
import { AsRunLog } from './as-run-log';
import { answerAsk } from './answer-ask';
import { AutomationControl } from './automation-control';
import { DeviceControl } from './device-control';
import { EarsControl } from './ears-control';
import { type Follower, type HostAccess } from './follower';
import { GraphicsControl } from './graphics-control';
import { HealthControl } from './health-control';
import { hostFigures } from './host-figures';
import { HostRemote } from './host-remote';
import { Journal } from './journal';
import { MeterControl } from './meter-control';
import { MixerPort } from './mixer-port';
import { MosaicControl } from './mosaic-control';
import { OutputControl } from './output-control';
import { PanelIds } from './panel-ids';
import { PassControl } from './pass-control';
import { PaceControl } from './pace-control';
import { recoverAir, recoverRecordings } from './recovery';
import { ReplayControl } from './replay-control';
import { ReplayExport, sweepExports } from './replay-export';
import { SheetControl } from './sheet-control';
import { showFiles } from './show-files';
import { followSound } from './sound-events';
import { SourceDrivers } from './source-drivers';
import { ToldControl } from './told-control';
import { TrackControl } from './track-control';
import { Visitors } from './visitors';

/** The hand at this window, for those elsewhere. */
const HOST_HAND = { id: HOST_CREW.id, name: 'Show window' };
/** How long lines of the log are gathered before they are told, milliseconds. */
const LOG_TELLS_MS = 100;

export class ShowHost implements ShowClient {
  readonly store: StoreApi<ShowState>;
  readonly frames: StoreApi<FrameState>;
  readonly replay: ReplayControl;
  readonly exports: ReplayExport;
  readonly files: ShowFiles;
  private readonly mixer: MixerPort;
  private readonly drivers: SourceDrivers;
  private readonly journal: Journal;
  private readonly asRun: AsRunLog;
  private readonly remote: HostRemote;
  private readonly pace = new PaceControl();
  private readonly health: HealthControl;
  readonly log = new ActLog((tell) => void setTimeout(tell, LOG_TELLS_MS));
  readonly devices: DeviceControl;
  readonly panel = null;
  readonly passes: PassControl;
  readonly crew: CrewTalk;
  private readonly visitors: Visitors;
  private readonly holds = new Holds();
  private readonly mosaic: MosaicControl;
  private readonly panelIds = new PanelIds();
  private readonly graphics: GraphicsControl;
  /** In the order in which they are told and closed. */
  private readonly followers: readonly Follower[];
  private closed = false;
  private ending: Promise<void> | null = null;
  private live: LiveState | null = null;
  /** What counts only from a later frame on, and what is heard until then. */
  private readonly ahead = new Ahead<Desk>();
  private heard: Desk;
  private readonly tickListeners = new Set<(frame: number) => void>();
  private readonly pulse: FramePulse;
  /** When notices are over, by their identity. */
  private readonly overWhen = new Map<string, (desk: Desk) => boolean>();

  private constructor(
    readonly showId: string,
    desk: Desk,
    private readonly clock: SharedClock,
    readonly sound: SoundDesk,
    drivers: OutsideDrivers,
    notices: string[],
    /** Wall time of this opening, as the show's row has it. */
    private readonly openedAt: number,
  ) {
    this.heard = desk;
    const working = this.pace.format(desk);
    this.store = createStore<ShowState>(() => ({
      ...firstState(desk, working),
      soundAwake: sound.awake,
      notices: notices.map((text) => ({ id: nanoid(), tone: 'caution' as const, text })),
    }));
    this.store.subscribe(({ desk }, before) => void (desk !== before.desk && this.settleNotices(desk)));
    this.frames = createStore<FrameState>(() => ({ frame: this.nextFrame(desk), mixer: noStats() }));
    this.mixer = new MixerPort(new Worker(new URL('../picture/mixer.worker.ts', import.meta.url), { type: 'module' }), {
      tick: (frame, mixer) => this.tick(frame, mixer),
      ready: (renderer) => this.set({ renderer }),
      seen: (id, size) => this.set({ sizes: { ...this.state.sizes, [id]: size } }),
      thumbnail: (thumbnail) => void changeShowRow(showId, { thumbnail }),
      failed: (failure) => this.set({ failure }),
      paintFailed: (message) => this.graphics.failed(message),
      graphicsDead: () => this.graphics.restart(),
    });
    this.mixer.start(desk, clock.memory, working);
    const access: HostAccess = {
      state: () => this.state,
      command: (command) => (this.closed ? null : this.dispatch(command)),
      commandsAt: (commands, frame, gesture) => (this.closed ? null : this.dispatchAll(commands, gesture, { frame })),
      notify: (tone, text, over) => this.notify(tone, text, over),
      set: (change) => this.set(change),
      mixer: this.mixer,
    };
    const format = { clock: clock.memory, rate: desk.show.rate, frameStep: 1, working: working.raster };
    const sheets = new SheetControl(showId, access);
    this.files = showFiles(showId, sheets, () => this.state.desk.show);
    this.journal = new Journal(showId, (message) => this.notify('trouble', `The show cannot be saved: ${message}`));
    this.asRun = new AsRunLog(showId);
    this.replay = new ReplayControl(showId, format, sound, access);
    this.exports = new ReplayExport(showId, desk.show.rate, {
      closeSegments: () => this.replay.closeSegments(),
      runs: () => this.state.replay?.runs ?? {},
    });
    this.visitors = new Visitors(showId, access, sound, {
      remote: () => this.remote,
      programme: (receive) => this.outputFrames(receive),
      keepPicture: async (file) => (await this.files.keep(file, 'image')).assetId,
    });
    const { guests, audience, ways, peers } = this.visitors;
    this.drivers = new SourceDrivers(
      { ...drivers, deck: this.replay.deckDriver, guest: guests.driver, encoder: peers.driver },
      format,
      sound,
      access,
    );
    const tracks = new TrackControl(showId, sound, access);
    const encoder = new Worker(new URL('../output/encoder.worker.ts', import.meta.url), { type: 'module' });
    const outputs = new OutputControl(encoder, sound, access, () => tracks.byteRate);
    this.mosaic = new MosaicControl(this.mixer, {
      layout: (layout) => this.remote.tellMosaic(layout),
      piece: (piece) => this.remote.sendBytes(piece),
    });
    const meters = new MeterControl(sound.readings, {
      order: (order) => this.remote.tellMeters(order),
      bytes: (bytes) => this.remote.sendBytes(bytes),
    });
    const ears = new EarsControl(sound, (bytes) => this.remote.sendBytes(bytes));
    this.crew = new CrewTalk({ talk: (to) => this.remote.tellTalk(to), bytes: (bytes) => this.remote.sendBytes(bytes) }, (heard) =>
      sound.setUnder(heard),
    );
    this.passes = new PassControl(showId, () => this.remote.tellPasses());
    this.remote = new HostRemote(showId, {
      desk: () => this.state.desk,
      frame: () => this.state.frame,
      status: () => hostFigures(this.state, this.sound, guests.store.getState(), audience.store.getState()),
      command: (command, from) => this.fromRemote(command, from),
      passes: () => this.passes.told,
      people: (list) => {
        this.passes.setPeople(list);
        meters.people(list.length);
      },
      pictures: (tiles) => this.mosaic.want(tiles),
      listen: (choices) => ears.want(choices),
      crew: (list) => (list.length > 0 ? this.crew.members(list, HOST_CREW.number) : this.crew.away()),
      said: (bytes) => this.crew.hear(bytes),
      ways: () => ways.told,
      ...this.visitors.answers,
      ask: (ask) => answerAsk(ask, { replay: this.replay, files: this.files, show: () => this.state.desk.show, peers }),
      saved: () => this.journal.settled(),
      connected: (remote) => {
        this.set({ remote });
        if (remote) audience.connected();
      },
    });
    this.graphics = new GraphicsControl(access);
    this.devices = new DeviceControl(access, this.log);
    const broker = new OutputBroker(showId, access);
    this.health = new HealthControl(showId, access, {
      stepped: () => this.setWorking(this.state.desk),
      told: () => this.remote.tellStatus(),
      pace: this.pace,
    });
    // Sources first, as the others may want what they send. They end in this order too: what is recorded, before what it is recorded from.
    this.followers = [
      this.drivers,
      outputs,
      tracks,
      this.exports,
      this.replay,
      this.asRun,
      broker,
      this.graphics,
      sheets,
      new ToldControl(access, { readings: sound.readings, now: () => performance.now() }),
      new AutomationControl(access),
      this.devices,
      this.health,
      meters,
      ears,
      this.crew,
      ...this.visitors.followers,
      this.remote,
      this.journal,
    ];
    this.pulse = new FramePulse(
      () => this.nextFrame(this.state.desk) - 1,
      (frame) => {
        this.heard = this.ahead.at(frame) ?? this.heard;
        sound.apply(this.heard.show, this.heard.air, frame);
      },
    );
    for (const follower of this.followers) follower.follow?.(desk);
    followSound(sound, access, { closed: () => this.closed, beat: () => !this.closed && this.pulse.beat() });
    sound.context.onstatechange = () => this.set({ soundAwake: sound.awake });
  }

  /** Opens a stored show and starts it, as it was when it was left. `reloaded`: this page has just left it, which is no interruption. */
  static async open(
    stored: ShowRow,
    drivers: OutsideDrivers,
    soundDrivers: readonly SoundDeviceDriver[],
    reloaded = false,
  ): Promise<ShowHost> {
    // A show that an older Bivoca has stored is brought up to date here, as an import is. One of this version opens as it is:
    // it came from commands, and nobody should be kept out of a show by a fault that does not stop it.
    const row = stored.show.version === SHOW_VERSION ? stored : { ...stored, show: readShow(stored.show) };
    const last = await db.airs.get(row.id);
    const { air, notices } = recoverAir(reloaded ? { ...row, openSince: null } : row, last?.air ?? null, stored.show.version);
    const now = Date.now();
    const epoch = row.epoch ?? now;
    const clock = new SharedClock();
    clock.jumpTo(resumeMicros(epoch, last?.savedFrame ?? 0, now, row.show.rate) + PICTURE_DELAY_MICROS);
    await db.shows.update(row.id, { epoch, openedAt: now, openSince: now });
    const [sound, cutOff] = await Promise.all([SoundDesk.create(clock, soundDrivers), recoverRecordings(row.id)]);
    void navigator.storage.persist?.();
    void sweepExports();
    const host = new ShowHost(row.id, { show: row.show, air }, clock, sound, drivers, [...notices, ...cutOff], now);
    await host.asRun.closeStale(microsToFrame(clock.now(), row.show.rate), now);
    void sound.wake();
    return host;
  }

  get guests(): Visitors['guests'] {
    return this.visitors.guests;
  }

  get audience(): Visitors['audience'] {
    return this.visitors.audience;
  }

  get ways(): Visitors['ways'] {
    return this.visitors.ways;
  }

  get state(): LiveState {
    return (this.live ??= { ...this.store.getState(), ...this.frames.getState() });
  }

  private set(change: Partial<ShowState>): void {
    this.live = null;
    this.store.setState(change);
  }

  /** The next frame that the mixer will draw. */
  private nextFrame(desk: Desk): number {
    return microsToFrame(this.clock.now() - PICTURE_DELAY_MICROS, desk.show.rate) + 1;
  }

  /** Runs a command from anywhere. Synchronous: on return, state and mixer have it. Never throws: a fault of a handler is a refusal too. */
  dispatch(command: Command): DispatchResult {
    const done = this.dispatchAll([command]);
    return done.ok ? { ok: true, result: done.results[0] ?? {} } : done;
  }

  /**
   * Runs several commands as one step: one change, one post to the mixer, one undo; all or none. Those of a macro say the frame from which they
   * count; what people do counts at once.
   */
  dispatchAll(
    commands: readonly Command[],
    gesture?: string,
    { frame: at, elsewhere = false, from }: { frame?: number; elsewhere?: boolean; from?: FromPass | undefined } = {},
  ) {
    const sent = { at: performance.now(), gesture, elsewhere, byMacro: at !== undefined, by: from?.by };
    return this.run(commands, sent, at, from);
  }

  private run(commands: readonly Command[], sent: Sent, at: number | undefined, from?: FromPass): DispatchAllResult {
    try {
      const { desk, history } = this.state;
      const next = this.nextFrame(desk);
      // What was sent ahead already is in the desk that this builds on: before it, this would bring it along too early.
      const frame = at === undefined ? next : Math.max(next, at, this.ahead.until ?? next);
      const context = { frame, newId: this.panelIds.maker(from) };
      const performed = perform({ desk, history }, commands, context, sent);
      if (!performed.ok) return performed;
      logActs(this.log, commands, performed.session.desk, context.frame, sent);
      if (at === undefined) this.holds.touch(commands, from?.by ?? HOST_HAND, sent.at);
      this.apply(
        performed.session.desk,
        performed.patches,
        performed.session.history,
        this.countsFrom(commands, next, context.frame),
        at ?? null,
        from,
      );
      return { ok: true, results: performed.results };
    } catch (error) {
      console.error(error);
      const type: unknown = commands[0]?.type;
      const what = typeof type === 'string' ? type.slice(0, 60) : 'This';
      return { ok: false, error: { code: 'fault', message: `${what} could not be done: ${causeOf(error)} Nothing was changed.` } };
    }
  }

  /**
   * The frame from which an act counts, where that is later than the next. What people do counts at once, and takes along what a macro has sent
   * ahead; what the engine tells, or what comes from outside, waits for that: a step must not be seen early because a sheet was read.
   */
  private countsFrom(commands: readonly Command[], next: number, frame: number): number | null {
    const told = commands.every(({ type }) => {
      const spec = findCommand(type);
      return spec?.fromEngine === true || spec?.outside === true;
    });
    const from = told ? Math.max(frame, this.ahead.until ?? 0) : frame;
    return from > next ? from : null;
  }

  /** One command, or a list of them as one step; `from` says with which pass. */
  private fromRemote(raw: unknown, from?: FromPass): DispatchResult {
    const several = Array.isArray(raw);
    const commands = several ? (raw as Command[]) : [(raw ?? {}) as Command];
    const done = this.dispatchAll(commands, from?.gesture, { elsewhere: true, from });
    if (!done.ok) return done;
    return { ok: true, result: several ? { results: done.results } : (done.results[0] ?? {}) };
  }

  /**
   * `since` is the frame from which it counts, where that is later than the next; `wanted` the one on which it should, so that the mixer can
   * tell when it comes late.
   */
  private apply(
    desk: Desk,
    patches: Patch[],
    history: ShowState['history'],
    since: number | null,
    wanted: number | null,
    from?: FromPass,
  ): void {
    if (patches.length === 0) return;
    const before = this.state.desk;
    // Air comes before the screen: whoever listens to the state may take its time.
    this.mixer.setDesk(desk, since ?? wanted);
    this.heard = this.ahead.push(desk, since) ?? this.heard;
    this.set({ desk, history });
    this.journal.save(desk, this.state.frame);
    if (desk.show.raster !== before.show.raster) this.setWorking(desk);
    for (const follower of this.followers) follower.follow?.(desk, from?.by);
    this.remote.changed(patches, from?.key);
  }

  /** Works in the show's raster, as far as the pace lets it. */
  private setWorking(desk: Desk): void {
    const before = this.state.working;
    const working = this.pace.format(desk);
    this.set({ working });
    this.mixer.send({ type: 'working', working });
    if (before.raster.width !== working.raster.width || before.raster.height !== working.raster.height) this.drivers.resize(working.raster);
  }

  private tick(frame: number, mixer: FrameState['mixer']): void {
    if (this.closed) return;
    this.live = null;
    this.frames.setState({ frame, mixer });
    this.pulse.mixed(frame);
    const { desk } = this.state;
    for (const follower of this.followers) follower.tick?.(desk, frame);
    for (const listener of this.tickListeners) listener(frame);
    const held = this.holds.changed(performance.now());
    if (!held) return;
    this.set({ held });
    this.remote.tellHeld(held);
  }

  onTick(listener: (frame: number) => void): () => void {
    this.tickListeners.add(listener);
    return () => this.tickListeners.delete(listener);
  }

  notify(tone: Notice['tone'], text: string, over?: (desk: Desk) => boolean): void {
    const id = nanoid();
    if (over) this.overWhen.set(id, over);
    this.set({ notices: [...this.state.notices.slice(-9), { id, tone, text }] });
  }

  /** Takes away what is over. */
  private settleNotices(desk: Desk): void {
    for (const [id, over] of this.overWhen) if (over(desk)) this.dismiss(id);
  }

  dismiss(id: string): void {
    this.overWhen.delete(id);
    this.set({ notices: this.state.notices.filter((n) => n.id !== id) });
  }

  attachMonitor(canvas: HTMLCanvasElement, picture: MonitorPicture): AttachedMonitor {
    return this.mixer.attachMonitor(canvas, picture);
  }

  /** Frames of an output in this window; the receiver closes each. Returns how to end it. */
  outputFrames(receive: (frame: VideoFrame) => void, outputId = PROGRAMME_OUTPUT): () => void {
    const output = findOutput(this.state.desk.show, outputId);
    return output ? this.mixer.takeOutput(output, receive) : () => undefined;
  }

  pressSource(id: string): void {
    this.drivers.press(id);
  }

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
    // Sources go on until everything that records them has ended.
    const [sources, ...others] = this.followers;
    for (const follower of others) await follower.close?.();
    this.closed = true;
    await sources?.close?.();
    // Whoever has taken the show over meanwhile has it open.
    await db.shows
      .where('id')
      .equals(this.showId)
      .modify((row) => {
        if (row.openSince === this.openedAt) row.openSince = null;
      });
    this.mixer.close();
    await this.sound.close();
  }
}
