/** Encoders that send a source, and viewers of the programme, at the window that runs the show: each offer is answered by a connection of its own. */
import { type ServerAsk } from '#core/panels/asks';
import { PROGRAMME_BUS } from '#core/sound/document';
import { type Driver } from '../capture/driver';
import { type Follower } from '../host/follower';
import { type SoundDesk } from '../sound/sound-desk';
import { iceServers } from './ice-servers';
import { type ProgrammeFeed } from './programme-feed';
import { letRunOut, StreamSources } from './stream-source';
import { gathered } from './gathered';

const MOST_VIEWERS = 8;
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
  private readonly sources = new StreamSources<'encoder'>('nothing is sent');

  constructor(
    private readonly sound: Pick<SoundDesk, 'streamOf'>,
    private readonly programme: ProgrammeFeed,
  ) {}

  get driver(): Driver<'encoder'> {
    return this.sources.driver;
  }

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
    if (way === 'encoder') this.endAll((s) => s.way === way && s.id === id);
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
      this.sources.show(session.id, stream);
    };
    session.end = () => {
      if (this.sources.of(session.id) === stream) this.sources.show(session.id, null);
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
    letRunOut(session.peer);
  }

  private endAll(which: (session: Session) => boolean): void {
    for (const [name, session] of [...this.sessions]) if (which(session)) this.end(name);
  }

  /** Ends whatever comes or goes by a way that is there no more. */
  keepOnly(has: (way: Offer['way'], id: string) => boolean): void {
    this.endAll(({ way, id }) => !has(way, id));
  }

  close(): void {
    this.endAll(() => true);
  }
}
