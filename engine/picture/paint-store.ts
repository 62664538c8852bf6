/** Paints as the mixer has them: asked of the graphics worker ahead of time, kept within a bound in bytes, with the last one standing in. */
import { type Paint } from '#core/graphics/paint';
import { type FromGraphics, type PaintWanted } from '../graphics/messages';
import { type RefPicture } from './renderer';

/** Bytes of pixels that are kept. */
const LIMIT = 128 * 1024 * 1024;
/** Showings whose last picture is remembered. */
const MOST_SLOTS = 1024;
/** Paints that wait for monitors. */
const MOST_LATER = 500;
/** A worker that has not answered for so long is dead, milliseconds. */
const DEAD_MS = 6000;

interface Kept {
  picture: RefPicture;
  bytes: number;
}

interface Size {
  width: number;
  height: number;
}

const nameOf = (key: string, { width, height }: Size): string => `${key} ${width}×${height}`;

export class PaintStore {
  bytes = 0;
  /** Counted for benches and tests. */
  readonly stats = { drawn: 0, pixels: 0, millis: 0 };
  private readonly kept = new Map<string, Kept>();
  private readonly waiting = new Map<string, { wanted: PaintWanted; since: number }>();
  /** What only monitors want: asked for one by one, so that what the audience sees waits for one of them at most. */
  private readonly later = new Map<string, PaintWanted>();
  private readonly last = new Map<string, RefPicture>();
  private readonly arrivals = new Map<string, number>();
  private readonly failed = new Set<string>();
  /** Assets that are missing, and were told. */
  private readonly told = new Set<string>();
  private port: MessagePort | null = null;
  /** Whoever looks for paints now are monitors alone. */
  forMonitors = false;

  constructor(
    /** A paint cannot be drawn, and why. */
    private readonly trouble: (message: string) => void,
    /** The worker does not answer. */
    private readonly dead: () => void,
    private readonly now: () => number = () => performance.now(),
  ) {}

  /** From now on paints are asked over this port; what was asked and has not come is asked again. */
  connect(port: MessagePort): void {
    this.port?.close();
    this.port = port;
    port.onmessage = ({ data }: MessageEvent<FromGraphics>) => this.receive(data);
    for (const entry of this.waiting.values()) {
      entry.since = this.now();
      port.postMessage(entry.wanted);
    }
  }

  private receive(answer: FromGraphics): void {
    const name = nameOf(answer.key, answer);
    this.waiting.delete(name);
    this.askLater();
    if (answer.type === 'failed') {
      if (this.failed.size > 1000) this.failed.clear();
      if (!this.failed.has(name)) this.trouble(answer.message);
      this.failed.add(name);
      return;
    }
    const { width, height, pixels, key, missing } = answer;
    const [gone] = missing.filter((id) => !this.told.has(id));
    for (const id of missing) this.told.add(id);
    if (gone !== undefined) this.trouble('a file of its images or fonts is gone from this browser, or cannot be read');
    this.stats.drawn += 1;
    this.stats.pixels += width * height;
    this.stats.millis += answer.millis;
    const picture: RefPicture = { image: new ImageData(pixels, width, height), width, height, opaque: false, version: `paint ${name}` };
    this.kept.set(name, { picture, bytes: pixels.length });
    this.bytes += pixels.length;
    this.arrivals.set(key, (this.arrivals.get(key) ?? 0) + 1);
    if (this.arrivals.size > 8192) this.arrivals.clear();
    for (const [old, { bytes }] of this.kept) {
      if (this.bytes <= LIMIT || old === name) break;
      this.kept.delete(old);
      this.bytes -= bytes;
    }
  }

  /** Asks for a paint that is not there yet. */
  want(paint: Paint, size: Size): void {
    const name = nameOf(paint.key, size);
    if (this.kept.has(name) || this.waiting.has(name) || this.failed.has(name)) return;
    this.ask(name, { type: 'paint', paint, ...size });
  }

  /** Asks for it once nothing else is waited for. */
  private wantLater(paint: Paint, size: Size): void {
    const name = nameOf(paint.key, size);
    if (this.waiting.has(name) || this.failed.has(name)) return;
    // Monitors ask again as long as they show it.
    if (this.later.size >= MOST_LATER) this.later.clear();
    this.later.set(name, { type: 'paint', paint, ...size });
    this.askLater();
  }

  private ask(name: string, wanted: PaintWanted): void {
    this.later.delete(name);
    this.waiting.set(name, { wanted, since: this.now() });
    this.port?.postMessage(wanted);
  }

  private askLater(): void {
    const [next] = this.later;
    if (next && this.waiting.size === 0) this.ask(...next);
  }

  /** The picture of a paint at a size; until it is drawn, what its slot showed last. */
  find(paint: Paint, slot: string, size: Size): RefPicture | null {
    const name = nameOf(paint.key, size);
    const kept = this.kept.get(name);
    if (!kept) {
      if (this.forMonitors) this.wantLater(paint, size);
      else this.want(paint, size);
      return this.last.get(`${slot} ${size.width}`) ?? null;
    }
    // The ones used last stay.
    this.kept.delete(name);
    this.kept.set(name, kept);
    this.remember(`${slot} ${size.width}`, kept.picture);
    return kept.picture;
  }

  private remember(slot: string, picture: RefPicture): void {
    if (this.last.get(slot) === picture) return;
    this.last.delete(slot);
    this.last.set(slot, picture);
    const oldest = this.last.size > MOST_SLOTS ? this.last.keys().next().value : undefined;
    if (oldest !== undefined) this.last.delete(oldest);
  }

  /** Changes when a picture of the paint comes. */
  version(paint: Paint): string {
    return `${paint.key}:${this.arrivals.get(paint.key) ?? 0}`;
  }

  /** Says so when the worker is dead. Called now and then. */
  watch(): void {
    const [first] = this.waiting.values();
    if (!first || this.now() - first.since < DEAD_MS) return;
    for (const entry of this.waiting.values()) entry.since = this.now();
    this.dead();
  }
}
