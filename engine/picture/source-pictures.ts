/** The pictures of all sources: queues of frames, stills, colours, cards and placeholders. */
import { type TextureRef } from '#core/picture/draw';
import { findSource, type NameCard, type Raster, type Show } from '#core/show/show';
import { FrameQueue, type QueuedFrame } from './frame-queue';
import { type FrameMessage, secondOf, type SourceHealth } from './messages';
import { drawNameCard, drawPlaceholder, drawSeat, plateCanvas } from './plates';
import { type RefPicture } from './renderer';

interface Entry {
  queue: FrameQueue;
  current: QueuedFrame | null;
  still: RefPicture | null;
  stop: (() => void) | null;
  /** Show time of a device's last frame, or of its opening; Infinity for what need not send any, or was reported already. */
  heardAt: number;
}

export interface SourceEvents {
  /** A source's first frame since it was connected. */
  seen: (id: string, width: number, height: number) => void;
  /** Its stream has ended by itself. */
  ended: (id: string) => void;
  /** A stream that is open has sent nothing for a while; told once, until it sends again. */
  silent: (id: string) => void;
}

/** A device that sends no picture for so long is stuck, show microseconds. */
const SILENT_MICROS = 2e6;
/** After a pause this long of the mixer itself nobody is to blame for what did not come in it, show microseconds. */
const PAUSE_MICROS = 0.5e6;
/** Plates kept at most; the oldest is thrown away. */
const PLATE_LIMIT = 64;
/** A still is kept at most this many times the raster's height. */
const STILL_SCALE = 2;

export class SourcePictures {
  private readonly entries = new Map<string, Entry>();
  private readonly health = new Map<string, SourceHealth>();
  private readonly plates = new Map<string, RefPicture>();
  private readonly taps = new Map<string, MessagePort>();
  private made = 0;
  private advancedAt = -Infinity;

  constructor(
    private readonly now: () => number,
    private readonly events: SourceEvents,
  ) {}

  /** Sends a copy of every frame of a source to `port`, also after the source was connected anew. */
  tap(id: string, port: MessagePort): void {
    this.untap(id);
    this.taps.set(id, port);
  }

  untap(id: string): void {
    this.taps.get(id)?.close();
    this.taps.delete(id);
  }

  private copy(id: string, frame: VideoFrame, stamp: number): void {
    const port = this.taps.get(id);
    if (!port) return;
    const message: FrameMessage = { frame: frame.clone(), stamp };
    port.postMessage(message, [message.frame]);
  }

  connectPort(id: string, port: MessagePort): void {
    const entry = this.renew(id);
    let first = true;
    port.onmessage = ({ data }: MessageEvent<FrameMessage>) => {
      this.copy(id, data.frame, data.stamp);
      entry.queue.push(data.frame, data.stamp, data.flush);
      if (first) this.events.seen(id, data.frame.displayWidth, data.frame.displayHeight);
      first = false;
    };
    entry.stop = () => {
      port.onmessage = null;
      port.close();
    };
  }

  connectStream(id: string, stream: ReadableStream<VideoFrame>): void {
    const entry = this.renew(id);
    const reader = stream.getReader();
    entry.heardAt = this.now();
    let stopped = false;
    // Read on to the end, which comes when the page stops the track: frames still on their way would be lost unclosed if the
    // stream were cancelled, and a device with few frames would stall.
    entry.stop = () => {
      stopped = true;
    };
    const pump = async () => {
      let first = true;
      for (;;) {
        const { done, value } = await reader.read();
        if (done) break;
        if (stopped) {
          value.close();
          continue;
        }
        if (first) this.events.seen(id, value.displayWidth, value.displayHeight);
        first = false;
        const stamp = this.now();
        entry.heardAt = stamp;
        this.copy(id, value, stamp);
        entry.queue.push(value, stamp);
      }
      entry.heardAt = Infinity;
      if (!stopped) this.events.ended(id);
    };
    pump().catch(() => {
      if (!stopped) this.events.ended(id);
    });
  }

  setStill(id: string, image: ImageBitmap, raster: Raster): void {
    const entry = this.renew(id);
    const scale = Math.min(1, (raster.height * STILL_SCALE) / image.height);
    const { canvas, context } = plateCanvas(image.width * scale, image.height * scale);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height);
    let opaque = true;
    for (let i = 3; i < data.length && opaque; i += 4) opaque = data[i] === 255;
    entry.still = this.picture(canvas, opaque);
    this.events.seen(id, image.width, image.height);
    image.close();
  }

  setHealth(id: string, health: SourceHealth): void {
    this.health.set(id, health);
    const entry = this.entries.get(id);
    if (health.state !== 'lost' || !entry) return;
    entry.queue.clear();
    entry.current = null;
    entry.heardAt = Infinity;
  }

  remove(id: string): void {
    const entry = this.entries.get(id);
    if (!entry) return;
    entry.stop?.();
    entry.queue.clear();
    this.entries.delete(id);
    this.health.delete(id);
  }

  private renew(id: string): Entry {
    const old = this.entries.get(id);
    old?.stop?.();
    old?.queue.clear();
    const entry: Entry = { queue: new FrameQueue(), current: null, still: null, stop: null, heardAt: Infinity };
    this.entries.set(id, entry);
    return entry;
  }

  /** Lets every source move on to its picture of `stamp`. */
  advance(stamp: number): void {
    const now = this.now();
    const pause = now - this.advancedAt > PAUSE_MICROS;
    this.advancedAt = now;
    for (const [id, entry] of this.entries) {
      entry.current = entry.queue.at(stamp);
      if (pause && entry.heardAt < now) entry.heardAt = now;
      if (now - entry.heardAt < SILENT_MICROS) continue;
      entry.heardAt = Infinity;
      this.events.silent(id);
    }
  }

  /** What to draw for `ref`: live, or a stand-in that says what is missing. */
  lookup(show: Show, ref: TextureRef, raster: Raster): RefPicture | null {
    if (ref.kind === 'card') return this.card(ref.card, raster);
    if (ref.kind === 'colour') return this.colour(ref.colour);
    if (ref.kind === 'seat') return this.plate(`seat ${ref.name} ${ref.colour} ${raster.height}`, true, () => drawSeat(ref.name, ref.colour, raster.width, raster.height));
    if (ref.kind === 'scene') return null;
    const source = findSource(show, ref.id);
    if (!source) return null;
    if (source.settings.kind === 'colour') return this.colour(source.settings.colour);
    const entry = this.entries.get(ref.second ? secondOf(ref.id) : ref.id);
    if (entry?.still) return entry.still;
    if (entry?.current) {
      const { frame, serial } = entry.current;
      return { image: frame, width: frame.displayWidth, height: frame.displayHeight, opaque: !frame.format?.endsWith('A'), version: `frame ${serial}` };
    }
    const cause = this.health.get(ref.id)?.cause || 'waiting for its picture';
    return this.plate(`gone ${source.name} ${cause} ${source.colour} ${raster.height}`, true, () =>
      drawPlaceholder(source.name, cause, source.colour, raster.width, raster.height),
    );
  }

  private colour(hex: string): RefPicture {
    return this.plate(`colour ${hex}`, true, () => {
      const { canvas, context } = plateCanvas(16, 16);
      context.fillStyle = hex;
      context.fillRect(0, 0, 16, 16);
      return canvas;
    });
  }

  private card(card: NameCard, raster: Raster): RefPicture {
    const width = Math.round(raster.width * 0.52);
    const height = Math.round(raster.height * 0.165);
    return this.plate(`card ${width}×${height} ${card.name}\n${card.role}`, false, () => drawNameCard(card, width, height));
  }

  private picture(canvas: OffscreenCanvas, opaque: boolean): RefPicture {
    this.made += 1;
    return { image: canvas, width: canvas.width, height: canvas.height, opaque, version: `made ${this.made}` };
  }

  private plate(key: string, opaque: boolean, draw: () => OffscreenCanvas): RefPicture {
    const known = this.plates.get(key);
    if (known) {
      this.plates.delete(key);
      this.plates.set(key, known);
      return known;
    }
    const made = this.picture(draw(), opaque);
    this.plates.set(key, made);
    if (this.plates.size > PLATE_LIMIT) {
      const oldest = this.plates.keys().next().value;
      if (oldest !== undefined) this.plates.delete(oldest);
    }
    return made;
  }
}
