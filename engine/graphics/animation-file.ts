/** Animation files: Lottie as JSON, and the zipped form with its images (dotLottie). What is not in the file is never fetched. */
import { BlobReader, BlobWriter, type Entry, type FileEntry, ZipReader } from '@zip.js/zip.js';
import { type Lottie, LottieError, listIn, MOST_BYTES, type Raw, readLottie, textIn } from '#core/graphics/animation/lottie';
import { problemsOf } from '#core/graphics/animation/problems';
import { FAMILIES } from '#core/graphics/families';
import { AssetError } from '../storage/assets';
import { toDataAddress } from './data-address';

/** Bytes of a file, of all that is in it, and of one image. */
const FILE_LIMIT = 60e6;
const IMAGE_LIMIT = 20e6;
/** Fonts that come with an animation. */
const MOST_FONTS = 20;
const MOST_FILES = 500;

/** One animation of a file. */
export interface ReadAnimation {
  name: string;
  doc: Lottie;
  /** What cannot be done of it, by layer. */
  problems: string[];
  /** Fonts that came with it, by the family that its texts name. */
  fonts: readonly ReadFont[];
}

export interface ReadFont {
  family: string;
  file: File;
}

const refused = (name: string, why: string) => new AssetError(`${name} cannot be used: ${why} Nothing was changed.`);

function parsed(name: string, text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch (error) {
    throw refused(name, `it is no JSON (${error instanceof Error ? error.message : 'damaged'}).`);
  }
}

function readOne(file: string, name: string, came: unknown, families: ReadonlySet<string>, fonts: readonly ReadFont[] = []): ReadAnimation {
  try {
    const doc = readLottie(came);
    const known = new Set([...families, ...fonts.map((f) => f.family)]);
    return { name, doc, problems: problemsOf(came as Raw, doc, known), fonts };
  } catch (error) {
    if (error instanceof LottieError) throw refused(file, error.message);
    throw error;
  }
}

const dataOf = (entry: FileEntry): Promise<Blob> => entry.getData(new BlobWriter());

/** Puts the images of a zip into the animation that names them. */
async function withImages(name: string, came: unknown, files: ReadonlyMap<string, FileEntry>): Promise<unknown> {
  for (const asset of listIn((came ?? {}) as Raw, 'assets')) {
    const image = textIn(asset, 'p');
    if (image === '' || image.startsWith('data:')) continue;
    const entry = [`images/${image}`, `i/${image}`, `${textIn(asset, 'u').replace(/^\//, '')}${image}`]
      .map((path) => files.get(path))
      .find(Boolean);
    if (!entry) continue;
    if (entry.uncompressedSize > IMAGE_LIMIT)
      throw refused(name, `its image ${image} would be ${Math.round(entry.uncompressedSize / 1e6)} MB.`);
    const type = /\.jpe?g$/i.test(image) ? 'image/jpeg' : /\.webp$/i.test(image) ? 'image/webp' : 'image/png';
    Object.assign(asset, { p: await toDataAddress(new Blob([await dataOf(entry)], { type })), u: '', e: 1 });
  }
  return came;
}

const bare = (path: string): string => (path.split('/').at(-1) ?? '').replace(/\.\w+$/, '').toLowerCase();

/** Fonts of a zip that the texts of an animation name: by their path, or by the name of the file. Families that are here already are left. */
async function fontsOf(came: unknown, files: ReadonlyMap<string, FileEntry>, families: ReadonlySet<string>): Promise<ReadFont[]> {
  const there = [...files].filter(([path]) => /^(fonts|f)\/[^/]+\.(ttf|otf)$/i.test(path));
  const found = new Map<string, ReadFont>();
  for (const font of listIn(((came as Raw | null)?.fonts ?? {}) as Raw, 'list')) {
    const family = (textIn(font, 'fFamily') || textIn(font, 'fName')).slice(0, 80);
    const names = [textIn(font, 'fPath'), textIn(font, 'fName'), family].filter(Boolean).map(bare);
    const entry = there.find(([path]) => names.includes(bare(path)))?.[1];
    if (!entry || family === '' || families.has(family) || found.has(family) || found.size >= MOST_FONTS) continue;
    if (entry.uncompressedSize > IMAGE_LIMIT) continue;
    const file = new File([await dataOf(entry)], entry.filename.split('/').at(-1) ?? family, { type: 'font/ttf' });
    found.set(family, { family, file });
  }
  return [...found.values()];
}

async function readZip(file: File, families: ReadonlySet<string>): Promise<ReadAnimation[]> {
  const zip = new ZipReader(new BlobReader(file));
  try {
    const entries: Entry[] = await zip.getEntries().catch(() => {
      throw refused(file.name, 'it is a damaged zip.');
    });
    if (entries.length > MOST_FILES) throw refused(file.name, `it holds ${entries.length} files.`);
    const files = new Map(entries.flatMap((e) => (e.directory ? [] : [[e.filename, e] as const])));
    const animations = [...files].filter(([path]) => /^(animations|a)\/[^/]+\.json$/.test(path));
    if (animations.length === 0) throw refused(file.name, 'there is no animation in it (animations/….json).');
    const read: ReadAnimation[] = [];
    for (const [path, entry] of animations) {
      if (entry.uncompressedSize > MOST_BYTES) throw refused(file.name, `${path} would be ${Math.round(entry.uncompressedSize / 1e6)} MB.`);
      const came = await withImages(file.name, parsed(file.name, await (await dataOf(entry)).text()), files);
      const fonts = await fontsOf(came, files, families);
      read.push(readOne(file.name, path.replace(/^.*\//, '').replace(/\.json$/, ''), came, families, fonts));
    }
    return read;
  } finally {
    await zip.close();
  }
}

/**
 * The animations in a file: one of JSON, all of a zip. `own` are families of the show's own fonts.
 * @throws AssetError with place, cause and remedy.
 */
export async function readAnimationFile(file: File, own: readonly string[]): Promise<ReadAnimation[]> {
  if (file.size > FILE_LIMIT) throw refused(file.name, `it has ${Math.round(file.size / 1e6)} MB, more than ${FILE_LIMIT / 1e6}.`);
  const families = new Set([...FAMILIES.map((f) => f.family), ...own]);
  const head = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  if (head[0] === 0x50 && head[1] === 0x4b) return readZip(file, families);
  if (file.size > MOST_BYTES) throw refused(file.name, `it has ${Math.round(file.size / 1e6)} MB, more than ${MOST_BYTES / 1e6}.`);
  return [readOne(file.name, file.name.replace(/\.\w+$/, ''), parsed(file.name, await file.text()), families)];
}
