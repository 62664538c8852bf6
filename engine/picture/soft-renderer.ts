/** Draws without a graphics card: planes and WebAssembly for the programme, 2D canvases for monitors. */
import { conversion } from '#core/picture/colour';
import { containRect, type DrawItem, type PicturePlan, type TextureRef } from '#core/picture/plan';
import { SoftMixer } from '#core/picture/soft/compose';
import { allocate, type Piece, release } from '#core/picture/soft/memory';
import { convertColour, createPlanes, fillFromRgba, fillFromYuv, type Planes, releasePlanes } from '#core/picture/soft/planes';
import { type Raster } from '#core/show/show';
import { isFrame, type MonitorJob, type PictureLookup, refKey, type RefPicture, refsOf, type Renderer } from './renderer';

/** What this mixer makes, and takes in without converting. */
const COLOUR_SPACE = { matrix: 'bt709', primaries: 'bt709', transfer: 'bt709', fullRange: false } as const;

/** Planes not used during so many programme frames are given back. */
const FORGET_AFTER = 250;

interface Held {
  version: string;
  planes: Planes;
  used: number;
}

/** True for frames that are BT.709 limited, or do not say and are taken for it, as the graphics card's path does. */
const isStandard = ({ colorSpace }: VideoFrame): boolean => !colorSpace.fullRange && !['smpte170m', 'bt470bg'].includes(colorSpace.matrix ?? '');

export class SoftRenderer implements Renderer {
  readonly description = 'in software, in Y′CbCr planes';
  private mixer: SoftMixer;
  private readonly held = new Map<string, Held>();
  private scratch: Piece = allocate(16);
  private turn = 0;

  constructor(
    private raster: Raster,
    private readonly lookup: PictureLookup,
  ) {
    this.mixer = this.createMixer();
  }

  private createMixer(): SoftMixer {
    return new SoftMixer(this.raster, (ref, w, h) => this.planesOf(ref, w, h), (ref) => this.lookup(ref));
  }

  /** The one frame that a plan is, pixel for pixel, in the very form this mixer would make of it. */
  private wholeFrame(plan: PicturePlan, raster: Raster): (RefPicture & { image: VideoFrame }) | null {
    const item = plan.base[0];
    if (!item || plan.base.length > 1 || plan.mix || plan.lanes.length > 0 || plan.black > 0 || item.opacity < 1) return null;
    const picture = this.lookup(item.texture);
    if (!picture || !isFrame(picture.image) || picture.width !== this.raster.width || picture.height !== this.raster.height) return null;
    if (!isWholeRaster(item, raster) || !['I420', 'NV12'].includes(picture.image.format ?? '') || !isStandard(picture.image)) return null;
    return { ...picture, image: picture.image };
  }

  private async takeFrame(key: string, picture: RefPicture, frame: VideoFrame): Promise<void> {
    const known = this.held.get(key);
    if (known?.version === picture.version) {
      known.used = this.turn;
      return;
    }
    const { width, height } = frame.visibleRect ?? { width: frame.codedWidth, height: frame.codedHeight };
    const planes = this.room(key, known, width, height);
    const { format } = frame;
    if (format === 'I420' && width % 2 === 0 && height % 2 === 0) {
      const size = width * height;
      await frame.copyTo(planes.bytes, { layout: [{ offset: 0, stride: width }, { offset: size, stride: width / 2 }, { offset: size * 1.25, stride: width / 2 }] });
    } else if (format === 'I420' || format === 'NV12') {
      const bytes = this.scratchOf(frame.allocationSize());
      fillFromYuv(planes, bytes, await frame.copyTo(bytes));
    } else {
      const rgb = format && /^(RGB|BGR)[AX]$/.test(format) ? format : 'RGBX';
      const options = rgb === format ? {} : { format: 'RGBX' as const };
      const bytes = this.scratchOf(frame.allocationSize(options));
      const [place] = await frame.copyTo(bytes, options);
      fillFromRgba(planes, { data: bytes, pointer: this.scratch.pointer, stride: place?.stride ?? width * 4, red: rgb.startsWith('B') ? 2 : 0 });
    }
    if ((format === 'I420' || format === 'NV12') && !isStandard(frame)) {
      const { matrix, offset } = conversion(frame.colorSpace.matrix, frame.colorSpace.fullRange ?? false);
      convertColour(planes, matrix, offset);
    }
    this.held.set(key, { version: picture.version, planes, used: this.turn });
  }

  /** Planes of a size under a key: those it had, when they fit. */
  private room(key: string, known: Held | undefined, width: number, height: number, withAlpha = false): Planes {
    if (known && known.planes.width === width && known.planes.height === height && (known.planes.alpha !== null) === withAlpha) return known.planes;
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
    const picture = this.lookup(ref);
    if (!picture) return null;
    if (isFrame(picture.image)) return this.held.get(refKey(ref))?.planes ?? null;
    // What the app draws itself is kept at the size it is used at, so that its edges stay clean.
    const [w, h] = picture.opaque ? [picture.width, picture.height] : [width, height];
    const key = `${refKey(ref)} ${w}×${h}`;
    const known = this.held.get(key);
    if (known?.version === picture.version) {
      known.used = this.turn;
      return known.planes;
    }
    const planes = this.room(key, known, w, h, !picture.opaque);
    fillFromRgba(planes, { data: pixelsOf(picture.image, w, h), stride: w * 4, red: 0 });
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
    for (const ref of refsOf(plan)) {
      const picture = this.lookup(ref);
      if (picture && isFrame(picture.image)) await this.takeFrame(refKey(ref), picture, picture.image);
    }
    const { bytes, width, height } = this.mixer.draw(plan, raster);
    return new VideoFrame(bytes, { format: 'I420', codedWidth: width, codedHeight: height, timestamp: stamp, duration, colorSpace: COLOUR_SPACE });
  }

  async monitors(jobs: readonly MonitorJob[], raster: Raster): Promise<void> {
    for (const { plan, context, width, height } of jobs) {
      context.globalAlpha = 1;
      context.fillStyle = '#000';
      context.fillRect(0, 0, width, height);
      for (const item of [...plan.base, ...plan.lanes]) this.drawItem(context, item, width / raster.width, height / raster.height);
    }
  }

  private drawItem(context: OffscreenCanvasRenderingContext2D, item: DrawItem, sx: number, sy: number): void {
    const picture = this.lookup(item.texture);
    if (!picture) return;
    const r = item.fit === 'contain' ? containRect(item.target, picture.width, picture.height) : item.target;
    context.globalAlpha = item.opacity;
    context.drawImage(picture.image, r.x * sx, r.y * sy, r.width * sx, r.height * sy);
  }

  resize(raster: Raster): void {
    this.raster = raster;
    this.mixer.dispose();
    this.mixer = this.createMixer();
  }
}

function isWholeRaster({ target: t }: DrawItem, raster: Raster): boolean {
  return t.x === 0 && t.y === 0 && t.width === raster.width && t.height === raster.height;
}

function pixelsOf(canvas: OffscreenCanvas, width: number, height: number): Uint8ClampedArray {
  let from = canvas;
  if (canvas.width !== width || canvas.height !== height) {
    from = new OffscreenCanvas(width, height);
    from.getContext('2d', { willReadFrequently: true })?.drawImage(canvas, 0, 0, width, height);
  }
  const context = from.getContext('2d', { willReadFrequently: true });
  return context ? context.getImageData(0, 0, width, height).data : new Uint8ClampedArray(width * height * 4);
}
