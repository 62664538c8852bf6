/** A graphic as a file: a zip of `graphic.json` and its images under `assets/`. The form is described in docs/formats.md. */
import { BlobReader, BlobWriter, configure, type FileEntry, TextReader, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { Graphic } from '#core/graphics/document';
import { graphicOf10, graphicOf8, graphicOf9 } from '#core/graphics/migrations';
import { walkRefs } from '#core/desk/refs';
import { isTooDeep } from '#core/schema/depth';
import { type Raw } from '#core/schema/migration';
import { readLottie } from '#core/graphics/animation/lottie';
import { causeOf } from '#core/schema/cause';
import { type KeptFile, type ShowFiles } from '../client/show-client';
import { AssetError, openAsset } from '../storage/assets';

configure({ useWebWorkers: false });

/** Version of the form. */
const VERSION = 4;
const MOST_FILES = 300;
const DOCUMENT_LIMIT = 20e6;
const IMAGE_LIMIT = 60e6;

const damaged = (name: string, why: string) => new AssetError(`${name} is damaged, or is no graphic: ${why}. Nothing was changed.`);

/** Identities of the images that a graphic shows. */
function imagesOf(graphic: Graphic): string[] {
  const ids = new Set<string>();
  walkRefs(Graphic, graphic, ({ id }) => ids.add(id), new Set(['asset'] as const));
  return [...ids];
}

/** The file of a graphic. An image that is gone from this browser is left out. */
export async function packGraphic(graphic: Graphic): Promise<Blob> {
  const zip = new ZipWriter(new BlobWriter('application/zip'));
  const assets: { id: string; name: string; type: string }[] = [];
  for (const id of imagesOf(graphic)) {
    const file = await openAsset(id).catch(() => null);
    if (!file) continue;
    assets.push({ id, name: file.name, type: file.type });
    await zip.add(`assets/${id}`, new BlobReader(file), { level: 0 });
  }
  await zip.add('graphic.json', new TextReader(JSON.stringify({ format: 'bivoca-graphic', version: VERSION, graphic, assets })));
  return zip.close();
}

/** Reads a file of `packGraphic`: the graphic, with its files kept by `keep` under identities of their own. @throws AssetError with what is wrong. */
export async function unpackGraphic(file: File, keep: ShowFiles['keep']): Promise<Record<string, unknown>> {
  const name = file.name || 'This file';
  const zip = new ZipReader(new BlobReader(file));
  try {
    const entries = await zip.getEntries().catch(() => {
      throw damaged(name, 'it is no zip file');
    });
    if (entries.length > MOST_FILES) throw damaged(name, `it holds ${entries.length} files`);
    const files = new Map(entries.flatMap((e) => (e.directory ? [] : [[e.filename, e] as const])));
    const parsed = await readDocument(name, files.get('graphic.json'));
    const list: unknown[] = Array.isArray(parsed.assets) ? parsed.assets : [];
    const ids = new Map<string, string>();
    for (const raw of list.slice(0, MOST_FILES)) {
      const { id, name: fileName, type } = (raw ?? {}) as Record<string, unknown>;
      const entry = typeof id === 'string' ? files.get(`assets/${id}`) : undefined;
      if (!entry || typeof id !== 'string') continue;
      if (entry.uncompressedSize > IMAGE_LIMIT)
        throw damaged(name, `an image in it would be ${Math.round(entry.uncompressedSize / 1e6)} MB`);
      const data = await entry.getData(new BlobWriter(typeof type === 'string' ? type : ''));
      const asset = new File([data], typeof fileName === 'string' ? fileName : id, { type: typeof type === 'string' ? type : '' });
      const { assetId } = await (type === 'application/json' ? keepAnimation(name, asset, keep) : keep(asset, 'image'));
      ids.set(id, assetId);
    }
    return renamed(upToDate(parsed.graphic as Raw, parsed.version), ids);
  } finally {
    await zip.close();
  }
}

/** Keeps the animation of a graphic. @throws AssetError when it is none. */
async function keepAnimation(name: string, file: File, keep: ShowFiles['keep']): Promise<KeptFile> {
  try {
    const doc = readLottie(JSON.parse(await file.text()));
    return await keep(new File([JSON.stringify(doc)], file.name, { type: 'application/json' }), 'animation');
  } catch (error) {
    if (error instanceof AssetError) throw error;
    throw damaged(name, `its animation ${file.name} cannot be used: ${causeOf(error)}`);
  }
}

/** Frames a second of the show that an older file comes from, which it does not say: those of most. */
const OLD_FPS = 25;

/** A graphic of an older file as it is today. */
function upToDate(graphic: Raw, version: number): Raw {
  const now = version < 2 ? graphicOf8(graphic) : graphic;
  const then = version < 3 ? graphicOf9(now, OLD_FPS) : now;
  return version < 4 ? graphicOf10(then) : then;
}

async function readDocument(name: string, entry: FileEntry | undefined): Promise<{ graphic: object; assets: unknown; version: number }> {
  if (!entry) throw damaged(name, 'graphic.json is missing');
  if (entry.uncompressedSize > DOCUMENT_LIMIT) throw damaged(name, 'its graphic.json is too large');
  const text = await (await entry.getData(new BlobWriter())).text();
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch {
    throw damaged(name, 'its graphic.json cannot be read');
  }
  const { format, version, graphic, assets } = (parsed ?? {}) as Record<string, unknown>;
  if (format !== 'bivoca-graphic') throw damaged(name, 'its format mark is missing');
  if (typeof version !== 'number' || version > VERSION)
    throw new AssetError(`${name} was saved by a newer Bivoca. Update Bivoca to open it.`);
  if (typeof graphic !== 'object' || graphic === null || isTooDeep(graphic)) throw damaged(name, 'it holds no graphic');
  return { graphic, assets, version };
}

/** A graphic whose images have other identities; those that did not come are none. */
function renamed(graphic: object, ids: ReadonlyMap<string, string>): Record<string, unknown> {
  return JSON.parse(JSON.stringify(graphic), (key, value: unknown) =>
    key === 'assetId' && typeof value === 'string' ? (ids.get(value) ?? null) : value,
  ) as Record<string, unknown>;
}
