/** The mosaic of all monitors that panels look at: drawn with the other monitors in the time that is left, encoded once (H.264, low delay). */
import { type MosaicLayout, packPiece } from '#core/panels/mosaic';
import { type MonitorPicture } from './messages';
import { type MonitorWall } from './monitor-wall';

/** Bits that a pixel of one picture is given. */
const BITS_A_PIXEL = 0.09;
/** Pictures that may wait for the encoder; more would only be late. */
const MOST_QUEUED = 2;
/** A key picture comes at least so often, microseconds: whoever has lost one sees again. */
const KEY_MICROS = 4_000_000;

export class Mosaic {
  private pixels: Uint8ClampedArray<ArrayBuffer>;
  private readonly encoder: VideoEncoder;
  private readonly keys: string[] = [];
  private dirty = false;
  private keyWanted = true;
  private keyAt = -Infinity;
  private failed = false;

  /** `send` gets the pieces, marked with their layout. @throws what the browser says when it cannot encode */
  constructor(
    private readonly wall: MonitorWall,
    private readonly layout: MosaicLayout,
    pictures: Readonly<Record<string, MonitorPicture>>,
    fps: number,
    private readonly send: (piece: Uint8Array) => void,
  ) {
    const { width, height, version } = layout;
    this.pixels = new Uint8ClampedArray(width * height * 4).fill(255);
    this.encoder = new VideoEncoder({
      output: (chunk) => {
        const data = new Uint8Array(chunk.byteLength);
        chunk.copyTo(data);
        this.send(packPiece({ isKey: chunk.type === 'key', version, stamp: chunk.timestamp, data }));
      },
      error: () => (this.failed = true),
    });
    this.encoder.configure({
      codec: 'avc1.42001f',
      width,
      height,
      bitrate: Math.round(width * height * fps * BITS_A_PIXEL),
      framerate: fps,
      latencyMode: 'realtime',
      avc: { format: 'annexb' },
    });
    for (const tile of layout.tiles) {
      const picture = pictures[tile.key];
      if (!picture) continue;
      const key = `mosaic ${version} ${tile.key}`;
      this.keys.push(key);
      wall.attachTile(key, { width: tile.width, height: tile.height, putImageData: this.placer(tile.x, tile.y) }, picture);
    }
  }

  /** Takes pixels of a tile as a canvas would, at its place in the mosaic. */
  private placer(left: number, top: number) {
    return (image: ImageData, dx: number, dy: number, sx = 0, sy = 0, width = image.width, height = image.height): void => {
      const { pixels, layout } = this;
      const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
      const to = new Uint32Array(pixels.buffer);
      for (let row = 0; row < height; row += 1) {
        const start = (sy + row) * image.width + sx;
        to.set(from.subarray(start, start + width), (top + dy + sy + row) * layout.width + left + dx + sx);
      }
      this.dirty = true;
    };
  }

  /** The next picture can be decoded by itself. */
  wantKey(): void {
    this.keyWanted = true;
  }

  /** Encodes what has changed since; `stamp` in show microseconds. */
  encode(stamp: number, duration: number): void {
    if (this.failed || this.encoder.state !== 'configured' || this.encoder.encodeQueueSize > MOST_QUEUED) return;
    const keyDue = this.keyWanted || stamp - this.keyAt > KEY_MICROS;
    if (!this.dirty && !keyDue) return;
    const { width: codedWidth, height: codedHeight } = this.layout;
    const frame = new VideoFrame(this.pixels, { format: 'RGBX', codedWidth, codedHeight, timestamp: stamp, duration });
    this.encoder.encode(frame, { keyFrame: keyDue });
    frame.close();
    this.dirty = false;
    if (!keyDue) return;
    this.keyWanted = false;
    this.keyAt = stamp;
  }

  close(): void {
    for (const key of this.keys) this.wall.detach(key);
    if (this.encoder.state !== 'closed') this.encoder.close();
  }
}
