/** Stands between the windows that run shows and everybody who works them from elsewhere. */
import { type WebSocket } from 'ws';
import { type ToVisitor } from '#core/audience/line';
import { type HostSays } from '#core/guests/line';
import { type HostOutcome, type ShowName, type Snapshot, type ToListener } from '#core/panels/messages';
import { HostLine, NoHostError } from './host-line';

/** Windows and listeners at most. */
const HOST_LIMIT = 16;
const LISTENER_LIMIT = 64;
/** Bytes that may wait for a listener before it is left out, and gets a new snapshot when it has caught up. */
const BEHIND_BYTES = 8_000_000;
/** A listener may ask for a new snapshot so often, milliseconds. */
const SNAPSHOT_PAUSE_MS = 500;

interface Listener {
  socket: WebSocket;
  /** The show it chose; null listens to the only one. */
  showId: string | null;
  /** What it heard of last; null when no show runs for it. */
  line: HostLine | null;
  /** It was left out of something. */
  behind: boolean;
  askedAt: number;
}

/** Others than listeners who hear what hosts tell: see `Panels`. */
export interface PanelSide {
  /** The lines that it hears. */
  hears: () => readonly HostLine[];
  told: (line: HostLine, message: ToListener) => void;
  /** Windows have come or gone, or their passes have changed. */
  arranged: () => void;
  bytes: (line: HostLine, bytes: Buffer) => void;
  mosaic: (line: HostLine) => void;
  meters: (line: HostLine) => void;
  talk: (line: HostLine) => void;
  held: (line: HostLine) => void;
}

/** Where guests come in: see `GuestDoor`. */
export interface GuestSide {
  /** Windows have come or gone, or their links have changed. */
  arranged: () => void;
  toGuest: (line: HostLine, session: string, message: HostSays) => void;
  out: (line: HostLine, id: string) => void;
}

/** Where the audience comes in: see `AudienceDoor`. */
export interface AudienceSide {
  /** Windows have come or gone, or their ways in have changed. */
  arranged: () => void;
  /** A window has another page for them. */
  page: (line: HostLine) => void;
  toSender: (line: HostLine, from: string, message: ToVisitor) => void;
  picture: (line: HostLine, from: string) => void;
}

export class Relay {
  private panels: PanelSide | null = null;
  private guests: GuestSide | null = null;
  private audience: AudienceSide | null = null;
  private readonly lines: HostLine[] = [];
  private readonly listeners = new Set<Listener>();

  /** Takes a window that has proved to be one of this server's. */
  addHost(socket: WebSocket): void {
    if (this.lines.length >= HOST_LIMIT) {
      socket.close(1013, 'Too many windows run shows here.');
      return;
    }
    const line: HostLine = new HostLine(socket, {
      named: (named) => {
        for (const other of this.lines) if (other !== named && other.show?.id === named.show?.id) other.replaced();
        this.arrange();
      },
      told: (from, message) => {
        for (const listener of this.listeners) if (listener.line === from) this.tell(listener, message);
        this.panels?.told(from, message);
      },
      passes: () => this.panels?.arranged(),
      bytes: (from, bytes) => this.panels?.bytes(from, bytes),
      mosaic: (from) => this.panels?.mosaic(from),
      meters: (from) => this.panels?.meters(from),
      talk: (from) => this.panels?.talk(from),
      held: (from) => this.panels?.held(from),
      ways: () => {
        this.guests?.arranged();
        this.audience?.arranged();
      },
      audience: (from) => this.audience?.page(from),
      toSender: (from, sender, message) => this.audience?.toSender(from, sender, message),
      wantPicture: (from, sender) => this.audience?.picture(from, sender),
      toGuest: (from, session, message) => this.guests?.toGuest(from, session, message),
      guestOut: (from, id) => this.guests?.out(from, id),
      closed: (gone) => {
        this.lines.splice(this.lines.indexOf(gone), 1);
        this.arrange();
      },
    });
    this.lines.push(line);
  }

  addListener(socket: WebSocket, showId: string | null): void {
    if (this.listeners.size >= LISTENER_LIMIT) {
      socket.close(1013, 'Too many listen here.');
      return;
    }
    const listener: Listener = { socket, showId, line: null, behind: false, askedAt: -Infinity };
    this.listeners.add(listener);
    socket.on('close', () => {
      this.listeners.delete(listener);
      this.follow();
    });
    socket.on('error', () => socket.terminate());
    socket.on('message', (data) => this.hear(listener, String(data as Buffer)));
    listener.line = this.find(showId);
    this.greet(listener);
    this.follow();
  }

  /** Lets others hear what hosts tell. */
  attend(panels: PanelSide): void {
    this.panels = panels;
  }

  /** Lets guests come to the windows. */
  welcome(guests: GuestSide): void {
    this.guests = guests;
  }

  /** Lets the audience come to the windows. */
  gather(audience: AudienceSide): void {
    this.audience = audience;
  }

  /** True while a window's line is open. */
  runs(line: HostLine): boolean {
    return this.lines.includes(line);
  }

  /** Hosts tell their changes only while somebody hears them. */
  follow(): void {
    const heard = new Set([...[...this.listeners].map((l) => l.line), ...(this.panels?.hears() ?? [])]);
    for (const line of this.lines) if (line.show) line.follow(heard.has(line));
  }

  /** All that a listener may say is that it missed something. */
  private hear(listener: Listener, text: string): void {
    if (text !== '{"kind":"snapshot"}') return listener.socket.close(1003, 'A listener may only ask for a snapshot.');
    const now = performance.now();
    if (now - listener.askedAt < SNAPSHOT_PAUSE_MS) return;
    listener.askedAt = now;
    this.greet(listener);
  }

  /** Every listener on the line it listens to now. */
  private arrange(): void {
    for (const listener of this.listeners) {
      const line = this.find(listener.showId);
      if (line !== listener.line || !line) {
        listener.line = line;
        this.greet(listener);
      }
    }
    this.panels?.arranged();
    this.guests?.arranged();
    this.audience?.arranged();
    this.follow();
  }

  private greet(listener: Listener): void {
    const { line } = listener;
    listener.behind = false;
    this.post(listener, { kind: 'host', present: line !== null, ...(line?.show && { show: line.show }), shows: this.shows() });
    if (line?.snapshot) this.post(listener, line.snapshot);
  }

  private tell(listener: Listener, message: ToListener): void {
    if (listener.socket.bufferedAmount > BEHIND_BYTES) listener.behind = true;
    else if (listener.behind) this.greet(listener);
    else this.post(listener, message);
  }

  private post({ socket }: Listener, message: ToListener): void {
    if (socket.readyState === socket.OPEN) socket.send(JSON.stringify(message));
  }

  /** The shows that run, the last opened first. */
  shows(): ShowName[] {
    return this.lines.flatMap(({ show }) => (show ? [show] : [])).reverse();
  }

  /** The line of a show, or of the only one; null when there is none. */
  find(showId: string | null): HostLine | null {
    const named = this.lines.filter((l) => l.show !== null);
    if (showId !== null) return named.findLast((l) => l.show?.id === showId) ?? null;
    return named.length === 1 ? (named[0] ?? null) : null;
  }

  /** @throws NoHostError when it does not run, or when it is not clear which is meant. */
  private line(showId: string | null): HostLine {
    const line = this.find(showId);
    if (line) return line;
    const shows = this.shows();
    if (shows.length === 0) throw new NoHostError(503, 'no-host', 'No window runs a show. Open one in Bivoca first.');
    if (showId === null)
      throw new NoHostError(409, 'several-shows', 'Several shows are open. Say which one with ?show= and its id.', shows);
    throw new NoHostError(404, 'unknown-show', `No window runs a show with the id "${showId.slice(0, 64)}".`, shows);
  }

  /** Runs a command in the window of a show; null is the only one. @throws NoHostError */
  async command(showId: string | null, command: unknown): Promise<HostOutcome> {
    return this.line(showId).command(command);
  }

  /** Show and air as they are now. @throws NoHostError */
  async state(showId: string | null): Promise<Snapshot> {
    return this.line(showId).current();
  }

  /** The host's figures as they are now. @throws NoHostError */
  async status(showId: string | null): Promise<Record<string, unknown>> {
    return this.line(showId).figures();
  }
}
