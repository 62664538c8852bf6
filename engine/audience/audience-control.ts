/** The audience at the window that runs the show: comments and votes come in, answers and the page go out. */
import { createStore } from 'zustand/vanilla';
import { type AudienceBatch, type AudienceSetUp, type ToVisitor } from '#core/audience/line';
import { pollKey, setUpOf } from '#core/audience/page';
import { SenderLimit } from '#core/audience/moderation';
import { type Desk } from '#core/desk/air';
import { type AudienceState, type ShowAudience } from '../client/show-client';
import { type Follower, type HostAccess } from '../host/follower';
import { fromBase64 } from '../panels/base64';
import { db } from '../storage/db';
import { nanoid } from 'nanoid';

/** Shortest time between two counts of a poll, and between two tellings of the page, milliseconds. */
const COUNT_MS = 500;
/** Comments of one guest a minute. */
const OF_A_GUEST = 20;

interface Out {
  setUp: (setUp: AudienceSetUp) => void;
  toSender: (from: string, message: ToVisitor) => void;
  /** Asks the server for the picture of a sender. */
  wantPicture: (from: string) => void;
  /** Keeps a picture. @throws when it is none */
  keep: (file: File) => Promise<string>;
}

export class AudienceControl implements Follower, ShowAudience {
  readonly store = createStore<AudienceState>(() => ({ people: 0, passed: 0 }));
  /** Votes by poll and round: choices by who has chosen; null while they are being read. */
  private readonly votes = new Map<string, Record<string, number> | null>();
  private readonly limit = new SenderLimit(() => performance.now());
  private told = '';
  private inbox: Desk['air']['audience']['inbox'] = [];
  private audience: Desk['show']['audience'] | null = null;
  /** Comments whose picture was asked for. */
  private readonly asked = new Set<string>();
  private counting: ReturnType<typeof setTimeout> | null = null;
  private telling: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly showId: string,
    private readonly access: HostAccess,
    private readonly out: Out,
  ) {}

  private get desk(): Desk {
    return this.access.state().desk;
  }

  /** What pages have said since the last time. */
  take({ comments, votes, people, passed }: AudienceBatch): void {
    this.store.setState({ people, passed });
    if (comments.length > 0)
      this.access.command({
        type: 'comment.heard',
        args: { comments: comments.map((c) => ({ ...c, name: c.name || 'Somebody', origin: 'audience' })) },
      });
    const { poll } = this.desk.air.audience;
    const open = poll?.open ? this.desk.show.audience.polls.find((p) => p.id === poll.id) : undefined;
    if (!open) return;
    const key = pollKey(open);
    const known = this.votes.get(key);
    for (const [from, of, choice] of votes) if (of === key && known && choice < open.choices.length) known[from] = choice;
    if (votes.length > 0) this.count();
  }

  /** A guest writes a comment on their page. True when it is taken. */
  ofGuest(id: string, name: string, text: string): boolean {
    if (this.limit.refusal(id, text, OF_A_GUEST) !== null) return false;
    const comment = { id: nanoid(12), from: `guest-${id}`.slice(0, 64), name: name.slice(0, 40), text: text.slice(0, 280), at: Date.now() };
    return this.access.command({ type: 'comment.heard', args: { comments: [{ ...comment, origin: 'guest' }] } })?.ok === true;
  }

  /** A few times a second, however many vote. */
  private count(): void {
    this.counting ??= setTimeout(() => {
      this.counting = null;
      const { poll: now } = this.desk.air.audience;
      const poll = this.desk.show.audience.polls.find((p) => p.id === now?.id);
      const known = poll && this.votes.get(pollKey(poll));
      if (!poll || !known) return;
      const votes = poll.choices.map(() => 0);
      for (const choice of Object.values(known)) votes[choice] = (votes[choice] ?? 0) + 1;
      void db.votes.put({ showId: this.showId, poll: pollKey(poll), votes: known });
      if (votes.some((v, i) => v !== poll.choices[i]?.votes)) this.access.command({ type: 'poll.counted', args: { poll: poll.id, votes } });
    }, COUNT_MS);
  }

  /** Who has voted already, as it was kept. */
  private read(key: string): void {
    if (this.votes.has(key)) return;
    this.votes.set(key, null);
    void db.votes
      .get([this.showId, key])
      .catch(() => undefined)
      .then((row) => this.votes.set(key, { ...row?.votes }));
  }

  /** The server has come back: it is told everything anew. */
  connected(): void {
    this.told = '';
    this.tell();
  }

  private tell(): void {
    const setUp = setUpOf(this.desk);
    const text = JSON.stringify(setUp);
    if (text === this.told) return;
    this.told = text;
    this.out.setUp(setUp);
  }

  follow(desk: Desk): void {
    const { audience } = desk.show;
    const { inbox, poll } = desk.air.audience;
    const open = audience.polls.find((p) => p.id === poll?.id);
    if (open) this.read(pollKey(open));
    this.telling ??= setTimeout(() => {
      this.telling = null;
      this.tell();
    }, COUNT_MS / 2);
    if (inbox !== this.inbox) this.answer(inbox);
    if (audience !== this.audience) {
      this.audience = audience;
      for (const { id, from, pictureId, origin } of audience.queue) {
        if (pictureId !== null || origin !== 'audience' || this.asked.has(id)) continue;
        this.asked.add(id);
        this.out.wantPicture(from);
      }
    }
  }

  private answer(inbox: Desk['air']['audience']['inbox']): void {
    const before = new Map(this.inbox.map((c) => [c.id, c.answer]));
    this.inbox = inbox;
    for (const { id, from, text, answer } of inbox)
      if (answer !== '' && answer !== (before.get(id) ?? '')) this.out.toSender(from, { kind: 'answer', text, answer });
  }

  /** The picture of a sender has come, for comments of theirs that are in the queue. */
  async picture(from: string, data: string | null): Promise<void> {
    if (data === null) return;
    const waiting = this.desk.show.audience.queue.filter((c) => c.from === from && c.pictureId === null);
    if (waiting.length === 0) return;
    try {
      const picture = await this.out.keep(new File([fromBase64(data)], `${from}.jpg`, { type: 'image/jpeg' }));
      for (const { id } of waiting) this.access.command({ type: 'comment.picture', args: { comment: id, picture } });
    } catch {
      // What is no picture after all is none: the comment stands without.
    }
  }

  close(): void {
    if (this.counting !== null) clearTimeout(this.counting);
    if (this.telling !== null) clearTimeout(this.telling);
  }
}
