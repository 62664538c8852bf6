/** The show as the remote sees it: a snapshot with a revision, then patches in order; commands in, answers out. */
import { type Patch } from 'immer';
import { type Connected, type FromHost, type FromPass, type HostOutcome } from '#core/panels/messages';
import { type Ask, type AskAnswer, type ServerAsk } from '#core/panels/asks';
import { type MeterOrder } from '#core/panels/meters';
import { type MosaicLayout } from '#core/panels/mosaic';
import { type AudienceSetUp, type ToVisitor } from '#core/audience/line';
import { type HostSays } from '#core/guests/line';
import { type WayIn } from '#core/panels/way-in';
import { type Held } from '#core/panels/held';
import { type PassHash } from '#core/panels/pass';
import { type CrewMember } from '#core/panels/sound-line';
import { slimPatches } from '#core/panels/slim';
import { type Desk } from '#core/desk/air';
import { type AudienceAnswers, type GuestLineAnswers, HostLink } from '../remote/host-link';
import { type Follower } from './follower';

export interface RemoteAccess {
  desk: () => Desk;
  frame: () => number;
  status: () => Record<string, unknown>;
  command: (command: unknown, from?: FromPass) => HostOutcome;
  passes: () => PassHash[] | null;
  people: (list: Connected[]) => void;
  pictures: (tiles: unknown) => void;
  listen: (ears: unknown) => void;
  crew: (list: CrewMember[]) => void;
  said: (bytes: Uint8Array) => void;
  ways: () => WayIn[] | null;
  guests: GuestLineAnswers;
  audience: AudienceAnswers;
  ask: (ask: Ask | ServerAsk) => Promise<AskAnswer>;
  /** Resolves when everything done so far is on disk. */
  saved: () => Promise<void>;
  connected: (connected: boolean) => void;
}

export class HostRemote implements Follower {
  private readonly link: HostLink;
  private revision = 0;
  /** The desk that the last revision led to. */
  private told: Desk;

  constructor(
    showId: string,
    private readonly access: RemoteAccess,
  ) {
    this.told = access.desk();
    this.link = new HostLink({
      show: () => ({ id: showId, name: access.desk().show.name }),
      command: (command, from) => this.run(command, from),
      passes: access.passes,
      people: access.people,
      pictures: access.pictures,
      listen: access.listen,
      crew: access.crew,
      said: access.said,
      ways: access.ways,
      guests: access.guests,
      audience: access.audience,
      ask: access.ask,
      snapshot: () => ({ kind: 'state', revision: this.revision, ...access.desk(), frame: access.frame(), status: access.status() }),
      status: () => this.status(),
      connected: access.connected,
    });
  }

  private status(): Extract<FromHost, { kind: 'status' }> {
    return { kind: 'status', frame: this.access.frame(), status: this.access.status() };
  }

  /** What is acknowledged is on disk: whoever sent it may count on it. */
  private async run(command: unknown, from?: FromPass): Promise<HostOutcome> {
    const outcome = this.access.command(command, from);
    if (outcome.ok) await this.access.saved();
    return outcome;
  }

  tellMosaic(layout: MosaicLayout | null): void {
    this.link.send({ kind: 'mosaic', layout });
  }

  tellMeters(order: MeterOrder): void {
    this.link.send({ kind: 'meters', order });
  }

  tellHeld(list: readonly Held[]): void {
    this.link.send({ kind: 'held', list });
  }

  tellWays(): void {
    this.link.tellWays();
  }

  toGuest(session: string, message: HostSays): void {
    this.link.send({ kind: 'to-guest', session, message });
  }

  /** The page of the audience. */
  tellAudience(setUp: AudienceSetUp): void {
    this.link.send({ kind: 'audience', setUp });
  }

  toSender(from: string, message: ToVisitor): void {
    this.link.send({ kind: 'to-sender', from, message });
  }

  /** Asks for the picture of one of the audience. */
  wantPicture(from: string): void {
    this.link.send({ kind: 'want-picture', from });
  }

  /** Ends the line of a guest. */
  showOut(id: string): void {
    this.link.send({ kind: 'guest-out', id });
  }

  /** Whom this window speaks to; false while the line is down. */
  tellTalk(to: string | null): boolean {
    return this.link.send({ kind: 'talk', to });
  }

  /** A piece of the mosaic, meters or sound: it may be left out when the line is slow. */
  sendBytes(bytes: Uint8Array): void {
    this.link.sendBytes(bytes);
  }

  tellPasses(): void {
    this.link.tellPasses();
  }

  /** Every change has a revision; it is told only to somebody. `of` is the key of the panel's command that it comes of. */
  changed(patches: Patch[], of?: string): void {
    const before = this.told;
    const after = this.access.desk();
    this.told = after;
    this.revision += 1;
    if (!this.link.following) return;
    const { revision } = this;
    const slim = slimPatches(before, after, patches);
    this.link.send({ kind: 'patches', revision, frame: this.access.frame(), patches: slim, ...(of !== undefined && { of }) });
  }

  /** Call it once a second. */
  tellStatus(): void {
    if (this.link.following) this.link.send(this.status());
  }

  close(): void {
    this.link.close();
  }
}
