/** The audience at the window that runs the show: comments and votes come in, answers and the page go out. */
import { nanoid } from 'nanoid';
import { createStore } from 'zustand/vanilla';
import { type AudienceBatch, type AudienceSetUp, type ToVisitor } from '#core/audience/line';
import { LONGEST_COMMENT, LONGEST_SENDER_NAME } from '#core/audience/limits';
import { pollKey, pollOnPage, setUpOf } from '#core/audience/page';
import { SenderLimit } from '#core/audience/moderation';
import { type Desk } from '#core/desk/air';
import { type AudienceState, type ShowAudience } from '../client/show-client';
import { type Follower, type HostAccess } from '../host/follower';
import { fromBase64 } from '../panels/base64';

/** Shortest time between two counts of a poll, and between two tellings of the page, milliseconds. */
const COUNT_MS = 500;
const TELL_MS = 250;
/** Comments of one guest a minute. */
const OF_A_GUEST = 20;

interface Out {
  setUp: (setUp: AudienceSetUp) => void;
  toSender: (from: string, message: ToVisitor) => void;
  /** Asks the server for the picture of a sender. */
  wantPicture: (from: string) => void;
  /** Keeps a picture; its identity. @throws when it is none */
  keepPicture: (file: File) => Promise<string>;
  /** Where votes are kept, by poll and round: choices by who has chosen. */
  votes: { read: (key: string) => Promise<Record<string, number>>; keep: (key: string, votes: Record<string, number>) => Promise<void> };
}

/** Votes of one round of a poll. */
interface Round {
  votes: Record<string, number>;
  /** Those that were kept have been read: only then are they counted. */
  read: boolean;
}

export class AudienceControl implements Follower, ShowAudience {
  readonly store = createStore<AudienceState>(() => ({ people: 0, passed: 0 }));
  private readonly rounds = new Map<string, Round>();
  /** Rounds in which somebody has voted since they were counted. */
  private readonly voted = new Set<string>();
  private readonly limit = new SenderLimit(() => performance.now());
  private told = '';
  /** What the page is made of, as it was looked at last. */
  private looked: readonly unknown[] = [];
  private inbox: Desk['air']['audience']['inbox'] = [];
  private queue: Desk['show']['audience']['queue'] = [];
  /** Comments whose picture was asked for. */
  private readonly asked = new Set<string>();
  private counting: ReturnType<typeof setTimeout> | null = null;
  private telling: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly access: Pick<HostAccess, 'state' | 'command'>,
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
    // Those that were given before their page heard that the poll was closed count too.
    const poll = pollOnPage(this.desk);
    if (!poll || votes.length === 0) return;
    const key = pollKey(poll);
    const round = this.round(key);
    for (const [from, of, choice] of votes)
      if (of === key && choice < poll.choices.length) {
        round.votes[from] = choice;
        this.voted.add(key);
      }
    this.count();
  }

  /** A guest writes a comment on their page. True when it is taken. */
  ofGuest(id: string, name: string, text: string): boolean {
    if (this.limit.refusal(id, text, OF_A_GUEST) !== null) return false;
    const comment = {
      id: nanoid(12),
      from: `guest-${id}`.slice(0, 64),
      name: name.slice(0, LONGEST_SENDER_NAME),
      text: text.slice(0, LONGEST_COMMENT),
      at: Date.now(),
    };
    return this.access.command({ type: 'comment.heard', args: { comments: [{ ...comment, origin: 'guest' }] } })?.ok === true;
  }

  /** A round with what was kept of it, which is being read when it is asked for first. */
  private round(key: string): Round {
    const known = this.rounds.get(key);
    if (known) return known;
    const round: Round = { votes: {}, read: false };
    this.rounds.set(key, round);
    void this.out.votes
      .read(key)
      .catch(() => ({}))
      .then((kept) => {
        // What has come meanwhile is newer.
        round.votes = { ...kept, ...round.votes };
        round.read = true;
        this.count();
      });
    return round;
  }

  /** A few times a second, however many vote. */
  private count(): void {
    if (this.voted.size === 0) return;
    this.counting ??= setTimeout(() => {
      this.counting = null;
      for (const poll of this.desk.show.audience.polls) {
        const key = pollKey(poll);
        const round = this.rounds.get(key);
        if (!round?.read || !this.voted.delete(key)) continue;
        const votes = poll.choices.map(() => 0);
        for (const choice of Object.values(round.votes)) votes[choice] = (votes[choice] ?? 0) + 1;
        void this.out.votes.keep(key, round.votes).catch(() => undefined);
        if (votes.some((v, i) => v !== poll.choices[i]?.votes))
          this.access.command({ type: 'poll.counted', args: { poll: poll.id, votes } });
      }
    }, COUNT_MS);
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
    const { audience, name } = desk.show;
    const { inbox, poll } = desk.air.audience;
    if (inbox !== this.inbox) this.answer(inbox);
    if (audience.queue !== this.queue) this.want(audience.queue);
    const now = [name, audience, poll];
    if (now.every((part, i) => part === this.looked[i])) return;
    this.looked = now;
    this.telling ??= setTimeout(() => {
      this.telling = null;
      this.tell();
    }, TELL_MS);
  }

  /** Asks for the pictures of those whose comments were chosen. */
  private want(queue: Desk['show']['audience']['queue']): void {
    this.queue = queue;
    for (const { id, from, pictureId, origin } of queue) {
      if (pictureId !== null || origin !== 'audience' || this.asked.has(id)) continue;
      this.asked.add(id);
      this.out.wantPicture(from);
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
      const picture = await this.out.keepPicture(new File([fromBase64(data)], `${from}.jpg`, { type: 'image/jpeg' }));
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
