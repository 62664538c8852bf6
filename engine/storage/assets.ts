/** Files that shows use: bytes in OPFS under their identity, a row in the database. */
import { nanoid } from 'nanoid';
import { type MediaSettings, type StillSettings } from '#core/show/source';
import { MediaTrouble } from '../media/media-trouble';
import { decodePicture, probeMedia } from '../media/probe';
import { db } from './db';
import { folder, storageSpace } from './opfs';

/** A file that cannot be used; the message says why and what to do. */
export class AssetError extends Error {}

const STILL_TYPES = ['image/png', 'image/jpeg', 'image/webp', 'image/svg+xml'];

/** The bytes of an asset. @throws DOMException NotFoundError when they are gone. */
export async function openAsset(id: string): Promise<File> {
  const handle = await (await folder('assets')).getFileHandle(id);
  const file = await handle.getFile();
  const row = await db.assets.get(id);
  return new File([file], row?.name ?? id, { type: row?.type ?? '' });
}

/** Hears how far long work has got, 0 to 1. */
export type Share = (done: number) => void;

/** Lets bytes through, and tells how many of all have gone. */
function counting(all: number, share: Share): TransformStream<Uint8Array, Uint8Array> {
  let gone = 0;
  return new TransformStream({
    transform: (chunk, out) => {
      out.enqueue(chunk);
      gone += chunk.byteLength;
      share(all > 0 ? gone / all : 1);
    },
  });
}

/** Stores bytes under a new identity, or under `id`. */
export async function storeAsset(data: Blob, name: string, type: string, id = nanoid(), share?: Share): Promise<string> {
  const { free } = await storageSpace();
  if (free < data.size * 1.05) {
    throw new AssetError(`${name} does not fit: it needs ${Math.ceil(data.size / 1e6)} MB, and ${Math.floor(free / 1e6)} MB are free.`);
  }
  const handle = await (await folder('assets')).getFileHandle(id, { create: true });
  const bytes = data.stream();
  await (share ? bytes.pipeThrough(counting(data.size, share)) : bytes).pipeTo(await handle.createWritable());
  await db.assets.put({ id, name, type, size: data.size, addedAt: Date.now() });
  return id;
}

/** What weighs and cleans drawings, fetched when there is one. */
const svg = () => import('../media/svg');

async function addStill(file: File, share?: Share): Promise<StillSettings> {
  let data: Blob = file;
  let hasAlpha = true;
  if (file.type === 'image/svg+xml') data = new Blob([(await svg()).safeSvg(await file.text())], { type: file.type });
  else {
    const { image, hasAlpha: transparent } = await decodePicture(file);
    image.close();
    hasAlpha = transparent;
  }
  return { kind: 'still', assetId: await storeAsset(data, file.name, file.type, undefined, share), fileName: file.name, hasAlpha };
}

async function addMedia(file: File, share?: Share): Promise<MediaSettings> {
  const { duration, hasSound, hasAlpha } = await probeMedia(file);
  const assetId = await storeAsset(file, file.name, file.type, undefined, share);
  return { kind: 'media', assetId, fileName: file.name, duration, hasSound, hasAlpha, in: 0, out: null, startOnTake: true, atEnd: 'hold' };
}

/** Takes a user's file in and says what source it makes. @throws AssetError when it cannot be used. */
export async function addFile(file: File, share?: Share): Promise<MediaSettings | StillSettings> {
  if (file.size === 0) throw new AssetError(`${file.name} is empty.`);
  try {
    return await (STILL_TYPES.includes(file.type) ? addStill(file, share) : addMedia(file, share));
  } catch (error) {
    if (error instanceof MediaTrouble) throw new AssetError(`${file.name} cannot be used: ${error.message}.`);
    throw error;
  }
}

/** Pixels of the longer side that a drawing is made into for graphics. */
const DRAWN_SIDE = 2160;

/**
 * Keeps an image file for graphics. Drawings (SVG) are cleaned and drawn once, as a worker cannot draw them: they keep no script and no address.
 * @throws AssetError when it cannot be used.
 */
export async function storeImage(file: File): Promise<string> {
  if (file.size === 0) throw new AssetError(`${file.name} is empty.`);
  try {
    if (file.type !== 'image/svg+xml') {
      (await decodePicture(file)).image.close();
      return await storeAsset(file, file.name, file.type);
    }
    const { drawSvg, safeSvg } = await svg();
    const image = await drawSvg(safeSvg(await file.text()), DRAWN_SIDE);
    const canvas = new OffscreenCanvas(image.width, image.height);
    canvas.getContext('2d')?.drawImage(image, 0, 0);
    image.close();
    return await storeAsset(await canvas.convertToBlob({ type: 'image/png' }), file.name, 'image/png');
  } catch (error) {
    if (error instanceof MediaTrouble) throw new AssetError(`${file.name} cannot be used: ${error.message}.`);
    throw error;
  }
}

/** Bytes of the largest font file. */
const FONT_LIMIT = 30e6;

/**
 * Keeps a font file, and says what its family is to be called: the name of the file.
 * @throws AssetError when it is no font, or too large.
 */
export async function storeFont(file: File): Promise<{ assetId: string; family: string }> {
  if (file.size > FONT_LIMIT) throw new AssetError(`${file.name} is larger than ${FONT_LIMIT / 1e6} MB, and no font is that large.`);
  const family =
    file.name
      .replace(/\.\w+$/, '')
      .replaceAll(/[^\p{L}\p{N} -]/gu, ' ')
      .trim()
      .slice(0, 80) || 'Font';
  try {
    await new FontFace(family, await file.arrayBuffer()).load();
  } catch {
    throw new AssetError(
      `${file.name} cannot be used: it is no font that this browser reads (TTF, OTF, WOFF2), or it is damaged. Nothing was changed.`,
    );
  }
  return { assetId: await storeAsset(file, file.name, file.type || 'font/ttf'), family };
}
