/** The guests of a show at the window that runs it: their links, their connections, and what each is told of where they stand. */
import { nanoid } from 'nanoid';
import { createStore } from 'zustand/vanilla';
import { type Desk } from '#core/desk/air';
import { guestNow } from '#core/guests/air';
import { type Guest } from '#core/guests/document';
import { type GuestSays, type HostSays, type OrderLine, type ShortOf } from '#core/guests/line';
import { gathered } from '#core/guests/gathered';
import { orderLines, standingOf } from '#core/guests/standing';
import { WhoSpeaks } from '#core/guests/who-speaks';
import { tallyOf } from '#core/picture/tally';
import { type Driver } from '../capture/driver';
import { type GuestFigures, type GuestsState, type GuestWord, type ShowGuests } from '../client/show-client';
import { type Follower, type HostAccess } from '../host/follower';
import { type SoundDesk } from '../sound/sound-desk';
import { GuestChecks } from './guest-checks';
import { figuresOf, type RawFigures } from './figures';
import { iceServers } from '../peers/ice-servers';
import { ProgrammeFeed } from '../peers/programme-feed';
import { letRunOut, StreamSources } from '../peers/stream-source';
import { GuestPeer } from './guest-peer';

/** Frames between two looks at where everybody stands. */
const STANDING_EACH = 5;
/** How often connections are measured, milliseconds. */
const MEASURE_MS = 2000;
const MOST_WORDS = 200;
/** Frames a second of the programme that guests get: enough to follow a show by, and each of them costs an encode of its own. */
const PROGRAMME_RATE = 13;

interface Line {
  session: string;
  peer: GuestPeer;
  /** How to end their mix. */
  endMix: () => void;
  standing: string;
  figures: RawFigures | null;
  checks: GuestChecks;
  shortOf: ShortOf;
}

interface Out {
  /** A guest writes a comment for the show; false where it is not taken. */
  comment: (id: string, name: string, text: string) => boolean;
  toGuest: (session: string, message: HostSays) => void;
  out: (id: string) => void;
}

export class GuestControl implements Follower, ShowGuests {
  readonly store = createStore<GuestsState>(() => ({ figures: {}, words: [] }));
  private readonly lines = new Map<string, Line>();
  /** Sources of guests take whatever their guest sends. */
  private readonly sources = new StreamSources<'guest'>('nobody is here');
  private readonly back: ProgrammeFeed;
  private readonly timer: ReturnType<typeof setInterval>;
  private frames = 0;
  private readonly speaks = new WhoSpeaks();
  /** Whom the operator hears now. */
  private heard: { id: string; end: () => void } | null = null;

  constructor(
    private readonly access: HostAccess,
    private readonly sound: Pick<SoundDesk, 'streamOf' | 'readings' | 'context' | 'alsoHear'>,
    programme: (receive: (frame: VideoFrame) => void) => () => void,
    private readonly out: Out,
  ) {
    this.back = new ProgrammeFeed(programme, PROGRAMME_RATE);
    this.timer = setInterval(() => void this.measure(), MEASURE_MS);
  }

  get driver(): Driver<'guest'> {
    return this.sources.driver;
  }

  private guest(id: string): Guest | undefined {
    return this.access.state().desk.show.guests.list.find((g) => g.id === id);
  }

  // Connections.

  private report(guest: string, told: Record<string, unknown>): void {
    if (this.guest(guest)) this.access.command({ type: 'guest.report', args: { guest, ...told } });
  }

  /** A guest's page is there. */
  come(id: string, session: string): void {
    const known = this.lines.get(id);
    if (known) this.drop(id, known);
    const guest = this.guest(id);
    if (!guest) return this.out.out(id);
    const { show } = this.access.state().desk;
    const busId = show.sound.listeners.find((l) => l.id === guest.listenerId)?.busId;
    const mix = busId === undefined ? null : this.sound.streamOf(busId);
    this.out.toGuest(session, { kind: 'servers', servers: iceServers() });
    const peer = new GuestPeer(
      { programme: this.back.take(), programmeHeight: this.access.state().working.raster.height, mix: mix?.stream ?? null },
      {
        signal: (signal) => this.out.toGuest(session, { kind: 'signal', signal }),
        streams: (camera, screen) => this.show(id, camera, screen),
        // Of a call that is over nothing counts any more: another may be under way.
        connected: (connected) => this.lines.get(id)?.session === session && this.report(id, { line: connected ? 'in' : 'lost' }),
        failed: (cause) => this.access.notify('caution', `The connection with ${guest.name} cannot be made: ${cause.slice(0, 200)}`),
      },
    );
    this.lines.set(id, {
      session,
      peer,
      endMix: () => mix?.end(),
      standing: '',
      figures: null,
      checks: new GuestChecks(this.sound.context, mix?.stream ?? null),
      shortOf: '',
    });
    this.report(id, { line: 'in' });
    return undefined;
  }

  /** A guest's page is there no more: closed, or its line is down. */
  leave(id: string, session: string): void {
    const line = this.lines.get(id);
    if (line?.session !== session) return;
    this.drop(id, line);
    this.report(id, { line: 'lost' });
  }

  private drop(id: string, line: Line): void {
    this.lines.delete(id);
    if (this.heard?.id === id) this.hear(null);
    line.checks.end();
    line.endMix();
    this.back.leave();
    this.show(id, null, null);
    letRunOut(line.peer);
    this.store.setState(({ figures }) => ({ figures: Object.fromEntries(Object.entries(figures).filter(([other]) => other !== id)) }));
  }

  /** What a guest's page says. */
  says(id: string, session: string, message: GuestSays): void {
    const line = this.lines.get(id);
    if (line?.session !== session) return;
    if (message.kind === 'signal') return line.peer.take(message.signal);
    if (message.kind === 'word') return message.comment ? this.comment(id, message.text) : this.word(id, message.text);
    const { camera, screen, leaves, said, hand, hears, trouble, agreedAt } = message;
    const about = Object.fromEntries(Object.entries({ said, hand, hears, trouble, agreedAt }).filter(([, value]) => value !== undefined));
    if (message.shortOf !== undefined) line.shortOf = message.shortOf;
    line.peer.hear({ ...(camera !== undefined && { camera }), ...(screen !== undefined && { screen }) });
    if (Object.keys(about).length > 0) this.report(id, about);
    if (!leaves) return undefined;
    this.drop(id, line);
    return this.report(id, { line: 'out' });
  }

  private comment(id: string, text: string): void {
    const name = this.guest(id)?.name ?? '';
    // What is not taken as a comment is not lost: the crew reads it.
    if (!this.out.comment(id, name, text)) this.word(id, text);
  }

  private word(id: string, text: string): void {
    const word: GuestWord = { id: nanoid(8), guestId: id, name: this.guest(id)?.name ?? '', text, at: Date.now() };
    this.store.setState(({ words }) => ({ words: [...words.slice(1 - MOST_WORDS), word] }));
  }

  hear(id: string | null): boolean {
    this.heard?.end();
    this.heard = null;
    const stream = this.sources.of(this.guest(id ?? '')?.sourceId ?? '');
    if (id === null || !stream || stream.getAudioTracks().length === 0) return false;
    this.heard = { id, end: this.sound.alsoHear(stream) };
    return true;
  }

  private show(id: string, camera: MediaStream | null, screen: MediaStream | null): void {
    const guest = this.guest(id);
    if (!guest) return;
    this.lines.get(id)?.checks.look(camera);
    for (const [sourceId, stream] of [
      [guest.sourceId, camera],
      [guest.screenId, screen],
    ] as const) {
      if (sourceId !== null) this.sources.show(sourceId, stream);
    }
    const shares = screen !== null && screen.getVideoTracks().length > 0;
    if (guestNow(this.access.state().desk.air, id).shares !== shares) this.report(id, { shares });
  }

  // What they are told.

  follow({ show, air }: Desk): void {
    for (const [id, line] of this.lines) {
      const there = show.guests.list.some((g) => g.id === id);
      if (there && guestNow(air, id).state !== 'away') continue;
      this.drop(id, line);
      this.out.out(id);
    }
  }

  tick(desk: Desk, frame: number): void {
    this.frames += 1;
    for (const { checks } of this.lines.values()) checks.hear();
    if (this.lines.size === 0 || this.frames % STANDING_EACH !== 0) return;
    this.listen(desk);
    const tally = tallyOf(desk.show, desk.air, frame);
    let lines: OrderLine[] | null = null;
    const order = () => (lines ??= orderLines(desk, frame));
    for (const [id, line] of this.lines) {
      const guest = desk.show.guests.list.find((g) => g.id === id);
      if (!guest) continue;
      const standing = standingOf(desk, guest, frame, tally, order);
      const text = JSON.stringify(standing);
      if (text === line.standing) continue;
      line.standing = text;
      this.out.toGuest(line.session, { kind: 'standing', ...standing });
    }
  }

  /** Tells who speaks, when that has changed. */
  private listen({ show, air }: Desk): void {
    const levels = new Map(
      gathered(show, air).flatMap(({ id, sourceId }) => {
        const sides = this.sound.readings.get(sourceId);
        return sides ? [[id, Math.max(sides[0].level, sides[1].level)] as const] : [];
      }),
    );
    const guest = this.speaks.step(levels, performance.now());
    if (guest !== null && guest !== air.guests.gathered.speaker.now) this.access.command({ type: 'guest.speaks', args: { guest } });
  }

  private async measure(): Promise<void> {
    const figures: Record<string, GuestFigures> = {};
    for (const [id, line] of this.lines) {
      const now = figuresOf(await line.peer.stats().catch(() => new Map() as unknown as RTCStatsReport), line.figures);
      line.figures = now.raw;
      figures[id] = { ...now.figures, ...line.checks.found(), shortOf: line.shortOf };
    }
    if (this.lines.size > 0 || Object.keys(this.store.getState().figures).length > 0) this.store.setState({ figures });
  }

  close(): void {
    clearInterval(this.timer);
    for (const [id, line] of [...this.lines]) this.drop(id, line);
  }
}
