/** Draws without a graphics card: planes and WebAssembly, for the programme and for monitors. */
import { conversion } from '#core/picture/colour';
import { type PicturePlan, placementOf, type TextureRef } from '#core/picture/draw';
import { SoftMixer } from '#core/picture/soft/compose';
import { allocate, type Piece, release } from '#core/picture/soft/memory';
import {
  convertColour,
  createPlanes,
  fillFromRgba,
  fillFromYuv,
  fillInked,
  inkOf,
  type Planes,
  releasePlanes,
  setWithin,
  toRgba,
} from '#core/picture/soft/planes';
import { SoftFinish } from '#core/picture/soft/finish';
import { type OutputFinish } from '#core/screens/finish';
import { type Rect } from '#core/show/geometry';
import { type Raster } from '#core/show/raster';
import { isFrame, type MonitorJob, type OutputJob, type PictureLookup, refKey, type RefPicture, refsOf, type Renderer } from './renderer';

/** What this mixer makes, and takes in without converting. */
const COLOUR_SPACE = { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', fullRange: false } as const;

/** Planes not used during so many programme frames are given back. */
const FORGET_AFTER = 250;
/** Pixels of the largest picture that is drawn anew for its place; larger ones are scaled. */
const LARGEST = 4_000_000;

/** Finishes whose tables are kept. */
const MOST_FINISHES = 64;

interface SmallMixer {
  mixer: SoftMixer;
  /** Made for monitors only. */
  rgba: Piece | null;
  used: number;
}

interface Held {
  version: string;
  planes: Planes;
  used: number;
}

/** True for frames that are BT.709 limited, or do not say and are taken for it, as the graphics card's path does. */
const isStandard = ({ colorSpace }: VideoFrame): boolean =>
  !colorSpace.fullRange && !['smpte170m', 'bt470bg'].includes(colorSpace.matrix ?? '');

export class SoftRenderer implements Renderer {
  readonly description = 'in software, in Y′CbCr planes';
  private mixer: SoftMixer;
  private readonly held = new Map<string, Held>();
  private readonly small = new Map<string, SmallMixer>();
  private readonly finishes = new Map<string, SoftFinish>();
  private scratch: Piece = allocate(16);
  private turn = 0;

  constructor(
    private raster: Raster,
    private lookup: PictureLookup,
  ) {
    this.mixer = this.createMixer();
  }

  private createMixer(): SoftMixer {
    return new SoftMixer(
      this.raster,
      (ref, w, h) => this.planesOf(ref, w, h),
      (ref) => this.sizeOf(ref),
    );
  }

  /** Size of a reference's own picture; that of a paint is known before it is drawn. */
  private sizeOf(ref: TextureRef): { width: number; height: number; version?: string } | null {
    return ref.kind === 'paint' ? { ...ref.paint.bounds, version: ref.paint.key } : this.lookup(ref);
  }

  /** The one frame that a plan is, pixel for pixel, in the very form this mixer would make of it. */
  private wholeFrame(plan: PicturePlan, raster: Raster): (RefPicture & { image: VideoFrame }) | null {
    const item = plan.base[0];
    if (!item || plan.base.length > 1 || plan.mix || plan.lanes.length > 0 || plan.top?.length || plan.black > 0 || item.opacity < 1)
      return null;
    if (item.key || item.grade || item.radius || item.rotation || item.border || item.clip || item.matte) return null;
    const picture = item.texture.kind === 'paint' ? null : this.lookup(item.texture);
    if (!picture || !isFrame(picture.image) || picture.width !== this.raster.width || picture.height !== this.raster.height) return null;
    const { target, window, mirror } = placementOf(item, picture);
    const whole =
      target.x === 0 &&
      target.y === 0 &&
      target.width === raster.width &&
      target.height === raster.height &&
      window.x === 0 &&
      window.y === 0 &&
      window.width === 1 &&
      window.height === 1;
    if (!whole || mirror || !['I420', 'NV12'].includes(picture.image.format ?? '') || !isStandard(picture.image)) return null;
    return { ...picture, image: picture.image };
  }

  private async takeFrame(key: string, picture: RefPicture, frame: VideoFrame): Promise<void> {
    const known = this.held.get(key);
    if (known?.version === picture.version) {
      known.used = this.turn;
      return;
    }
    const { width, height } = frame.visibleRect ?? { width: frame.codedWidth, height: frame.codedHeight };
    const { format } = frame;
    const transparent = format?.endsWith('A') ?? false;
    const planes = this.room(key, known, width, height, transparent);
    if (format === 'I420' && width % 2 === 0 && height % 2 === 0) {
      const size = width * height;
      await frame.copyTo(planes.bytes, {
        layout: [
          { offset: 0, stride: width },
          { offset: size, stride: width / 2 },
          { offset: size * 1.25, stride: width / 2 },
        ],
      });
    } else if (format === 'I420' || format === 'NV12') {
      const bytes = this.scratchOf(frame.allocationSize());
      fillFromYuv(planes, bytes, await frame.copyTo(bytes));
    } else {
      const rgb = format && /^(RGB|BGR)[AX]$/.test(format) ? format : transparent ? 'RGBA' : 'RGBX';
      const options = rgb === format ? {} : { format: rgb as 'RGBA' | 'RGBX' };
      const bytes = this.scratchOf(frame.allocationSize(options));
      const [place] = await frame.copyTo(bytes, options);
      fillFromRgba(planes, {
        data: bytes,
        pointer: this.scratch.pointer,
        stride: place?.stride ?? width * 4,
        red: rgb.startsWith('B') ? 2 : 0,
      });
    }
    if ((format === 'I420' || format === 'NV12') && !isStandard(frame)) {
      const { matrix, offset } = conversion(frame.colorSpace.matrix, frame.colorSpace.fullRange ?? false);
      convertColour(planes, matrix, offset);
    }
    this.held.set(key, { version: picture.version, planes, used: this.turn });
  }

  /** Planes of a size under a key: those it had, when they fit. */
  private room(key: string, known: Held | undefined, width: number, height: number, withAlpha = false): Planes {
    if (known && known.planes.width === width && known.planes.height === height && (known.planes.alpha !== null) === withAlpha)
      return known.planes;
    this.forget(key);
    return createPlanes(width, height, withAlpha);
  }

  private scratchOf(size: number): Uint8Array<ArrayBuffer> {
    if (this.scratch.bytes.length < size) {
      release(this.scratch);
      this.scratch = allocate(size);
    }
    return this.scratch.bytes.subarray(0, size);
  }

  private planesOf(ref: TextureRef, width: number, height: number): Planes | null {
    const picture = this.lookup(ref, ref.kind === 'paint' && width > 0 ? { width, height } : undefined);
    if (!picture) return null;
    if (isFrame(picture.image)) return this.held.get(refKey(ref))?.planes ?? null;
    // What the app draws itself is kept at the size it is used at, so that its edges stay clean.
    const own = picture.opaque || width === 0 || width * height > LARGEST;
    const [w, h] = own ? [picture.width, picture.height] : [width, height];
    const key = `${refKey(ref)} ${w}×${h}`;
    const known = this.held.get(key);
    if (known?.version === picture.version) {
      known.used = this.turn;
      return known.planes;
    }
    const planes = this.room(key, known, w, h, !picture.opaque);
    const data = pixelsOf(picture.image, w, h);
    if (planes.alpha) fillInked(planes, data, inkOf(data, w, h));
    else fillFromRgba(planes, { data, stride: w * 4, red: 0 });
    this.held.set(key, { version: picture.version, planes, used: this.turn });
    return planes;
  }

  private forget(key: string): void {
    const held = this.held.get(key);
    if (held) releasePlanes(held.planes);
    this.held.delete(key);
  }

  async programme(plan: PicturePlan, raster: Raster, stamp: number, duration: number): Promise<VideoFrame> {
    this.turn += 1;
    for (const [key, { used }] of this.held) if (this.turn - used > FORGET_AFTER) this.forget(key);
    const whole = this.wholeFrame(plan, raster);
    if (whole) return new VideoFrame(whole.image, { timestamp: stamp, duration });
    await this.takeFrames(plan);
    const { bytes, width, height } = this.mixer.draw(plan, raster);
    return new VideoFrame(bytes, {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp: stamp,
      duration,
      colorSpace: COLOUR_SPACE,
    });
  }

  async output(job: OutputJob, stamp: number, duration: number): Promise<VideoFrame> {
    const { plan, raster, size, place, finish, pictures } = job;
    const usual = this.lookup;
    this.lookup = pictures ?? usual;
    try {
      await this.takeFrames(plan);
      const { mixer } = this.mixerOf(place);
      const drawn = mixer.draw(plan, raster);
      const whole = place.width === size.width && place.height === size.height;
      const onto = whole && !finish ? drawn : this.around(drawn, size, place);
      if (finish) this.finishOf(finish, size).apply(onto);
      return new VideoFrame(onto.bytes, {
        format: 'I420',
        codedWidth: size.width,
        codedHeight: size.height,
        timestamp: stamp,
        duration,
        colorSpace: COLOUR_SPACE,
      });
    } finally {
      this.lookup = usual;
    }
  }

  /** Planes of a size with others on them, black beside: what was drawn may be a source's own. */
  private around(drawn: Planes, size: Raster, place: Rect): Planes {
    const key = `around ${size.width}×${size.height}`;
    const planes = this.room(key, this.held.get(key), size.width, size.height);
    this.held.set(key, { version: '', planes, used: this.turn });
    if (drawn.width === size.width && drawn.height === size.height) planes.bytes.set(drawn.bytes);
    else setWithin(planes, drawn, place);
    return planes;
  }

  /** A finish with its tables, kept for the next frame. */
  private finishOf(finish: NonNullable<OutputFinish>, { width, height }: Raster): SoftFinish {
    const key = `${width}×${height} ${JSON.stringify(finish)}`;
    const made = this.finishes.get(key) ?? new SoftFinish(finish, width);
    this.finishes.delete(key);
    this.finishes.set(key, made);
    const [oldest] = this.finishes.keys();
    if (this.finishes.size > MOST_FINISHES && oldest !== undefined) this.finishes.delete(oldest);
    return made;
  }

  /** Takes in the frames that a plan shows. */
  private async takeFrames(plan: PicturePlan): Promise<void> {
    for (const ref of refsOf(plan)) {
      if (ref.kind === 'paint') continue;
      const picture = this.lookup(ref);
      if (picture && isFrame(picture.image)) await this.takeFrame(refKey(ref), picture, picture.image);
    }
  }

  async monitors(jobs: readonly MonitorJob[], raster: Raster, mayGoOn: () => boolean): Promise<void> {
    for (const { plan, raster: own = raster, context, width, height, after, done } of jobs) {
      if (!mayGoOn()) break;
      await this.takeFrames(plan);
      const small = this.mixerOf({ width, height });
      const { mixer } = small;
      const rgba = (small.rgba ??= allocate(width * height * 4));
      toRgba(mixer.draw(plan, own), rgba);
      const pixels = new Uint8ClampedArray(rgba.bytes.buffer, rgba.pointer, width * height * 4);
      after?.(pixels, { x: 0, y: 0, width, height, stride: width });
      context.putImageData(new ImageData(pixels, width, height), 0, 0);
      done();
    }
    for (const [key, { used, mixer, rgba }] of this.small) {
      if (this.turn - used <= FORGET_AFTER) continue;
      mixer.dispose();
      if (rgba) release(rgba);
      this.small.delete(key);
    }
  }

  /** A mixer of its own for monitors and outputs of a size. */
  private mixerOf({ width, height }: Raster): SmallMixer {
    const key = `${width}×${height}`;
    const known = this.small.get(key) ?? {
      mixer: new SoftMixer(
        { width, height },
        (ref, w, h) => this.planesOf(ref, w, h),
        (ref) => this.sizeOf(ref),
      ),
      rgba: null,
      used: 0,
    };
    known.used = this.turn;
    this.small.set(key, known);
    return known;
  }

  readyFor(mix: PicturePlan['mix']): void {
    this.mixer.prepare(mix);
  }

  resize(raster: Raster): void {
    this.raster = raster;
    this.mixer.dispose();
    this.mixer = this.createMixer();
  }
}

function pixelsOf(image: OffscreenCanvas | ImageData, width: number, height: number): Uint8ClampedArray {
  if (image instanceof ImageData && image.width === width && image.height === height) return image.data;
  let from = image instanceof ImageData ? canvasOf(image) : image;
  if (from.width !== width || from.height !== height) {
    const canvas = from;
    from = new OffscreenCanvas(width, height);
    from.getContext('2d', { willReadFrequently: true })?.drawImage(canvas, 0, 0, width, height);
  }
  const context = from.getContext('2d', { willReadFrequently: true });
  return context ? context.getImageData(0, 0, width, height).data : new Uint8ClampedArray(width * height * 4);
}

function canvasOf(pixels: ImageData): OffscreenCanvas {
  const canvas = new OffscreenCanvas(pixels.width, pixels.height);
  canvas.getContext('2d', { willReadFrequently: true })?.putImageData(pixels, 0, 0);
  return canvas;
}
