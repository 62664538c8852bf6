/** The host window's line to the server: proves whose page it is, and comes back by itself. */
import { type Ask, type AskAnswer, type ServerAsk } from '#core/panels/asks';
import { type Connected, type FromHost, type FromPass, type ShowName, type ToHost } from '#core/panels/messages';
import { type AudienceBatch } from '#core/audience/line';
import { type GuestSays } from '#core/guests/line';
import { type WayIn } from '#core/panels/way-in';
import { type PassHash } from '#core/panels/pass';
import { type CrewMember } from '#core/panels/sound-line';
import { inParts } from '#core/panels/parts';
import { OwnSocket } from './own-socket';

/** Close code: another window runs this show now. */
const REPLACED = 4001;

/** What comes of guests. */
export interface GuestLineAnswers {
  /** Null until they are known: then the server waits for them. */
  come: (id: string, session: string) => void;
  gone: (id: string, session: string) => void;
  says: (id: string, session: string, message: GuestSays) => void;
}

/** What comes of the audience. */
export interface AudienceAnswers {
  batch: (batch: AudienceBatch) => void;
  picture: (from: string, data: string | null) => void;
}

/** What the line asks of the host. */
export interface HostAnswers {
  show: () => ShowName;
  /** Runs a command; resolves when it may be acknowledged. */
  command: (command: unknown, from?: FromPass) => Promise<Extract<FromHost, { kind: 'answer' }>['outcome']>;
  /** The passes of the show; null until they are known, and told then. */
  passes: () => PassHash[] | null;
  people: (list: Connected[]) => void;
  /** What a panel asks for. */
  ask: (ask: Ask | ServerAsk) => Promise<AskAnswer>;
  /** What panels look at. */
  pictures: (tiles: unknown) => void;
  /** What panels listen to. */
  listen: (ears: unknown) => void;
  /** Who is of the crew, and who speaks; none while the line is down. */
  crew: (list: CrewMember[]) => void;
  /** What somebody of the crew says to this window. */
  said: (bytes: Uint8Array) => void;
  /** Ways in by a link; null until they are known, and told then. */
  ways: () => WayIn[] | null;
  guests: GuestLineAnswers;
  audience: AudienceAnswers;
  snapshot: () => FromHost;
  status: () => FromHost;
  connected: (connected: boolean) => void;
}

export class HostLink {
  private readonly line: OwnSocket;
  /** Somebody listens at the other end: only then is anything told. */
  following = false;

  constructor(private readonly answers: HostAnswers) {
    this.line = new OwnSocket('/api/host', {
      opened: () => {
        this.send({ kind: 'hello', show: this.answers.show() });
        this.tellPasses();
        this.tellWays();
        this.answers.connected(true);
      },
      message: (text, reply) => void this.take(JSON.parse(text) as ToHost, reply),
      bytes: (bytes) => this.answers.said(bytes),
      closed: (code) => {
        this.following = false;
        this.answers.listen([]);
        this.answers.crew([]);
        this.answers.pictures([]);
        this.answers.people([]);
        this.answers.connected(false);
        // The window that took its place goes on; two would take turns for ever.
        return code !== REPLACED;
      },
    });
  }

  private async take(message: ToHost, reply: (text: string) => void): Promise<void> {
    if (message.kind === 'ask') {
      const answer = await this.answers.ask(message.ask);
      return reply(JSON.stringify({ kind: 'told', id: message.id, answer } satisfies FromHost));
    }
    if (message.kind === 'pictures') return this.answers.pictures(message.tiles);
    if (message.kind === 'from-audience') return this.answers.audience.batch(message.batch);
    if (message.kind === 'sender-picture') return this.answers.audience.picture(message.from, message.picture);
    if (message.kind === 'guest-in') return this.answers.guests.come(message.id, message.session);
    if (message.kind === 'guest-gone') return this.answers.guests.gone(message.id, message.session);
    if (message.kind === 'from-guest') return this.answers.guests.says(message.id, message.session, message.message);
    if (message.kind === 'listen') return this.answers.listen(message.ears);
    if (message.kind === 'crew') return this.answers.crew(message.list);
    if (message.kind === 'people') return this.answers.people(message.list);
    if (message.kind === 'follow') this.following = message.on;
    if (message.kind === 'snapshot' || (message.kind === 'follow' && message.on)) return void this.send(this.answers.snapshot());
    if (message.kind === 'status') return void this.send(this.answers.status());
    if (message.kind !== 'command') return;
    const outcome = await this.answers.command(message.command, message.from);
    // Numbers of questions begin anew with every connection.
    reply(JSON.stringify({ kind: 'answer', id: message.id, outcome } satisfies FromHost));
  }

  tellPasses(): void {
    const list = this.answers.passes();
    if (list) this.send({ kind: 'passes', list });
  }

  tellWays(): void {
    const list = this.answers.ways();
    if (list) this.send({ kind: 'ways', list });
  }

  /** Sends a message, in parts when it is long; false, and nothing, while the line is down. */
  send(message: FromHost): boolean {
    if (!this.line.isOpen) return false;
    for (const text of inParts(message)) this.line.send(text);
    return true;
  }

  /** Sends bytes; nothing while the line is down, or is behind. */
  sendBytes(bytes: Uint8Array): void {
    this.line.sendBytes(bytes);
  }

  close(): void {
    this.line.close();
  }
}
