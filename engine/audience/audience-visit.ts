/** A page of the audience: its line to the server, what it shows, and what its reader has said. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import {
  AUDIENCE_CLOSED,
  AUDIENCE_VERSION,
  type AudiencePage,
  type CommentRefusal,
  type FromVisitor,
  type ToVisitor,
} from '#core/audience/line';
import { PageSocket } from '../remote/page-socket';

/** Milliseconds without any word after which the line is taken for dead: the server asks every fifteen seconds. */
const SILENT_MS = 45_000;
const MOST_ANSWERS = 20;

const FINAL: Readonly<Record<number, string>> = {
  [AUDIENCE_CLOSED.withdrawn]: 'This link is not known here, has ended or was withdrawn.',
  [AUDIENCE_CLOSED.version]: 'This page is of another version than the server: load it anew.',
  [AUDIENCE_CLOSED.misread]: 'Something that this page sent was not understood: load it anew.',
  [AUDIENCE_CLOSED.flood]: 'This page sent more than anybody says: load it anew.',
};

export interface AudienceVisitState {
  line: 'opening' | 'waiting' | 'open' | 'lost' | 'ended';
  /** Why it has ended. */
  message: string;
  page: AudiencePage | null;
  /** What became of the last comment: null while nothing was sent. */
  sent: { refused: CommentRefusal | null } | null;
  answers: readonly { text: string; answer: string }[];
  /** What was chosen here, by poll and round. */
  chosen: Readonly<Record<string, number>>;
}

export interface AudiencePlace {
  show: string;
  secret: string;
  device: string;
}

export class AudienceVisit {
  readonly store: StoreApi<AudienceVisitState>;
  private readonly socket: PageSocket;
  private me: Extract<FromVisitor, { kind: 'me' }> | null = null;

  /** `chosen` is what was chosen here before. */
  constructor(place: AudiencePlace, chosen: Readonly<Record<string, number>> = {}) {
    this.store = createStore<AudienceVisitState>(() => ({ line: 'opening', message: '', page: null, sent: null, answers: [], chosen }));
    this.socket = new PageSocket({
      path: '/api/audience',
      silentMs: SILENT_MS,
      spread: 1,
      final: FINAL,
      opened: () => {
        this.send({ kind: 'enter', version: AUDIENCE_VERSION, ...place });
        if (this.me) this.send(this.me);
      },
      message: (text) => this.take(JSON.parse(text) as ToVisitor),
      lost: () => this.store.setState({ line: 'lost' }),
      refused: (message) => this.store.setState({ line: 'ended', message }),
    });
  }

  private send(message: FromVisitor): boolean {
    return this.socket.send(JSON.stringify(message));
  }

  private take(message: ToVisitor): void {
    switch (message.kind) {
      case 'ping':
        return void this.send({ kind: 'pong' });
      case 'waiting':
        return this.store.setState({ line: 'waiting' });
      case 'page':
        this.socket.entered();
        return this.store.setState({ line: 'open', page: message.page });
      case 'comment':
        return this.store.setState({ sent: { refused: message.refused } });
      case 'answer':
        return this.store.setState(({ answers }) => ({
          answers: [...answers.slice(1 - MOST_ANSWERS), { text: message.text, answer: message.answer }],
        }));
    }
  }

  /** Who one says one is. */
  introduce(name: string, picture: string | null): void {
    this.me = { kind: 'me', name, picture };
    this.send(this.me);
  }

  /** False while the line is down. */
  comment(text: string): boolean {
    this.store.setState({ sent: null });
    return this.send({ kind: 'comment', text });
  }

  vote(poll: string, choice: number): void {
    if (this.send({ kind: 'vote', poll, choice })) this.store.setState(({ chosen }) => ({ chosen: { ...chosen, [poll]: choice } }));
  }

  close(): void {
    this.socket.close();
  }
}
