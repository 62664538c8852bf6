/** A guest's own end, on the page that they have opened: the line to the server, the connection to the host, what they send and what they get. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import { type About, type FromGuest, GUEST_CLOSED, GUEST_VERSION, type ShortOf, type Standing, type ToGuest } from '#core/guests/line';
import { type IceServer, iceServersFrom } from '#core/peers/ice-servers';
import { PageSocket } from '../remote/page-socket';
import { shortOf } from './figures';
import { Negotiator } from './negotiator';

/** Longest between two tries: a guest on air is wanted back at once. */
const LONGEST_WAIT_MS = 1500;

/** A call that has found no way after so many milliseconds is made anew. */
const CALL_MS = 12_000;

/** How often it is looked at what keeps the picture small, milliseconds. */
const LOOK_MS = 2500;

/** Milliseconds without any word after which the line is taken for dead: the server asks every two seconds. */
const SILENT_MS = 7000;

const FINAL: Readonly<Record<number, string>> = {
  [GUEST_CLOSED.withdrawn]: 'This link is not known here, has ended or was withdrawn. Ask whoever sent it for another.',
  [GUEST_CLOSED.taken]: 'Somebody is here with this link already: close the other page, or ask for a link of your own.',
  [GUEST_CLOSED.version]: 'This page is of another version than the server: load it anew.',
  [GUEST_CLOSED.out]: 'The crew has ended the connection. Thank you for being here. By the same link you can come back while it is good.',
  [GUEST_CLOSED.misread]: 'Something that this page sent was not understood: load it anew.',
  [GUEST_CLOSED.flood]: 'This page sent more than it should: load it anew.',
};

export interface VisitState {
  line: 'opening' | 'waiting' | 'open' | 'lost' | 'ended';
  /** Why, in words for the guest; empty while all is well. */
  message: string;
  show: string;
  standing: Standing | null;
  /** What they see and hear of the show; null before it comes. */
  back: MediaStream | null;
  connected: boolean;
  hand: boolean;
  sharing: boolean;
  /** What there is too little of here, so that what is sent is lowered. */
  shortOf: ShortOf;
}

export interface VisitPlace {
  show: string;
  secret: string;
  /** Of this browser: with it one comes back to the same place. */
  device: string;
}

export class Visit {
  readonly store: StoreApi<VisitState> = createStore<VisitState>(() => ({
    line: 'opening',
    message: '',
    show: '',
    standing: null,
    back: null,
    connected: false,
    hand: false,
    sharing: false,
    shortOf: '',
  }));
  private readonly socket: PageSocket;
  private peer: RTCPeerConnection | null = null;
  private negotiator: Negotiator | null = null;
  private ended = false;
  private looking: ReturnType<typeof setInterval> | undefined;
  private lacked: ShortOf = '';
  private screen: MediaStream | null = null;
  /** The ways that the shared screen goes by. */
  private readonly shared: RTCRtpTransceiver[] = [];

  constructor(
    place: VisitPlace,
    private readonly camera: MediaStream,
    private about: About,
  ) {
    this.socket = new PageSocket({
      path: '/api/guest',
      silentMs: SILENT_MS,
      longestWaitMs: LONGEST_WAIT_MS,
      final: FINAL,
      opened: () => this.send({ kind: 'enter', version: GUEST_VERSION, ...place }),
      message: (text) => this.take(JSON.parse(text) as ToGuest),
      lost: () => this.set({ line: 'lost', message: 'The line to the show is down. This page tries again by itself: stay here.' }),
      refused: (why) => this.end(why),
    });
  }

  private set(change: Partial<VisitState>): void {
    this.store.setState(change);
  }

  private send(message: FromGuest): void {
    this.socket.send(JSON.stringify(message));
  }

  private take(message: ToGuest): void {
    switch (message.kind) {
      case 'ping':
        return this.send({ kind: 'pong' });
      case 'waiting':
        this.hangUp();
        return this.set({ line: 'waiting', message: 'The show is not open yet. You are called in by itself when it is: stay here.' });
      case 'entered':
        this.socket.entered();
        this.set({ line: 'open', message: '', show: message.show });
        return undefined;
      case 'says':
        // Each call is a new one, at whichever window.
        if (message.message.kind === 'servers') return this.call(iceServersFrom(message.message.servers));
        if (message.message.kind === 'signal') return void this.negotiator?.take(message.message.signal);
        return this.stand(message.message);
    }
  }

  private stand({ kind: _, ...standing }: { kind: 'standing' } & Standing): void {
    const before = this.store.getState().standing;
    this.set({ standing });
    if (standing.height !== before?.height || standing.frameRate !== before.frameRate) void this.limit(standing);
  }

  /** Looks what keeps the picture small; what lasts for two looks is said. A call that has just begun is always short of something. */
  private async look(peer: RTCPeerConnection): Promise<void> {
    const now = shortOf(await peer.getStats());
    const lasts = now === this.lacked;
    this.lacked = now;
    if (!lasts || now === this.store.getState().shortOf || peer !== this.peer) return;
    this.set({ shortOf: now });
    this.tell({ shortOf: now });
  }

  /** Makes the connection to the host. */
  private call(servers: IceServer[]): void {
    this.hangUp();
    const peer = new RTCPeerConnection({ bundlePolicy: 'max-bundle', iceServers: servers });
    this.peer = peer;
    this.tell({ ...this.about, camera: this.camera.id, screen: this.screen?.id ?? null });
    this.negotiator = new Negotiator(peer, true, (signal) => this.send({ kind: 'says', message: { kind: 'signal', signal } }));
    peer.ontrack = ({ streams: [stream] }) => stream && this.set({ back: stream });
    peer.onconnectionstatechange = () => {
      this.set({ connected: peer.connectionState === 'connected' });
      if (peer.connectionState === 'failed') peer.restartIce();
    };
    this.set({ shortOf: '' });
    clearInterval(this.looking);
    this.looking = setInterval(() => void this.look(peer).catch(() => undefined), LOOK_MS);
    setTimeout(() => this.peer === peer && peer.connectionState !== 'connected' && this.socket.drop(), CALL_MS);
    for (const track of this.camera.getTracks()) peer.addTrack(track, this.camera);
    if (this.screen) this.sendScreen(this.screen);
    const { standing } = this.store.getState();
    if (standing) void this.limit(standing);
  }

  /** Sends no more than is wanted: a smaller picture leaves the line to the sound. */
  private async limit({ height, frameRate }: Pick<Standing, 'height' | 'frameRate'>): Promise<void> {
    for (const sender of this.peer?.getSenders() ?? []) {
      const { track } = sender;
      if (track?.kind !== 'video' || !this.camera.getTracks().includes(track)) continue;
      const parameters = sender.getParameters();
      const [encoding] = parameters.encodings;
      if (!encoding) continue;
      encoding.scaleResolutionDownBy = Math.max(1, (track.getSettings().height ?? height) / height);
      encoding.maxFramerate = frameRate;
      encoding.maxBitrate = Math.round(height * height * 9);
      await sender.setParameters(parameters).catch(() => undefined);
    }
  }

  private hangUp(): void {
    clearInterval(this.looking);
    this.negotiator?.close();
    this.peer?.close();
    this.peer = null;
    this.negotiator = null;
    this.shared.length = 0;
    this.set({ connected: false, back: null });
  }

  private tell(about: About): void {
    this.send({ kind: 'says', message: { kind: 'about', ...about } });
  }

  /** Says something of oneself; what was said stays said through a new line. */
  say(about: About): void {
    this.about = { ...this.about, ...about };
    if (about.hand !== undefined) this.set({ hand: about.hand });
    this.tell(about);
  }

  /** Writes to the crew, or a comment for the show. */
  write(text: string, comment = false): void {
    this.send({ kind: 'says', message: { kind: 'word', text, comment } });
  }

  /** Shares a screen with its sound, or ends that. */
  share(stream: MediaStream | null): void {
    const { screen } = this;
    for (const transceiver of this.shared.splice(0)) transceiver.stop();
    screen?.getTracks().forEach((t) => t.stop());
    this.screen = stream;
    this.set({ sharing: stream !== null });
    this.tell({ screen: stream?.id ?? null });
    if (!stream) return;
    this.sendScreen(stream);
    for (const track of stream.getTracks()) track.onended = () => this.screen === stream && this.share(null);
  }

  /** In ways of its own: one that the programme comes by may not be turned round. */
  private sendScreen(stream: MediaStream): void {
    for (const track of stream.getTracks()) {
      const way = this.peer?.addTransceiver(track, { direction: 'sendonly', streams: [stream] });
      if (way) this.shared.push(way);
    }
  }

  /** Drops the line for a while, as a bad network does; for simulated guests. */
  lose(): void {
    this.hangUp();
    this.socket.drop();
  }

  leave(): void {
    this.tell({ leaves: true });
    this.end('You have left. By the same link you can come back while it is good.');
  }

  private end(message: string): void {
    this.ended = true;
    this.share(null);
    this.hangUp();
    this.socket.close();
    this.set({ line: 'ended', message });
  }

  close(): void {
    if (!this.ended) this.end('');
  }
}
