/** Images of graphics: decoded once, kept within a bound in bytes, the ones used last stay. */
import { folder } from '../storage/opfs';
import { Animations } from './animations';

const openAsset = async (id: string): Promise<Blob> => (await (await folder('assets')).getFileHandle(id)).getFile();

/** Bytes of decoded images that are kept. */
const LIMIT = 192 * 1024 * 1024;
/** Pixels that one image may have: more is a bomb, or a mistake. */
const MOST_PIXELS = 50_000_000;
/** An image that takes longer is drawn without, milliseconds. */
const PATIENCE_MS = 8000;

interface Kept {
  image: ImageBitmap | null;
  bytes: number;
}

export class Images {
  private readonly kept = new Map<string, Kept>();
  private readonly loading = new Map<string, Promise<void>>();
  bytes = 0;

  /** Animations come from the same store. */
  readonly animations: Animations;

  constructor(private readonly open: (assetId: string) => Promise<Blob> = openAsset) {
    this.animations = new Animations(open);
  }

  /** The image of an asset, when it has been loaded and could be read. */
  get(assetId: string | null): ImageBitmap | null {
    if (assetId === null) return null;
    const kept = this.kept.get(assetId);
    if (!kept) return null;
    this.kept.delete(assetId);
    this.kept.set(assetId, kept);
    return kept.image;
  }

  /** Loads an image; resolves also when it cannot be read, or takes too long. A file that has vanished leaves the picture it had. */
  load(assetId: string): Promise<void> {
    if (this.kept.has(assetId)) return Promise.resolve();
    const known = this.loading.get(assetId);
    if (known) return known;
    const late = new Promise<void>((resolve) => setTimeout(resolve, PATIENCE_MS));
    const loaded = Promise.race([this.read(assetId), late]).finally(() => this.loading.delete(assetId));
    this.loading.set(assetId, loaded);
    return loaded;
  }

  private async read(assetId: string): Promise<void> {
    const image = await this.open(assetId)
      .then((blob) => createImageBitmap(blob))
      .catch(() => null);
    if (image && image.width * image.height > MOST_PIXELS) {
      image.close();
      this.keep(assetId, null);
    } else this.keep(assetId, image);
  }

  private keep(assetId: string, image: ImageBitmap | null): void {
    const bytes = image ? image.width * image.height * 4 : 0;
    this.kept.set(assetId, { image, bytes });
    this.bytes += bytes;
    for (const [id, old] of this.kept) {
      if (this.bytes <= LIMIT || id === assetId) break;
      old.image?.close();
      this.bytes -= old.bytes;
      this.kept.delete(id);
    }
  }
}
