/** The second make of a show client: the show runs in another window, perhaps on another machine, and is worked through the server. */
import { nanoid } from 'nanoid';
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type Command } from '#core/commands/command';
import { type Refusal } from '#core/desk/execute';
import { EMPTY_HISTORY, type Person } from '#core/desk/history';
import { ActLog } from '#core/log/act-log';
import { type Ask } from '#core/panels/asks';
import { type Copy, followed } from '#core/panels/copy';
import { foresee, type SentCommand, withSent } from '#core/panels/foresee';
import { type MeterOrder, unpackMeters } from '#core/panels/meters';
import { type Held } from '#core/panels/held';
import { BINARY } from '#core/panels/mosaic';
import { type Pass } from '#core/panels/pass';
import { refusedBy } from '#core/panels/rights';
import { type ToPanel } from '#core/panels/panel-messages';
import { workingFormat } from '#core/picture/capability';
import { framesPerSecond } from '#core/time/rate';
import {
  type FileUse,
  type AttachedMonitor,
  type DispatchAllResult,
  type DispatchResult,
  type AudienceState,
  type GuestsState,
  type PanelState,
  type ShowClient,
} from '../client/show-client';
import { firstState } from '../client/first-state';
import { quietAudience, quietExports, quietGuests, type QuietSound, quietWays } from '../client/quiet-parts';
import { type DeskState, type FrameState, type LiveState, type ShowState } from '../client/state';
import { withSample } from '../host/health-control';
import { type MonitorPicture, noStats } from '../picture/messages';
import { CrewTalk } from './crew-talk';
import { FrameGuess } from './frame-guess';
import { PanelAssets } from './panel-assets';
import { PanelLine } from './panel-line';
import { isPersonal, PanelListening } from './panel-listening';
import { upload } from './upload';
import { PanelPictures } from './panel-pictures';
import { type AskHost, AT_HOST, panelFiles, panelReplay, panelSound } from './panel-parts';

interface Step {
  title: string;
  by: Person | null;
}

export class PanelClient implements ShowClient {
  readonly store: StoreApi<ShowState>;
  readonly frames: StoreApi<FrameState>;
  readonly sound: QuietSound;
  readonly crew: CrewTalk;
  readonly guests = quietGuests();
  readonly ways = quietWays(AT_HOST);
  readonly audience = quietAudience();
  readonly replay: ShowClient['replay'];
  readonly exports = quietExports(AT_HOST);
  readonly files: ShowClient['files'];
  readonly passes = null;
  readonly log = new ActLog((tell) => void setTimeout(tell, 100));
  readonly devices = { midiPorts: () => Promise.resolve({ outputs: [], inputs: [] }) };
  private live: LiveState | null = null;
  private readonly listeners = new Set<(frame: number) => void>();
  private readonly timer: ReturnType<typeof setInterval>;

  constructor(
    readonly showId: string,
    readonly panel: StoreApi<PanelState>,
    private readonly link: PanelLink,
    copy: Copy,
  ) {
    this.sound = panelSound(link.listening);
    this.crew = link.crew;
    const ask: AskHost = (what) => this.link.ask(what);
    this.replay = panelReplay(ask);
    this.files = panelFiles(ask, (file, use) => this.link.upload(file, use));
    this.store = createStore<ShowState>(() => ({
      ...firstState(copy, workingFormat(copy.show.raster, framesPerSecond(copy.show.rate), 0, '')),
      remote: true,
    }));
    this.frames = createStore<FrameState>(() => ({ frame: copy.frame, mixer: noStats() }));
    this.timer = setInterval(() => this.beat(), 1000 / framesPerSecond(copy.show.rate));
  }

  get state(): LiveState {
    return (this.live ??= { ...this.store.getState(), ...this.frames.getState() });
  }

  /** What is seen from now on. */
  show(desk: { show: Copy['show']; air: Copy['air'] }): void {
    const before = this.store.getState().desk;
    const own = this.link.listening.own(desk);
    if (before !== own) this.set({ desk: own });
  }

  /** What others have in hand. */
  held(held: readonly Held[]): void {
    this.set({ held });
  }

  /** The host's figures. */
  told(status: Record<string, unknown>): void {
    const { sound, mixer, undo, guests, audience, ...rest } = status as Partial<ShowState> & {
      guests?: GuestsState;
      audience?: AudienceState;
      sound?: DeskState;
      mixer?: FrameState['mixer'];
      undo?: { past: Step | null; future: Step | null };
    };
    if (sound) this.sound.store.setState(sound);
    if (guests) this.guests.store.setState(guests);
    if (audience) this.audience.store.setState(audience);
    if (mixer) this.frames.setState({ mixer });
    const step = (of: Step | null | undefined) => (of ? [{ ...of, forward: [], inverse: [], mergeKey: null, at: 0 }] : []);
    const known = Object.fromEntries(Object.entries(rest).filter(([name]) => name !== 'desk' && name in this.store.getState()));
    const { encoder, samples } = { ...this.store.getState(), ...(known as Partial<ShowState>) };
    if (mixer) this.set({ samples: withSample(samples, mixer, encoder) });
    this.set({ ...(known as Partial<ShowState>), history: undo ? { past: step(undo.past), future: step(undo.future) } : EMPTY_HISTORY });
  }

  notify(text: string, anyway?: Command): void {
    const notice = { id: nanoid(), tone: 'caution' as const, text, ...(anyway && { anyway }) };
    this.set({ notices: [...this.store.getState().notices.slice(-9), notice] });
  }

  private set(change: Partial<ShowState>): void {
    this.live = null;
    this.store.setState(change);
  }

  private beat(): void {
    const frame = this.link.frame();
    if (frame === this.frames.getState().frame) return;
    this.live = null;
    this.frames.setState({ frame });
    for (const listener of this.listeners) listener(frame);
  }

  dispatch(command: Command): DispatchResult {
    const done = this.dispatchAll([command]);
    return done.ok ? { ok: true, result: done.results[0] ?? {} } : done;
  }

  dispatchAll(commands: readonly Command[], gesture?: string): DispatchAllResult {
    return this.link.send(commands, gesture);
  }

  onTick(listener: (frame: number) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  attachMonitor(canvas: HTMLCanvasElement, picture: MonitorPicture): AttachedMonitor {
    return this.link.pictures.attach(canvas, picture);
  }

  pressSource(): void {
    this.notify('A source that needs a press is opened at the window that runs the show.');
  }

  restartSource(): void {
    this.notify('A source is opened anew at the window that runs the show.');
  }

  dismiss(id: string): void {
    this.set({ notices: this.store.getState().notices.filter((n) => n.id !== id) });
  }

  close(): void {
    clearInterval(this.timer);
  }
}

/** The line of a panel, the copy that it keeps, and the client once there is something to show. */
export class PanelLink {
  readonly panel = createStore<PanelState>(() => ({ line: 'opening', message: '', pass: null, sent: 0, upload: null }));
  readonly pictures = new PanelPictures(
    (tiles) => this.line.send({ kind: 'pictures', tiles }),
    () => this.line.send({ kind: 'key' }),
  );
  readonly listening = new PanelListening((ears) => void this.line.send({ kind: 'listen', ears }));
  readonly crew = new CrewTalk(
    { talk: (to) => this.line.send({ kind: 'talk', to }), bytes: (bytes) => this.line.sendBytes(bytes) },
    (heard) => this.listening.setUnder(heard),
  );
  private readonly line: PanelLine;
  private client: PanelClient | null = null;
  private copy: Copy | null = null;
  private session = '';
  private sent: SentCommand[] = [];
  /** Commands that have come back as changes: they are seen, and wait for their answer only. */
  private readonly arrived = new Set<string>();
  private keys = 0;
  private nextId = 0;
  private readonly assets = new PanelAssets((ask) => this.ask(ask));
  private readonly asks = new Map<string, (value: unknown) => void>();
  private readonly guess = new FrameGuess();
  private order: MeterOrder = { version: -1, ids: [] };

  /** `opened` is called once, with the first state. */
  constructor(
    private readonly showId: string | null,
    private readonly secret: string,
    private readonly opened: (client: PanelClient) => void,
  ) {
    this.line = new PanelLine(showId, secret, {
      message: (message) => this.hear(message),
      bytes: (bytes) => this.take(bytes),
      lost: (why) => this.away('lost', why),
      refused: (message) => this.away('refused', message),
    });
  }

  private take(bytes: Uint8Array): void {
    if (bytes[0] === BINARY.meters) this.levels(bytes);
    else if (bytes[0] === BINARY.sound) this.listening.packet(bytes);
    else if (bytes[0] === BINARY.talk) this.crew.hear(bytes);
    else this.pictures.piece(bytes);
  }

  private away(line: PanelState['line'], message: string): void {
    this.crew.away();
    this.panel.setState({ line, message });
    this.forgetSent();
  }

  /** What was not answered may have been done or not: nobody can say. */
  private forgetSent(): void {
    if (this.sent.length > 0)
      this.client?.notify(
        `${this.sent.length === 1 ? 'One press was' : `${this.sent.length} presses were`} not answered: look whether it was done.`,
      );
    this.sent = [];
    this.arrived.clear();
    for (const resolve of this.asks.values()) resolve(null);
    this.asks.clear();
    this.seen();
  }

  private seen(): void {
    if (this.panel.getState().sent !== this.sent.length) this.panel.setState({ sent: this.sent.length });
    const left = this.sent.filter((s) => !this.arrived.has(s.key));
    if (this.copy) this.client?.show(withSent(this.copy, left, this.frame()));
  }

  private hear(message: ToPanel): void {
    switch (message.kind) {
      case 'entered':
        if (message.session !== this.session) {
          this.session = message.session;
          this.nextId = 0;
          this.forgetSent();
        }
        this.copy = null;
        this.pictures.again();
        this.listening.again();
        return this.panel.setState({ pass: message.pass });
      case 'waiting':
        return this.away('away', 'No window runs the show now. What is seen here stands still until one does.');
      case 'answer': {
        const [done] = this.sent.filter((s) => s.key === message.key);
        this.sent = this.sent.filter((s) => s !== done);
        this.arrived.delete(message.key);
        if (!message.outcome.ok) this.client?.notify(message.outcome.error.message, this.again(message.outcome.error, done));
        return this.seen();
      }
      case 'told': {
        const resolve = this.asks.get(message.key);
        this.asks.delete(message.key);
        return resolve?.(message.answer.ok ? message.answer.value : null);
      }
      case 'ears':
        return this.listening.told(message.number, message.why);
      case 'crew':
        return this.crew.members(message.list, message.you);
      case 'held':
        return this.client?.held(message.list);
      case 'meters':
        this.order = message.order;
        return undefined;
      case 'mosaic':
        return this.pictures.setLayout(message.layout);
      case 'status':
        this.guess.told(message.frame);
        return this.client?.told(message.status);
      case 'state':
      case 'patches':
        return this.follow(message);
      default:
        return undefined;
    }
  }

  /** The command that does it all the same, where the refusal only asks and the pass is for it. */
  private again({ code }: Refusal, sent: SentCommand | undefined): Command | undefined {
    const [command] = sent?.commands ?? [];
    const { pass } = this.panel.getState();
    const again = command && { ...command, args: { ...command.args, anyway: true } };
    return code === 'anothers' && again && pass && !refusedBy(pass, [again]) ? again : undefined;
  }

  private follow(message: Extract<ToPanel, { kind: 'state' | 'patches' }>): void {
    this.guess.told(message.frame);
    const { copy, changed, missed } = followed(this.copy, message);
    if (missed) this.line.send({ kind: 'snapshot' });
    if (!changed || !copy) return;
    this.copy = copy;
    this.assets.follow(copy.show);
    if (message.kind === 'patches' && message.of !== undefined) this.arrived.add(message.of);
    if (!this.client) {
      this.client = new PanelClient(this.showId ?? copy.show.id, this.panel, this, copy);
      this.opened(this.client);
    }
    if (message.kind === 'state') {
      this.panel.setState({ line: 'open', message: '' });
      this.client.told(message.status);
    }
    this.seen();
  }

  /** Asks the host for something; null where it may not be asked, or does not answer. */
  ask(ask: Ask): Promise<unknown> {
    this.keys += 1;
    const key = `${this.session}-a${this.keys}`;
    return new Promise((resolve) => {
      if (!this.line.send({ kind: 'ask', key, ask })) return resolve(null);
      this.asks.set(key, resolve);
      return undefined;
    });
  }

  /** Sends a file to the show; how far it has got stands in the panel's state. @throws Error in words for people */
  async upload(file: File, use?: FileUse): Promise<Record<string, unknown>> {
    const tell = (share: number) => this.panel.setState({ upload: { name: file.name, share } });
    tell(0);
    try {
      return await upload(file, use, { showId: this.showId ?? this.copy?.show.id ?? '', secret: this.secret }, tell);
    } finally {
      this.panel.setState({ upload: null });
    }
  }

  private levels(bytes: Uint8Array): void {
    const levels = unpackMeters(bytes, this.order, performance.now() / 1000);
    if (!levels || !this.client) return;
    const { readings } = this.client.sound;
    for (const id of readings.keys()) if (!levels.has(id)) readings.delete(id);
    for (const [id, sides] of levels) readings.set(id, sides);
  }

  /** The frame that is on air now, as far as can be told: it goes on between what is told. */
  frame(): number {
    return this.copy ? this.guess.now(this.copy.show.rate, this.panel.getState().line === 'open') : 0;
  }

  /** Sends commands as one step. What can be known here is answered at once; what the host says otherwise is told when it does. */
  send(commands: readonly Command[], gesture?: string): DispatchAllResult {
    const { pass, line, message } = this.panel.getState();
    if (line !== 'open' || !pass || !this.copy)
      return { ok: false, error: { code: 'failed', message: message || 'The show is not there yet: nothing was sent.' } };
    // One's own ears are nobody else's: nothing is sent.
    const [own, others] = [commands.filter(isPersonal), commands.filter((c) => !isPersonal(c))];
    for (const command of own) {
      const heard = this.listening.do(this.copy, command);
      if (!heard.ok) return heard;
    }
    if (own.length > 0) this.seen();
    if (others.length === 0) return { ok: true, results: own.map(() => ({})) };
    return this.sendAll(others, pass, gesture);
  }

  private sendAll(commands: readonly Command[], pass: Pass, gesture?: string): DispatchAllResult {
    if (!this.copy) return { ok: false, error: { code: 'failed', message: 'The show is not there yet: nothing was sent.' } };
    const refused = refusedBy(pass, commands);
    if (refused) return { ok: false, error: refused };
    const key = `${this.session}-k${this.keys}`;
    const shown = withSent(
      this.copy,
      this.sent.filter((s) => !this.arrived.has(s.key)),
      this.frame(),
    );
    const done = foresee(shown, commands, { session: this.session, key, frame: this.frame(), nextId: this.nextId });
    if (!done.ok) return done;
    const { ids } = done.sent;
    if (!this.line.send({ kind: 'command', key, commands: [...commands], ids: [...ids], ...(gesture !== undefined && { gesture }) }))
      return { ok: false, error: { code: 'failed', message: 'The server does not answer: nothing was sent.' } };
    this.keys += 1;
    this.nextId = done.nextId;
    this.sent = [...this.sent, done.sent];
    this.panel.setState({ sent: this.sent.length });
    this.client?.show(done.desk);
    return { ok: true, results: done.results };
  }

  close(): void {
    this.line.close();
    this.pictures.close();
    this.listening.close();
    this.crew.close();
    this.client?.close();
  }
}
