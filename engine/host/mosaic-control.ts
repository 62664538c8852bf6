/** Pictures for panels: what they look at becomes one mosaic, encoded while somebody looks and not otherwise. */
import { type MosaicLayout, mosaicLayout, MOST_TILES, type WantedTile } from '#core/panels/mosaic';
import { isRecord } from '#core/schema/record';
import { type MonitorPicture } from '../picture/messages';
import { wantedPicture } from '../panels/wanted-picture';
import { type MixerPort } from './mixer-port';

interface Out {
  layout: (layout: MosaicLayout | null) => void;
  piece: (piece: Uint8Array) => void;
}

export class MosaicControl {
  private version = 0;
  private now = '';

  constructor(
    private readonly mixer: Pick<MixerPort, 'setMosaic' | 'wantMosaicKey'>,
    private readonly out: Out,
  ) {}

  /** What panels look at now, as the server has put it together; what is no picture is left out. */
  want(raw: unknown): void {
    const pictures: Record<string, MonitorPicture> = {};
    const tiles = (Array.isArray(raw) ? raw.slice(0, MOST_TILES) : []).flatMap((tile): WantedTile[] => {
      if (!isRecord(tile) || typeof tile.key !== 'string') return [];
      const picture = wantedPicture(tile.key);
      const [width, height] = [Number(tile.width), Number(tile.height)];
      if (!picture || !(width >= 1 && width <= 4096) || !(height >= 1 && height <= 4096)) return [];
      pictures[tile.key] = picture;
      return [{ key: tile.key, width, height }];
    });
    const text = JSON.stringify(tiles);
    if (text === this.now) return this.mixer.wantMosaicKey();
    this.now = text;
    this.version = (this.version + 1) % 0x10000;
    const layout = mosaicLayout(tiles, this.version);
    // The layout goes first: pieces of one that is not known are of no use.
    this.out.layout(layout);
    this.mixer.setMosaic(layout, pictures, (piece) => this.out.piece(piece));
    return undefined;
  }
}
