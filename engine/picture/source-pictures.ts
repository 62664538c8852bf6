/** The pictures of all sources: queues of frames, stills, colours and placeholders. */
import { type TextureRef } from '#core/picture/draw';
import { findSource } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { type Raster } from '#core/show/raster';
import { FrameOutlet, RECORDER_FRAMES } from './frame-outlet';
import { FrameQueue, type QueuedFrame } from './frame-queue';
import { type FrameMessage, secondOf, type SourceHealth } from './messages';
import { drawPlaceholder, drawSeat, plateCanvas } from './plates';
import { type RefPicture } from './renderer';

interface Entry {
  queue: FrameQueue;
  current: QueuedFrame | null;
  still: RefPicture | null;
  stop: (() => void) | null;
}

/** Told of a source's first frame since it was connected. */
export type SourceSeen = (id: string, width: number, height: number) => void;

/** Plates kept at most; the oldest is thrown away. */
const PLATE_LIMIT = 64;
/** A still is kept at most this many times the raster's height. */
const STILL_SCALE = 2;

export class SourcePictures {
  private readonly entries = new Map<string, Entry>();
  private readonly health = new Map<string, SourceHealth>();
  private readonly plates = new Map<string, RefPicture>();
  private readonly copies = new Map<string, FrameOutlet>();
  private made = 0;

  constructor(private readonly seen: SourceSeen) {}

  /** Sends a copy of every frame of a source to `port`, also after the source was connected anew. */
  copyTo(id: string, port: MessagePort): void {
    this.copyNoMore(id);
    this.copies.set(id, new FrameOutlet(port, RECORDER_FRAMES));
  }

  copyNoMore(id: string): void {
    this.copies.get(id)?.close();
    this.copies.delete(id);
  }

  connectPort(id: string, port: MessagePort): void {
    const entry = this.renew(id);
    let first = true;
    port.onmessage = ({ data }: MessageEvent<FrameMessage>) => {
      this.copies.get(id)?.send({ frame: data.frame.clone(), stamp: data.stamp });
      entry.queue.push(data.frame, data.stamp, data.flush);
      if (first) this.seen(id, data.frame.displayWidth, data.frame.displayHeight);
      first = false;
    };
    entry.stop = () => {
      // Frames still on their way would stay open in a port that is closed here: its driver closes it once it has sent its last.
      port.onmessage = ({ data }: MessageEvent<FrameMessage>) => data.frame.close();
    };
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
    this.seen(id, image.width, image.height);
    image.close();
  }

  setHealth(id: string, health: SourceHealth): void {
    this.health.set(id, health);
    const entry = this.entries.get(id);
    if (health.state !== 'lost' || !entry) return;
    entry.queue.clear();
    entry.current = null;
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
    const entry: Entry = { queue: new FrameQueue(), current: null, still: null, stop: null };
    this.entries.set(id, entry);
    return entry;
  }

  /** Lets every source move on to its picture of `stamp`. */
  advance(stamp: number): void {
    for (const entry of this.entries.values()) entry.current = entry.queue.at(stamp);
  }

  /** What to draw for `ref`: live, or a stand-in that says what is missing. */
  lookup(show: Show, ref: TextureRef, raster: Raster): RefPicture | null {
    if (ref.kind === 'colour') return this.colour(ref.colour);
    if (ref.kind === 'seat')
      return this.plate(`seat ${ref.name} ${ref.colour} ${raster.height}`, true, () =>
        drawSeat(ref.name, ref.colour, raster.width, raster.height),
      );
    if (ref.kind === 'scene' || ref.kind === 'output' || ref.kind === 'paint') return null;
    const source = findSource(show, ref.id);
    if (!source) return null;
    if (source.settings.kind === 'colour') return this.colour(source.settings.colour);
    const entry = this.entries.get(ref.second ? secondOf(ref.id) : ref.id);
    if (entry?.still) return entry.still;
    if (entry?.current) {
      const { frame, serial } = entry.current;
      return {
        image: frame,
        width: frame.displayWidth,
        height: frame.displayHeight,
        opaque: !frame.format?.endsWith('A'),
        version: `frame ${serial}`,
      };
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
