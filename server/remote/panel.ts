/** One connection of somebody who works a show with a pass. */
import { randomBytes } from 'node:crypto';
import { type IncomingMessage } from 'node:http';
import { type WebSocket } from 'ws';
import { type PassHash } from '#core/panels/pass';
import { type ToPanel } from '#core/panels/panel-messages';
import { type Ears } from '#core/panels/sound-line';
import { type WantedTile } from '#core/panels/mosaic';
import { type HostLine } from './host-line';

/** Messages a second of one panel: a fader that is drawn at every frame of a quick screen, as much again, and sound. */
const MOST_MESSAGES = 400;
/** Bytes that may wait for a panel before it is left out of pictures and sound. */
const BLIND_BYTES = 500_000;

export class Panel {
  /** Of the secret it entered with; null before. */
  hash: string | null = null;
  showId: string | null = null;
  /** The window it works, and the pass that lets it; null while it waits. */
  line: HostLine | null = null;
  pass: PassHash | null = null;
  behind = false;
  /** What it looks at. */
  tiles: readonly WantedTile[] = [];
  /** It has been left out of pictures, until one that stands by itself comes. */
  blind = true;
  askedAt = -Infinity;
  delayMs: number | null = null;
  /** The number of what it listens to; null for nothing. */
  ears: { key: string; ears: Ears; number: number } | null = null;
  /** Whom it speaks to now, and when it last said something. */
  talkTo: string | null = null;
  talkedAt = 0;
  readonly session = randomBytes(9).toString('hex');
  readonly since = Date.now();
  private counted = { since: 0, count: 0 };

  constructor(
    readonly socket: WebSocket,
    readonly address: string,
    readonly request: IncomingMessage,
    /** Marks what it says among the crew; see `sound-line.ts`. */
    readonly number: number,
  ) {}

  /** Bytes can be sent, and it is not behind. */
  get hears(): boolean {
    return this.socket.readyState === this.socket.OPEN && this.socket.bufferedAmount <= BLIND_BYTES;
  }

  post(message: ToPanel): void {
    if (this.socket.readyState === this.socket.OPEN) this.socket.send(JSON.stringify(message));
  }

  /** True when more comes than anybody's hands send. */
  floods(now: number): boolean {
    if (now - this.counted.since > 1000) this.counted = { since: now, count: 0 };
    this.counted.count += 1;
    return this.counted.count > MOST_MESSAGES;
  }
}
