/** Whoever comes in by a link alone, at the window that runs the show: guests, the audience, encoders and viewers, with their ways in. */
import { wayName } from '#core/panels/way-name';
import { AudienceControl } from '../audience/audience-control';
import { GuestControl } from '../guests/guest-control';
import { HttpPeers } from '../peers/http-peers';
import { ProgrammeFeed } from '../peers/programme-feed';
import { type AudienceAnswers, type GuestLineAnswers } from '../remote/host-link';
import { type SoundDesk } from '../sound/sound-desk';
import { db } from '../storage/db';
import { type Follower, type HostAccess } from './follower';
import { type HostRemote } from './host-remote';
import { WaysIn } from './ways-in';

/** Frames a second that viewers get at most. */
const VIEWER_RATE = 60;

interface Outside {
  /** The line to the server, once it is there. */
  remote: () => HostRemote;
  /** Frames of the programme to a receiver that closes each; returns how to end it. */
  programme: (receive: (frame: VideoFrame) => void) => () => void;
  /** Keeps a picture; its identity. @throws when it is none */
  keepPicture: (file: File) => Promise<string>;
}

export class Visitors {
  readonly ways: WaysIn;
  readonly audience: AudienceControl;
  readonly guests: GuestControl;
  readonly peers: HttpPeers;
  /** What the line to the server answers for them. */
  readonly answers: { guests: GuestLineAnswers; audience: AudienceAnswers };
  readonly followers: readonly Follower[];

  constructor(showId: string, access: HostAccess, sound: SoundDesk, { remote, programme, keepPicture }: Outside) {
    this.peers = new HttpPeers(sound, new ProgrammeFeed(programme, VIEWER_RATE));
    this.ways = new WaysIn(
      showId,
      (kind, id) => wayName(access.state().desk.show, kind, id),
      (told) => {
        remote().tellWays();
        this.peers.keepOnly((way, id) => told?.some((w) => w.kind === way && w.id === id) === true);
      },
    );
    this.audience = new AudienceControl(access, {
      setUp: (setUp) => remote().tellAudience(setUp),
      toSender: (from, message) => remote().toSender(from, message),
      wantPicture: (from) => remote().wantPicture(from),
      keepPicture,
      votes: {
        read: async (poll) => (await db.votes.get([showId, poll]))?.votes ?? {},
        keep: async (poll, votes) => void (await db.votes.put({ showId, poll, votes })),
      },
    });
    this.guests = new GuestControl(access, sound, programme, {
      comment: (id, name, text) => this.audience.ofGuest(id, name, text),
      toGuest: (session, message) => remote().toGuest(session, message),
      out: (id) => remote().showOut(id),
    });
    this.answers = {
      guests: {
        come: (id, session) => this.guests.come(id, session),
        gone: (id, session) => this.guests.leave(id, session),
        says: (id, session, message) => this.guests.says(id, session, message),
      },
      audience: {
        batch: (batch) => this.audience.take(batch),
        picture: (from, data) => void this.audience.picture(from, data),
      },
    };
    this.followers = [this.guests, this.audience, this.peers, this.ways];
  }
}
