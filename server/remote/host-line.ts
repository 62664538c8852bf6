/** The line to one host window: commands to it and their answers, its state kept up to date by its patches. */
import { type WebSocket } from 'ws';
import {
  type Change,
  type Connected,
  type FromHost,
  type FromPass,
  type HostOutcome,
  type ShowName,
  type Snapshot,
  type ToHost,
} from '#core/panels/messages';
import { type ErrorCode } from '#core/commands/codes';
import { followed } from '#core/panels/copy';
import { isRecord } from '#core/schema/record';
import { type Ask, type AskAnswer, type ServerAsk } from '#core/panels/asks';
import { type MeterOrder } from '#core/panels/meters';
import { type MosaicLayout, type WantedTile } from '#core/panels/mosaic';
import { type Held } from '#core/panels/held';
import { MOST_PASSES, passFrom, type PassHash } from '#core/panels/pass';
import { type AudienceBatch, type AudienceSetUp, setUpFrom, type ToVisitor } from '#core/audience/line';
import { type GuestSays, type HostSays } from '#core/guests/line';
import { MOST_WAYS, wayFrom, type WayIn } from '#core/panels/way-in';
import { type CrewMember, type Ears, talkFrom } from '#core/panels/sound-line';
import { PartReader } from '#core/panels/parts';

const ANSWER_MS = 8000;
/** What takes longer: a file is read and looked at. */
const ASK_MS: Readonly<Record<string, number>> = { 'take-file': 180_000, windows: 60_000, areas: 60_000 };
/** Commands that may wait for their answers. */
const WAITING_LIMIT = 500;
/** Characters of one message of a host at most: a document of several hundred thousand clips. */
const MESSAGE_LIMIT = 256_000_000;

/** No host window, not this one, or it did not answer. */
export class NoHostError extends Error {
  constructor(
    readonly status: 404 | 409 | 503 | 504,
    readonly code: ErrorCode,
    message: string,
    readonly shows?: ShowName[],
  ) {
    super(message);
  }
}

interface Waiting {
  resolve: (outcome: HostOutcome) => void;
  reject: (error: Error) => void;
  timer: NodeJS.Timeout;
}

/** Somebody who wants something of the host once. */
interface Wanted {
  resolve: (value: Snapshot | Record<string, unknown>) => void;
  reject: (error: Error) => void;
  timer: NodeJS.Timeout;
}

/** What a host line tells its relay. */
export interface HostListener {
  /** It has said which show it runs. */
  named: (line: HostLine) => void;
  told: (line: HostLine, message: Snapshot | Change | Extract<FromHost, { kind: 'status' }>) => void;
  closed: (line: HostLine) => void;
  /** Its passes are others now. */
  passes: (line: HostLine) => void;
  /** Pictures or meters for panels. */
  bytes: (line: HostLine, bytes: Buffer) => void;
  mosaic: (line: HostLine) => void;
  meters: (line: HostLine) => void;
  /** It speaks to the crew, or ends. */
  talk: (line: HostLine) => void;
  /** What is in somebody's hand has changed. */
  held: (line: HostLine) => void;
  /** Its ways in are others now. */
  ways: (line: HostLine) => void;
  /** The page of its audience is another now. */
  audience: (line: HostLine) => void;
  toSender: (line: HostLine, from: string, message: ToVisitor) => void;
  wantPicture: (line: HostLine, from: string) => void;
  toGuest: (line: HostLine, session: string, message: HostSays) => void;
  guestOut: (line: HostLine, id: string) => void;
}

export class HostLine {
  show: ShowName | null = null;
  private state: Snapshot | null = null;
  /** The passes of its show; null until it has told them. */
  passes: readonly PassHash[] | null = null;
  /** Where pictures for panels stand now. */
  mosaic: MosaicLayout | null = null;
  /** Whose levels come. */
  meters: MeterOrder | null = null;
  /** What is in somebody's hand. */
  held: readonly Held[] = [];
  /** Ways in by a link; null until it has told them. */
  ways: readonly WayIn[] | null = null;
  /** The page of its audience; null until it has told it. */
  audience: AudienceSetUp | null = null;
  /** Whom the window speaks to now. */
  talkTo: string | null = null;
  private readonly waiting = new Map<number, Waiting>();
  private readonly asks = new Map<number, (answer: AskAnswer) => void>();
  private readonly reader = new PartReader(MESSAGE_LIMIT);
  private nextId = 1;
  private asked = false;
  /** The host tells each change: somebody listens. */
  private following = false;
  private readonly wanted: Record<'snapshot' | 'status', Wanted[]> = { snapshot: [], status: [] };

  constructor(
    private readonly socket: WebSocket,
    private readonly listener: HostListener,
  ) {
    socket.on('message', (data, isBinary) => {
      if (isBinary) return this.listener.bytes(this, data as Buffer);
      try {
        // A message of parts is whole with its last.
        const message = this.reader.read(String(data as Buffer));
        if (message !== undefined) this.take(message);
      } catch {
        socket.close(1003, 'This message cannot be read.');
      }
      return undefined;
    });
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      for (const { reject, timer } of this.waiting.values()) {
        clearTimeout(timer);
        reject(new NoHostError(503, 'no-host', 'The window that runs the show was closed.'));
      }
      this.waiting.clear();
      for (const { reject, timer } of [...this.wanted.snapshot.splice(0), ...this.wanted.status.splice(0)]) {
        clearTimeout(timer);
        reject(new NoHostError(503, 'no-host', 'The window that runs the show was closed.'));
      }
      listener.closed(this);
    });
  }

  /** @throws Error for what no host of ours says. */
  private take(message: unknown): void {
    if (!isRecord(message)) throw new Error('not a message');
    if (message.kind === 'hello') return this.greet(message.show);
    if (!this.show) throw new Error('not introduced');
    if (message.kind === 'told' && isRecord(message.answer)) {
      const asked = this.asks.get(message.id as number);
      this.asks.delete(message.id as number);
      return asked?.(message.answer as unknown as AskAnswer);
    }
    if (message.kind === 'mosaic') {
      this.mosaic = (message.layout ?? null) as MosaicLayout | null;
      return this.listener.mosaic(this);
    }
    if (message.kind === 'meters' && isRecord(message.order)) {
      this.meters = message.order as unknown as MeterOrder;
      return this.listener.meters(this);
    }
    if (message.kind === 'held' && Array.isArray(message.list)) {
      this.held = message.list as Held[];
      return this.listener.held(this);
    }
    if (message.kind === 'talk') {
      this.talkTo = talkFrom(message.to) ?? null;
      return this.listener.talk(this);
    }
    if (message.kind === 'ways' && Array.isArray(message.list)) {
      this.ways = message.list.slice(0, MOST_WAYS).flatMap((w) => wayFrom(w) ?? []);
      return this.listener.ways(this);
    }
    if (message.kind === 'audience') {
      this.audience = setUpFrom(message.setUp);
      return this.listener.audience(this);
    }
    if (message.kind === 'to-sender' && typeof message.from === 'string' && isRecord(message.message))
      return this.listener.toSender(this, message.from, message.message as unknown as ToVisitor);
    if (message.kind === 'want-picture' && typeof message.from === 'string') return this.listener.wantPicture(this, message.from);
    if (message.kind === 'to-guest' && typeof message.session === 'string' && isRecord(message.message))
      return this.listener.toGuest(this, message.session, message.message as unknown as HostSays);
    if (message.kind === 'guest-out' && typeof message.id === 'string') return this.listener.guestOut(this, message.id);
    if (message.kind === 'passes' && Array.isArray(message.list)) {
      this.passes = message.list.slice(0, MOST_PASSES).flatMap((p) => passFrom(p) ?? []);
      return this.listener.passes(this);
    }
    if (message.kind === 'answer') return this.answered(message);
    if (message.kind === 'state') return this.replace(message as unknown as Snapshot);
    if (message.kind === 'patches') return this.change(message as unknown as Change);
    if (message.kind === 'status' && isRecord(message.status) && Number.isFinite(message.frame)) {
      const status = message as unknown as Extract<FromHost, { kind: 'status' }>;
      if (this.state) this.state = { ...this.state, frame: status.frame, status: status.status };
      this.give('status', status.status);
      if (this.following) this.listener.told(this, status);
      return;
    }
    throw new Error('not a message');
  }

  private greet(show: unknown): void {
    if (this.show || !isRecord(show) || typeof show.id !== 'string' || !/^[\w-]{1,64}$/.test(show.id) || typeof show.name !== 'string')
      throw new Error('no name');
    this.show = { id: show.id, name: show.name.slice(0, 200) };
    this.listener.named(this);
  }

  private answered({ id, outcome }: Record<string, unknown>): void {
    const request = this.waiting.get(id as number);
    if (!request || !isRecord(outcome) || typeof outcome.ok !== 'boolean') return;
    this.waiting.delete(id as number);
    clearTimeout(request.timer);
    request.resolve(outcome as unknown as HostOutcome);
  }

  private replace(state: Snapshot): void {
    if (!isRecord(state.show) || !isRecord(state.air) || !Number.isSafeInteger(state.revision)) throw new Error('no state');
    this.asked = false;
    if (this.show && typeof state.show.name === 'string') this.show = { ...this.show, name: state.show.name.slice(0, 200) };
    this.give('snapshot', state);
    if (!this.following) return;
    this.state = state;
    this.listener.told(this, state);
  }

  private change(change: Change): void {
    // A change that was on its way when the last listener left.
    if (!this.following) return;
    const { copy, changed, missed } = followed(this.state, change);
    if (missed) return this.askAgain();
    if (!changed || !copy || !this.state) return;
    this.state = { ...this.state, ...copy };
    this.listener.told(this, change);
  }

  /** A revision was missed: the next snapshot makes it good. */
  private askAgain(): void {
    if (this.asked) return;
    this.asked = true;
    this.send({ kind: 'snapshot' });
  }

  private send(message: ToHost): void {
    this.socket.send(JSON.stringify(message));
  }

  /** Lets the host tell each change, as somebody listens; or nothing, as nobody does. */
  follow(on: boolean): void {
    if (this.following === on) return;
    this.following = on;
    this.asked = on;
    if (!on) this.state = null;
    this.send({ kind: 'follow', on });
  }

  private give(what: 'snapshot' | 'status', value: Snapshot | Record<string, unknown>): void {
    for (const { resolve, timer } of this.wanted[what].splice(0)) {
      clearTimeout(timer);
      resolve(value);
    }
  }

  /** Asks the host once; those who ask meanwhile share its answer. */
  private want<T extends Snapshot | Record<string, unknown>>(what: 'snapshot' | 'status'): Promise<T> {
    const list = this.wanted[what];
    if (list.length >= WAITING_LIMIT)
      return Promise.reject(new NoHostError(503, 'busy', 'Too many ask the window that runs the show. Try again in a moment.'));
    return new Promise((resolve, reject) => {
      const wanted: Wanted = {
        resolve: resolve as Wanted['resolve'],
        reject,
        timer: setTimeout(() => {
          list.splice(list.indexOf(wanted), 1);
          reject(new NoHostError(504, 'no-answer', 'The window that runs the show did not answer.'));
        }, ANSWER_MS),
      };
      list.push(wanted);
      if (list.length === 1) this.send({ kind: what });
    });
  }

  /** Show and air as they are now. @throws NoHostError when the window is closed or does not answer. */
  current(): Promise<Snapshot> {
    return this.state ? Promise.resolve(this.state) : this.want<Snapshot>('snapshot');
  }

  /** The host's figures as they are now. @throws NoHostError as `current` does. */
  figures(): Promise<Record<string, unknown>> {
    return this.want<Record<string, unknown>>('status');
  }

  /** The state that listeners have been told; null before the first, and while nobody listens. */
  get snapshot(): Snapshot | null {
    return this.state;
  }

  /** Asks the host for something that it may not have. */
  ask(ask: Ask | ServerAsk): Promise<AskAnswer> {
    if (this.asks.size >= WAITING_LIMIT)
      return Promise.resolve({ ok: false, message: 'Too much is asked at once. Try again in a moment.' });
    const id = this.nextId;
    this.nextId += 1;
    return new Promise((resolve) => {
      const end = (answer: AskAnswer) => {
        clearTimeout(timer);
        this.asks.delete(id);
        resolve(answer);
      };
      const timer = setTimeout(
        () => end({ ok: false, message: 'The window that runs the show did not answer.' }),
        ASK_MS[ask.what] ?? ANSWER_MS,
      );
      this.asks.set(id, end);
      this.send({ kind: 'ask', id, ask });
    });
  }

  /** Tells the host what panels look at. */
  pictures(tiles: WantedTile[]): void {
    this.send({ kind: 'pictures', tiles });
  }

  /** Tells the host what panels listen to. */
  listen(ears: { number: number; ears: Ears }[]): void {
    this.send({ kind: 'listen', ears });
  }

  /** Tells the host who is of the crew, and who speaks. */
  crew(list: CrewMember[]): void {
    this.send({ kind: 'crew', list });
  }

  /** Sends what is said to the host. */
  bytes(bytes: Uint8Array): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(bytes, { binary: true });
  }

  fromAudience(batch: AudienceBatch): void {
    if (this.socket.readyState === this.socket.OPEN) this.send({ kind: 'from-audience', batch });
  }

  senderPicture(from: string, picture: string | null): void {
    this.send({ kind: 'sender-picture', from, picture });
  }

  guestIn(id: string, session: string): void {
    this.send({ kind: 'guest-in', id, session });
  }

  guestGone(id: string, session: string): void {
    if (this.socket.readyState === this.socket.OPEN) this.send({ kind: 'guest-gone', id, session });
  }

  fromGuest(id: string, session: string, message: GuestSays): void {
    this.send({ kind: 'from-guest', id, session, message });
  }

  /** Tells the host who works its show with a pass. */
  people(list: Connected[]): void {
    this.send({ kind: 'people', list });
  }

  /** Runs a command in the window, or several as one step; `from` says with which pass. @throws NoHostError when it is closed or does not answer. */
  command(command: unknown, from?: FromPass): Promise<HostOutcome> {
    if (this.waiting.size >= WAITING_LIMIT)
      return Promise.reject(
        new NoHostError(503, 'busy', 'Too many commands wait for the window that runs the show. Try again in a moment.'),
      );
    const id = this.nextId;
    this.nextId += 1;
    return new Promise((resolve, reject) => {
      const timer = setTimeout(() => {
        this.waiting.delete(id);
        reject(new NoHostError(504, 'no-answer', 'The window that runs the show did not answer.'));
      }, ANSWER_MS);
      this.waiting.set(id, { resolve, reject, timer });
      this.send({ kind: 'command', id, command, ...(from && { from }) });
    });
  }

  /** Ends the line: another window runs its show now. */
  replaced(): void {
    this.socket.close(4001, 'Another window runs this show now.');
  }
}
