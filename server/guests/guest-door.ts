/**
 * Where guests come in: each with the secret of a link that the host has told the hash of, one at a time for each link. What guest and host say to
 * each other is handed on, between these two alone. While no window runs the show a guest waits here.
 */
import { createHash, randomBytes } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { type WebSocket } from 'ws';
import { type FromGuest, GUEST_CLOSED, GUEST_VERSION, guestMessage, type HostSays, type ToGuest } from '#core/guests/line';
import { type WayIn } from '#core/panels/way-in';
import { isValid } from '#core/panels/pass';
import { addressOf, sameSecret, tooMany } from '../guard';
import { type HostLine } from '../remote/host-line';
import { type Relay } from '../remote/relay';
import { type Throttle } from '../throttle';

/** Guests and those who wait, over all shows. */
const MOST_LINES = 100;
const ENTER_MS = 10_000;
/** Messages a second: candidates come in a burst, words do not. */
const MOST_MESSAGES = 60;
/** Bytes that may wait for a guest who reads nothing. */
const BEHIND_BYTES = 1_000_000;
/** How often it is asked whether a page is still there, and after how much silence it is not, milliseconds. */
const LOOK_MS = 2000;
const SILENT_MS = 7000;

interface Guest {
  socket: WebSocket;
  request: IncomingMessage;
  session: string;
  show: string;
  hash: string | null;
  device: string;
  /** The link it has come by, and the window that it is at; null while it waits. */
  link: WayIn | null;
  line: HostLine | null;
  heardAt: number;
  counted: { since: number; count: number };
}

export class GuestDoor {
  private readonly guests = new Set<Guest>();
  private readonly timer: NodeJS.Timeout;

  constructor(
    private readonly relay: Relay,
    private readonly guesses: Throttle,
  ) {
    relay.welcome({
      arranged: () => {
        for (const guest of this.guests) if (guest.hash !== null) this.settle(guest);
      },
      toGuest: (line, session, message) => this.toGuest(line, session, message),
      out: (line, id) => {
        for (const guest of this.guests)
          if (guest.line === line && guest.link?.id === id) guest.socket.close(GUEST_CLOSED.out, 'The crew has ended this connection.');
      },
    });
    this.timer = setInterval(() => this.look(), LOOK_MS);
    this.timer.unref();
  }

  add(socket: WebSocket, request: IncomingMessage): void {
    if (this.guests.size >= MOST_LINES) return socket.close(GUEST_CLOSED.full, 'Too many guests are here.');
    const guest: Guest = {
      socket,
      request,
      session: '',
      show: '',
      hash: null,
      device: '',
      link: null,
      line: null,
      heardAt: performance.now(),
      counted: { since: 0, count: 0 },
    };
    this.guests.add(guest);
    const entering = setTimeout(() => guest.hash === null && socket.close(GUEST_CLOSED.misread, 'It has not entered.'), ENTER_MS);
    socket.on('error', () => socket.terminate());
    socket.on('close', () => {
      clearTimeout(entering);
      this.guests.delete(guest);
      this.gone(guest);
    });
    socket.on('message', (data, isBinary) => {
      guest.heardAt = performance.now();
      if (GuestDoor.floods(guest)) return socket.close(GUEST_CLOSED.flood, 'More was sent than any guest says.');
      let message: FromGuest | null = null;
      try {
        message = isBinary ? null : guestMessage(JSON.parse(String(data as Buffer)));
      } catch {
        // Said below.
      }
      if (!message) return socket.close(GUEST_CLOSED.misread, 'This message cannot be read.');
      return this.take(guest, message);
    });
    return undefined;
  }

  private static floods(guest: Guest): boolean {
    const now = performance.now();
    if (now - guest.counted.since > 1000) guest.counted = { since: now, count: 0 };
    guest.counted.count += 1;
    return guest.counted.count > MOST_MESSAGES;
  }

  private static post({ socket }: Guest, message: ToGuest): void {
    if (socket.readyState === socket.OPEN && socket.bufferedAmount < BEHIND_BYTES) socket.send(JSON.stringify(message));
  }

  private take(guest: Guest, message: FromGuest): void {
    if (message.kind === 'pong') return;
    if (message.kind === 'says') return guest.line?.fromGuest(guest.link?.id ?? '', guest.session, message.message);
    if (guest.hash !== null) return guest.socket.close(GUEST_CLOSED.misread, 'It has entered already.');
    if (message.version !== GUEST_VERSION)
      return guest.socket.close(GUEST_CLOSED.version, 'This page is of another version than the server: load it anew.');
    if (tooMany(this.guesses, guest.request)) return guest.socket.close(GUEST_CLOSED.slow, 'Too many wrong links came from here. Wait.');
    guest.hash = createHash('sha256').update(message.secret).digest('hex');
    guest.show = message.show;
    guest.device = message.device;
    return this.settle(guest);
  }

  /** A guest at the window that runs the show, by their link as it is now. */
  private settle(guest: Guest): void {
    const line = this.relay.find(guest.show);
    const before = guest.line;
    if (!line?.ways) {
      if (before) this.gone(guest);
      return GuestDoor.post(guest, { kind: 'waiting' });
    }
    const link = line.ways.find((l) => l.kind === 'guest' && sameSecret(l.hash, guest.hash ?? '')) ?? null;
    if (!link || !isValid(link, Date.now())) {
      if (!link && !guest.link) this.guesses.wrong(addressOf(guest.request));
      this.gone(guest);
      return guest.socket.close(GUEST_CLOSED.withdrawn, link ? 'This link has ended.' : 'This link is not known here, or was withdrawn.');
    }
    guest.link = link;
    if (before === line) return undefined;
    if (before) this.gone(guest);
    for (const other of this.guests) {
      if (other === guest || other.line !== line || other.link?.id !== link.id) continue;
      // One place for each link: the same browser takes it over, anybody else is told that it is taken.
      if (other.device !== guest.device) return guest.socket.close(GUEST_CLOSED.taken, 'Somebody is here with this link already.');
      this.gone(other);
      other.socket.close(GUEST_CLOSED.taken, 'This place was taken over by another page of the same browser.');
    }
    guest.link = link;
    guest.line = line;
    // Each call is a new one: both ends make their connection anew, whichever of them was away.
    guest.session = randomBytes(9).toString('hex');
    GuestDoor.post(guest, { kind: 'entered', name: link.name, show: line.show?.name ?? '', session: guest.session });
    return line.guestIn(link.id, guest.session);
  }

  /** Tells the host that a guest's page is there no more. */
  private gone(guest: Guest): void {
    const { line, link } = guest;
    guest.line = null;
    if (line && link) line.guestGone(link.id, guest.session);
  }

  private toGuest(line: HostLine, session: string, message: HostSays): void {
    for (const guest of this.guests) if (guest.line === line && guest.session === session) GuestDoor.post(guest, { kind: 'says', message });
  }

  private look(): void {
    const now = performance.now();
    for (const guest of this.guests) {
      if (guest.link && !isValid(guest.link, Date.now())) this.settle(guest);
      if (now - guest.heardAt > SILENT_MS) guest.socket.terminate();
      else GuestDoor.post(guest, { kind: 'ping' });
    }
  }

  close(): void {
    clearInterval(this.timer);
    for (const { socket } of this.guests) socket.terminate();
  }
}
