/**
 * Where the audience comes in: hundreds of pages, of which comments and votes are gathered and handed on a few times a second, so that the window
 * that runs the show has the same little to do however many there are.
 */
import { createHash, randomBytes } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { type WebSocket } from 'ws';
import {
  AUDIENCE_CLOSED,
  AUDIENCE_VERSION,
  type AudienceBatch,
  type CommentRefusal,
  type FromVisitor,
  type SentComment,
  type ToVisitor,
  visitorMessage,
} from '#core/audience/line';
import { SenderLimit } from '#core/audience/moderation';
import { isValid } from '#core/panels/pass';
import { addressOf, sameSecret, tooMany } from '../guard';
import { type HostLine } from '../remote/host-line';
import { type Relay } from '../remote/relay';
import { type Throttle } from '../throttle';

/** Pages at once, over all shows. */
const MOST_PAGES = 4000;
const ENTER_MS = 10_000;
/** Messages of one page in ten seconds. */
const MOST_MESSAGES = 40;
const COUNT_MS = 10_000;
/** Bytes that may wait for a page that reads nothing. */
const BEHIND_BYTES = 200_000;
/** How often what was gathered is handed on, and how much of it: nobody reads more comments than that. */
const HAND_ON_MS = 400;
const COMMENTS_EACH = 10;
const VOTES_EACH = 1500;
/** Comments that wait; the oldest give way. */
const MOST_WAITING = 400;
/** How often pages are asked whether they are still there, and after how much silence they are not. */
const PING_MS = 15_000;
const SILENT_MS = 40_000;
/** Pictures kept, of those who wrote last. */
const MOST_PICTURES = 500;

interface Visitor {
  socket: WebSocket;
  request: IncomingMessage;
  show: string;
  hash: string | null;
  /** What the show knows them by: no more than that two things came from one browser. */
  from: string;
  name: string;
  line: HostLine | null;
  heardAt: number;
  counted: { since: number; count: number };
}

/** What is gathered for one window. */
interface Gathered {
  comments: SentComment[];
  /** The last choice of each, by sender and poll. */
  votes: Map<string, AudienceBatch['votes'][number]>;
  people: number;
  passed: number;
  told: string;
  pageText: string;
}

export class AudienceDoor {
  private readonly visitors = new Set<Visitor>();
  private readonly gathered = new Map<HostLine, Gathered>();
  private readonly pictures = new Map<string, string>();
  private readonly limit = new SenderLimit(() => performance.now());
  private readonly timers: NodeJS.Timeout[];

  constructor(
    private readonly relay: Relay,
    private readonly guesses: Throttle,
  ) {
    relay.gather({
      arranged: () => this.arrange(),
      page: (line) => this.tellPage(line),
      toSender: (line, from, message) => {
        for (const visitor of this.visitors)
          if (visitor.line === line && visitor.from === from) AudienceDoor.post(visitor, JSON.stringify(message));
      },
      picture: (line, from) => line.senderPicture(from, this.pictures.get(from) ?? null),
    });
    this.timers = [setInterval(() => this.handOn(), HAND_ON_MS), setInterval(() => this.look(), PING_MS)];
    for (const timer of this.timers) timer.unref();
  }

  add(socket: WebSocket, request: IncomingMessage): void {
    if (this.visitors.size >= MOST_PAGES) return socket.close(AUDIENCE_CLOSED.full, 'Too many pages are open here.');
    const now = performance.now();
    const visitor: Visitor = {
      socket,
      request,
      show: '',
      hash: null,
      from: '',
      name: '',
      line: null,
      heardAt: now,
      counted: { since: now, count: 0 },
    };
    this.visitors.add(visitor);
    const entering = setTimeout(() => visitor.hash === null && socket.close(AUDIENCE_CLOSED.misread, 'It has not entered.'), ENTER_MS);
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      clearTimeout(entering);
      this.visitors.delete(visitor);
    });
    socket.on('message', (data, isBinary) => {
      visitor.heardAt = performance.now();
      if (AudienceDoor.floods(visitor)) return socket.close(AUDIENCE_CLOSED.flood, 'More was sent than anybody says.');
      let message: FromVisitor | null = null;
      try {
        message = isBinary ? null : visitorMessage(JSON.parse(String(data as Buffer)));
      } catch {
        // Said below.
      }
      if (!message) return socket.close(AUDIENCE_CLOSED.misread, 'This message cannot be read.');
      return this.take(visitor, message);
    });
    return undefined;
  }

  private static floods({ counted, heardAt }: Visitor): boolean {
    if (heardAt - counted.since > COUNT_MS) Object.assign(counted, { since: heardAt, count: 0 });
    counted.count += 1;
    return counted.count > MOST_MESSAGES;
  }

  private static post({ socket }: Visitor, text: string): void {
    if (socket.readyState === socket.OPEN && socket.bufferedAmount < BEHIND_BYTES) socket.send(text);
  }

  private static say(visitor: Visitor, message: ToVisitor): void {
    AudienceDoor.post(visitor, JSON.stringify(message));
  }

  private take(visitor: Visitor, message: FromVisitor): void {
    if (message.kind === 'pong') return undefined;
    if (message.kind === 'enter') return this.enter(visitor, message);
    if (visitor.hash === null) return visitor.socket.close(AUDIENCE_CLOSED.misread, 'It has not entered.');
    if (message.kind === 'me') return this.introduce(visitor, message.name, message.picture);
    // While no window runs the show, nobody takes it: the page says so.
    const { line } = visitor;
    if (!line) return undefined;
    if (message.kind === 'vote') return this.vote(line, visitor, message.poll, message.choice);
    const refused = this.refusal(line, visitor, message.text);
    if (refused === null) this.comment(line, visitor, message.text);
    return AudienceDoor.say(visitor, { kind: 'comment', refused });
  }

  private enter(visitor: Visitor, { version, show, secret, device }: Extract<FromVisitor, { kind: 'enter' }>): void {
    if (visitor.hash !== null) return visitor.socket.close(AUDIENCE_CLOSED.misread, 'It has entered already.');
    if (version !== AUDIENCE_VERSION)
      return visitor.socket.close(AUDIENCE_CLOSED.version, 'This page is of another version than the server: load it anew.');
    if (tooMany(this.guesses, visitor.request))
      return visitor.socket.close(AUDIENCE_CLOSED.slow, 'Too many wrong links came from here. Wait.');
    visitor.hash = createHash('sha256').update(secret).digest('hex');
    visitor.show = show;
    visitor.from = createHash('sha256').update(`${show} ${device}`).digest('hex').slice(0, 24);
    return this.settle(visitor);
  }

  private introduce(visitor: Visitor, name: string, picture: string | null): void {
    visitor.name = name;
    this.pictures.delete(visitor.from);
    if (picture === null) return;
    this.pictures.set(visitor.from, picture);
    if (this.pictures.size > MOST_PICTURES) this.pictures.delete(this.pictures.keys().next().value as string);
  }

  /** A page at the window that runs its show, by the link as it is now. */
  private settle(visitor: Visitor): void {
    const line = this.relay.find(visitor.show);
    if (!line?.ways) {
      visitor.line = null;
      return AudienceDoor.say(visitor, { kind: 'waiting' });
    }
    const way = line.ways.find((w) => w.kind === 'audience' && sameSecret(w.hash, visitor.hash ?? ''));
    if (!way || !isValid(way, Date.now())) {
      if (!way && !visitor.line) this.guesses.wrong(addressOf(visitor.request));
      visitor.line = null;
      return visitor.socket.close(AUDIENCE_CLOSED.withdrawn, 'This link is not known here, has ended or was withdrawn.');
    }
    visitor.line = line;
    if (line.audience) AudienceDoor.say(visitor, { kind: 'page', page: line.audience.page });
    return undefined;
  }

  private arrange(): void {
    for (const line of [...this.gathered.keys()]) if (!this.relay.runs(line)) this.gathered.delete(line);
    for (const visitor of this.visitors) if (visitor.hash !== null) this.settle(visitor);
  }

  /** All pages are told at once, by one text. */
  private tellPage(line: HostLine): void {
    if (!line.audience) return;
    const text = JSON.stringify({ kind: 'page', page: line.audience.page } satisfies ToVisitor);
    const of = this.of(line);
    if (of.pageText === text) return;
    of.pageText = text;
    for (const visitor of this.visitors) if (visitor.line === line) AudienceDoor.post(visitor, text);
  }

  private of(line: HostLine): Gathered {
    let of = this.gathered.get(line);
    if (!of) this.gathered.set(line, (of = { comments: [], votes: new Map(), people: 0, passed: 0, told: '', pageText: '' }));
    return of;
  }

  private refusal({ audience }: HostLine, { from }: Visitor, text: string): CommentRefusal | null {
    if (!audience?.page.open) return 'closed';
    if (audience.banned.includes(from)) return 'banned';
    return this.limit.refusal(from, text, audience.perMinute);
  }

  private comment(line: HostLine, { from, name }: Visitor, text: string): void {
    const of = this.of(line);
    of.comments.push({ id: randomBytes(9).toString('hex'), from, name, text, at: Date.now() });
    if (of.comments.length <= MOST_WAITING) return;
    of.comments.shift();
    of.passed += 1;
  }

  private vote(line: HostLine, { from }: Visitor, poll: string, choice: number): void {
    const now = line.audience?.page.poll;
    if (!now?.open || now.key !== poll || choice >= now.choices.length) return;
    this.of(line).votes.set(`${from} ${poll}`, [from, poll, choice]);
  }

  private handOn(): void {
    const counts = new Map<HostLine, number>();
    for (const { line } of this.visitors) if (line) counts.set(line, (counts.get(line) ?? 0) + 1);
    for (const line of new Set([...counts.keys(), ...this.gathered.keys()])) {
      const of = this.of(line);
      of.people = counts.get(line) ?? 0;
      const comments = of.comments.splice(0, COMMENTS_EACH);
      const votes = [...of.votes].slice(0, VOTES_EACH);
      for (const [key] of votes) of.votes.delete(key);
      const text = `${of.people} ${of.passed}`;
      if (comments.length === 0 && votes.length === 0 && text === of.told) continue;
      of.told = text;
      line.fromAudience({ comments, votes: votes.map(([, vote]) => vote), people: of.people, passed: of.passed });
    }
  }

  private look(): void {
    const now = performance.now();
    const ping = JSON.stringify({ kind: 'ping' } satisfies ToVisitor);
    for (const visitor of this.visitors) {
      if (now - visitor.heardAt > SILENT_MS) visitor.socket.terminate();
      else AudienceDoor.post(visitor, ping);
    }
  }

  close(): void {
    for (const timer of this.timers) clearInterval(timer);
    for (const { socket } of this.visitors) socket.terminate();
  }
}
