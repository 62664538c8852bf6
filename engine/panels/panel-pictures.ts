/** The monitors of a panel: what they look at is asked for together, and the mosaic that comes is decoded and cut apart. */
import { type MosaicLayout, MOST_TILES, unpackPiece, type WantedTile } from '#core/panels/mosaic';
import { LONGEST_TILE_KEY } from '#core/panels/panel-messages';
import { type AttachedMonitor } from '../client/show-client';
import { type MonitorPicture } from '../picture/messages';

/** What is wanted is told when it has stood for so long, milliseconds: a room that opens wants many at once. */
const SETTLE_MS = 80;
/** Pictures that may wait for the decoder; then those until the next that stands by itself are left out. */
const MOST_WAITING = 12;

interface Monitor {
  key: string;
  canvas: HTMLCanvasElement;
  context: CanvasRenderingContext2D | null;
  width: number;
  height: number;
}

export class PanelPictures {
  private readonly monitors = new Set<Monitor>();
  private layout: MosaicLayout | null = null;
  private decoder: VideoDecoder | null = null;
  private hasKey = false;
  private timer: ReturnType<typeof setTimeout> | null = null;
  private told = '';
  /** The picture as it came, converted once for all monitors. */
  private readonly whole = document.createElement('canvas');
  private readonly wholeContext = this.whole.getContext('2d', { alpha: false });
  /** Show microseconds of the picture that is seen; for those who measure. */
  seenStamp = 0;

  /** `want` tells what is looked at; `lost` asks for a picture that stands by itself. */
  constructor(
    private readonly want: (tiles: WantedTile[]) => boolean,
    private readonly lost: () => void,
  ) {
    document.addEventListener('visibilitychange', this.changed);
  }

  attach(canvas: HTMLCanvasElement, picture: MonitorPicture): AttachedMonitor {
    const monitor: Monitor = {
      key: JSON.stringify(picture),
      canvas,
      context: canvas.getContext('2d', { alpha: false }),
      width: 0,
      height: 0,
    };
    this.monitors.add(monitor);
    this.changed();
    return {
      resize: (width, height) => {
        Object.assign(monitor, { width, height });
        Object.assign(canvas, { width, height });
        this.draw(monitor);
        this.changed();
      },
      detach: () => {
        this.monitors.delete(monitor);
        this.changed();
      },
    };
  }

  private readonly changed = (): void => {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.tell();
    }, SETTLE_MS);
  };

  private tell(): void {
    const tiles = new Map<string, WantedTile>();
    if (!document.hidden)
      for (const { key, width, height } of this.monitors) {
        if (width < 2 || height < 2 || key.length > LONGEST_TILE_KEY) continue;
        const known = tiles.get(key);
        if (!known && tiles.size >= MOST_TILES) continue;
        tiles.set(key, { key, width: Math.max(width, known?.width ?? 0), height: Math.max(height, known?.height ?? 0) });
      }
    const list = [...tiles.values()];
    const text = JSON.stringify(list);
    if (text !== this.told && this.want(list)) this.told = text;
  }

  /** The line is new: what is wanted is told again. */
  again(): void {
    this.told = '';
    this.changed();
  }

  setLayout(layout: MosaicLayout | null): void {
    this.layout = layout;
    this.hasKey = false;
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close();
    this.decoder = null;
    if (!layout || typeof VideoDecoder === 'undefined') return;
    this.decoder = new VideoDecoder({
      output: (frame) => this.show(frame, layout.version),
      error: () => {
        this.hasKey = false;
        this.lost();
      },
    });
    this.decoder.configure({ codec: 'avc1.42001f', codedWidth: layout.width, codedHeight: layout.height, optimizeForLatency: true });
  }

  piece(bytes: Uint8Array): void {
    const piece = unpackPiece(bytes);
    const { decoder, layout } = this;
    if (!piece || !decoder || decoder.state !== 'configured' || piece.version !== layout?.version) return;
    if (decoder.decodeQueueSize > MOST_WAITING) this.hasKey = false;
    if (!this.hasKey && !piece.isKey) return;
    this.hasKey = true;
    decoder.decode(new EncodedVideoChunk({ type: piece.isKey ? 'key' : 'delta', timestamp: piece.stamp, data: piece.data }));
  }

  private show(frame: VideoFrame, version: number): void {
    const { whole, wholeContext, layout } = this;
    if (layout?.version === version && wholeContext) {
      if (whole.width !== layout.width || whole.height !== layout.height)
        Object.assign(whole, { width: layout.width, height: layout.height });
      wholeContext.drawImage(frame, 0, 0, layout.width, layout.height);
      this.seenStamp = frame.timestamp;
      for (const monitor of this.monitors) this.draw(monitor);
    }
    frame.close();
  }

  private draw({ key, context, width, height }: Monitor): void {
    const tile = this.layout?.tiles.find((t) => t.key === key);
    if (!tile || !context || width < 2 || this.seenStamp === 0) return;
    context.drawImage(this.whole, tile.x, tile.y, tile.width, tile.height, 0, 0, width, height);
  }

  close(): void {
    document.removeEventListener('visibilitychange', this.changed);
    if (this.timer !== null) clearTimeout(this.timer);
    if (this.decoder && this.decoder.state !== 'closed') this.decoder.close();
  }
}
