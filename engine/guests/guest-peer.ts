/** The host's end of one guest's connection: their pictures and sounds come in by streams, programme and their own mix go out. */
import { type About, type Signal } from '#core/guests/line';
import { iceServers } from '../peers/ice-servers';
import { Negotiator } from './negotiator';

/** Bits a second of the programme that a guest gets, and the height it is made smaller to. */
const RETURN_BITRATE = 350_000;
const RETURN_HEIGHT = 180;

export interface PeerEvents {
  signal: (signal: Signal) => void;
  /** The streams that are there now: camera and shared screen; null for none. */
  streams: (camera: MediaStream | null, screen: MediaStream | null) => void;
  /** The way to the guest is open, or it is not. */
  connected: (connected: boolean) => void;
  failed: (cause: string) => void;
}

/** What a guest gets: programme, its height in pixels, and their own mix. */
interface Back {
  programme: MediaStreamTrack | null;
  programmeHeight: number;
  mix: MediaStream | null;
}

export class GuestPeer {
  private given = false;
  private readonly peer: RTCPeerConnection;
  private readonly negotiator: Negotiator;
  private readonly streams = new Map<string, MediaStream>();
  /** All that have come, those that have gone again too. */
  private readonly tracks: MediaStreamTrack[] = [];
  private about: Pick<About, 'camera' | 'screen'> = {};
  private told = '';

  constructor(
    private readonly back: Back,
    private readonly events: PeerEvents,
  ) {
    this.peer = new RTCPeerConnection({ bundlePolicy: 'max-bundle', iceServers: iceServers() });
    this.negotiator = new Negotiator(this.peer, false, events.signal, (error) => events.failed(String(error)));
    this.peer.ontrack = ({ track, streams: [stream] }) => {
      if (!stream) return;
      this.streams.set(stream.id, stream);
      this.tracks.push(track);
      stream.onremovetrack = () => {
        if (stream.getTracks().length === 0) {
          this.streams.delete(stream.id);
          stream.onremovetrack = null;
        }
        this.tell();
      };
      track.onunmute = () => this.tell();
      this.tell();
    };
    this.peer.onconnectionstatechange = () => {
      const { connectionState } = this.peer;
      if (connectionState === 'connected') events.connected(true);
      if (connectionState === 'disconnected' || connectionState === 'failed') events.connected(false);
      if (connectionState === 'failed') this.peer.restartIce();
    };
  }

  /** What they get begins when their call was answered: an end that calls at the same moment has to take it back, and may find no way then. */
  private give({ programme, programmeHeight, mix }: Back): void {
    if (this.given) return;
    this.given = true;
    const own = new MediaStream();
    if (programme) this.sendProgramme(programme, own, programmeHeight);
    for (const track of mix?.getAudioTracks() ?? []) this.peer.addTrack(track, own);
  }

  private sendProgramme(track: MediaStreamTrack, stream: MediaStream, height: number): void {
    this.peer.addTransceiver(track, {
      direction: 'sendonly',
      streams: [stream],
      sendEncodings: [{ maxBitrate: RETURN_BITRATE, scaleResolutionDownBy: Math.max(1, height / RETURN_HEIGHT) }],
    });
  }

  take(signal: Signal): void {
    void this.negotiator.take(signal).then(() => {
      if ('description' in signal && this.peer.signalingState !== 'closed') this.give(this.back);
    });
  }

  /** What the guest's page has said of its streams. */
  hear(about: About): void {
    const { camera, screen } = about;
    this.about = { ...this.about, ...(camera !== undefined && { camera }), ...(screen !== undefined && { screen }) };
    this.tell();
  }

  private tell(): void {
    const of = (id: string | null | undefined) => (id ? (this.streams.get(id) ?? null) : null);
    const [camera, screen] = [of(this.about.camera), of(this.about.screen)];
    const text = [camera, screen].map((s) => [s?.id, s?.getTracks().map((t) => t.id)].join()).join(' | ');
    if (text === this.told) return;
    this.told = text;
    this.events.streams(camera, screen);
  }

  /** What the browser counts of this connection. */
  stats(): Promise<RTCStatsReport> {
    return this.peer.getStats();
  }

  close(): void {
    this.negotiator.close();
    this.peer.ontrack = null;
    this.peer.onconnectionstatechange = null;
    // Web Audio keeps what it has heard for as long as it runs (Chromium): a handler left on such a track would keep this connection too.
    for (const track of this.tracks.splice(0)) track.onunmute = null;
    for (const stream of this.streams.values()) stream.onremovetrack = null;
    this.streams.clear();
    this.peer.close();
  }
}
