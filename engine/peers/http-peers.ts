/** Encoders that send a source, and viewers of the programme, at the window that runs the show: each offer is answered by a connection of its own. */
import { type ServerAsk } from '#core/panels/asks';
import { PROGRAMME_BUS } from '#core/sound/document';
import { type Driver } from '../capture/driver';
import { GuestSource } from '../guests/guest-streams';
import { type ReturnFeed } from '../guests/return-feed';
import { type Follower } from '../host/follower';
import { type SoundDesk } from '../sound/sound-desk';
import { iceServers } from './ice-servers';
import { gathered } from './gathered';

const MOST_VIEWERS = 8;
/** How long a connection that has ended is let run out, milliseconds. */
const LAST_FRAME_MS = 300;
/** Bits a second of the programme that a viewer gets. */
const VIEWER_BITRATE = 1_500_000;

type Offer = Extract<ServerAsk, { what: 'peer-offer' }>;

interface Session {
  way: Offer['way'];
  /** Of the source, for an encoder. */
  id: string;
  peer: RTCPeerConnection;
  end: () => void;
}

export class HttpPeers implements Follower {
  private readonly sessions = new Map<string, Session>();
  private readonly sources = new Map<string, GuestSource>();
  private readonly streams = new Map<string, MediaStream>();

  constructor(
    private readonly sound: Pick<SoundDesk, 'streamOf'>,
    private readonly programme: ReturnFeed,
  ) {}

  /** A source that an encoder sends takes whatever comes for it. */
  readonly driver: Driver<'encoder'> = (source, _air, link, format) => {
    const made = new GuestSource(
      link,
      format,
      () => this.sources.get(source.id) === made && this.sources.delete(source.id),
      'nothing is sent',
    );
    this.sources.set(source.id, made);
    const stream = this.streams.get(source.id);
    if (stream) made.show(stream);
    return {
      stop: () => {
        made.handle.stop();
        for (const [name, session] of this.sessions) if (session.way === 'encoder' && session.id === source.id) this.end(name);
      },
    };
  };

  /** The answer to an offer. @throws Error in words where it cannot be taken */
  async offer({ way, id, session, sdp }: Offer): Promise<{ sdp: string }> {
    if (way === 'encoder' && !this.sources.has(id)) throw new Error('The show has no such source of an encoder.');
    if (way === 'viewer' && [...this.sessions.values()].filter((s) => s.way === 'viewer').length >= MOST_VIEWERS)
      throw new Error(`At most ${MOST_VIEWERS} viewers watch at once.`);
    const peer = new RTCPeerConnection({ bundlePolicy: 'max-bundle', iceServers: iceServers() });
    const made: Session = { way, id, peer, end: () => undefined };
    try {
      if (way === 'encoder') this.receive(made);
      await peer.setRemoteDescription({ type: 'offer', sdp });
      if (way === 'viewer') await this.give(made);
      await peer.setLocalDescription(await peer.createAnswer());
      await gathered(peer);
    } catch (error) {
      made.end();
      peer.close();
      throw error;
    }
    // An encoder that begins anew takes the place of the one before.
    if (way === 'encoder') for (const [name, other] of this.sessions) if (other.way === way && other.id === id) this.end(name);
    this.sessions.set(session, made);
    peer.onconnectionstatechange = () => {
      if (peer.connectionState === 'failed' || peer.connectionState === 'closed') this.end(session);
    };
    return { sdp: peer.localDescription?.sdp ?? '' };
  }

  private receive(session: Session): void {
    const stream = new MediaStream();
    session.peer.ontrack = ({ track }) => {
      for (const old of stream.getTracks()) if (old.kind === track.kind) stream.removeTrack(old);
      stream.addTrack(track);
      this.streams.set(session.id, stream);
      this.sources.get(session.id)?.show(stream);
    };
    session.end = () => {
      if (this.streams.get(session.id) !== stream) return;
      this.streams.delete(session.id);
      this.sources.get(session.id)?.show(null);
    };
  }

  private async give(session: Session): Promise<void> {
    const { peer } = session;
    const mix = this.sound.streamOf(PROGRAMME_BUS);
    const picture = this.programme.take();
    session.end = () => {
      mix?.end();
      if (picture) this.programme.leave();
    };
    const stream = new MediaStream();
    for (const track of [picture, mix?.stream.getAudioTracks()[0]]) if (track) peer.addTrack(track, stream);
    for (const sender of peer.getSenders()) {
      const parameters = sender.getParameters();
      const [encoding] = parameters.encodings;
      if (sender.track?.kind !== 'video' || !encoding) continue;
      encoding.maxBitrate = VIEWER_BITRATE;
      await sender.setParameters(parameters).catch(() => undefined);
    }
  }

  async candidates({ session, candidates }: Extract<ServerAsk, { what: 'peer-candidates' }>): Promise<void> {
    const peer = this.sessions.get(session)?.peer;
    for (const candidate of candidates) await peer?.addIceCandidate(candidate).catch(() => undefined);
  }

  end(name: string): void {
    const session = this.sessions.get(name);
    if (!session) return;
    this.sessions.delete(name);
    session.peer.onconnectionstatechange = null;
    session.end();
    // After the frame that is on its way: closed before, the connection would leave that one open.
    setTimeout(() => session.peer.close(), LAST_FRAME_MS);
  }

  /** Ends whatever comes or goes by a way that is there no more. */
  keepOnly(has: (way: Offer['way'], id: string) => boolean): void {
    for (const [name, { way, id }] of this.sessions) if (!has(way, id)) this.end(name);
  }

  close(): void {
    for (const name of [...this.sessions.keys()]) this.end(name);
  }
}
