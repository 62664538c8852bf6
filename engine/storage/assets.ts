/** Files that shows use: bytes in OPFS under their identity, a row in the database. */
import DOMPurify from 'dompurify';
import { ALL_FORMATS, BlobSource, Input } from 'mediabunny';
import { nanoid } from 'nanoid';
import { type MediaSettings, type StillSettings } from '#core/show/source';
import { db } from './db';
import { folder, storageSpace } from './opfs';

/** A file that cannot be used; the message says why and what to do. */
export class AssetError extends Error {}

const STILL_TYPES = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'];
/** Larger stills are refused: no raster needs more, and decoding them would stall the show. */
const STILL_SIDE = 8192;

/** The bytes of an asset. @throws DOMException NotFoundError when they are gone. */
export async function openAsset(id: string): Promise<File> {
  const handle = await (await folder('assets')).getFileHandle(id);
  const file = await handle.getFile();
  const row = await db.assets.get(id);
  return new File([file], row?.name ?? id, { type: row?.type ?? '' });
}

/** Stores bytes under a new identity, or under `id`. */
export async function storeAsset(data: Blob, name: string, type: string, id = nanoid()): Promise<string> {
  const { free } = await storageSpace();
  if (free < data.size * 1.05) {
    throw new AssetError(`${name} does not fit: it needs ${Math.ceil(data.size / 1e6)} MB, and ${Math.floor(free / 1e6)} MB are free.`);
  }
  const handle = await (await folder('assets')).getFileHandle(id, { create: true });
  await data.stream().pipeTo(await handle.createWritable());
  await db.assets.put({ id, name, type, size: data.size, addedAt: Date.now() });
  return id;
}

/** An SVG without scripts, handlers and outside references. @throws AssetError when nothing is left. */
export function sanitiseSvg(text: string, name: string): string {
  const clean = DOMPurify.sanitize(text, { USE_PROFILES: { svg: true, svgFilters: true }, FORBID_TAGS: ['style', 'foreignObject'], NAMESPACE: 'http://www.w3.org/2000/svg', PARSER_MEDIA_TYPE: 'application/xhtml+xml' } as never);
  const safe = String(clean).replace(/(xlink:)?href\s*=\s*(["'])(?!#)[^"']*\2/gi, '');
  if (!/<svg[\s>]/i.test(safe)) throw new AssetError(`${name} holds no SVG picture.`);
  return safe.includes('xmlns=') ? safe : safe.replace(/<svg/i, '<svg xmlns="http://www.w3.org/2000/svg"');
}

/** Side of the small copy in which transparent parts are looked for. */
const ALPHA_SIDE = 256;

/** True when a picture has parts that are not opaque. */
function isTransparent(image: ImageBitmap): boolean {
  const context = new OffscreenCanvas(ALPHA_SIDE, ALPHA_SIDE).getContext('2d', { willReadFrequently: true });
  if (!context) return true;
  context.drawImage(image, 0, 0, ALPHA_SIDE, ALPHA_SIDE);
  const { data } = context.getImageData(0, 0, ALPHA_SIDE, ALPHA_SIDE);
  for (let i = 3; i < data.length; i += 4) if ((data[i] as number) < 250) return true;
  return false;
}

async function addStill(file: File): Promise<StillSettings> {
  let data: Blob = file;
  let hasAlpha = true;
  if (file.type === 'image/svg+xml') data = new Blob([sanitiseSvg(await file.text(), file.name)], { type: file.type });
  else {
    let size: ImageBitmap;
    try {
      size = await createImageBitmap(file);
    } catch {
      throw new AssetError(`${file.name} cannot be decoded: it is damaged, or not the picture its name says.`);
    }
    const { width, height } = size;
    hasAlpha = isTransparent(size);
    size.close();
    if (width > STILL_SIDE || height > STILL_SIDE) {
      throw new AssetError(`${file.name} is ${width}×${height}; stills go up to ${STILL_SIDE} pixels a side. Make it smaller and add it again.`);
    }
  }
  return { kind: 'still', assetId: await storeAsset(data, file.name, file.type), fileName: file.name, hasAlpha };
}

async function addMedia(file: File): Promise<MediaSettings> {
  const input = new Input({ source: new BlobSource(file), formats: ALL_FORMATS });
  try {
    const video = await input.getPrimaryVideoTrack().catch(() => null);
    const audio = await input.getPrimaryAudioTrack().catch(() => null);
    const hasSound = audio !== null && (await audio.canDecode());
    if (!video && !hasSound) throw new AssetError(`${file.name} holds neither pictures nor sound that can be read. Add an MP4, WebM, MOV, WAV or MP3 file.`);
    if (video && !(await video.canDecode())) {
      throw new AssetError(`This browser cannot decode the pictures of ${file.name} (${(await video.getCodec()) ?? 'unknown codec'}).`);
    }
    const duration = await input.computeDuration();
    const hasAlpha = (await video?.canBeTransparent()) ?? false;
    const assetId = await storeAsset(file, file.name, file.type);
    return { kind: 'media', assetId, fileName: file.name, duration, hasSound, hasAlpha, in: 0, out: null, startOnTake: true, atEnd: 'hold' };
  } finally {
    input.dispose();
  }
}

/** Takes a user's file in and says what source it makes. @throws AssetError when it cannot be used. */
export async function addFile(file: File): Promise<MediaSettings | StillSettings> {
  if (file.size === 0) throw new AssetError(`${file.name} is empty.`);
  return STILL_TYPES.includes(file.type) ? addStill(file) : addMedia(file);
}
