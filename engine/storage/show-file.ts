/** A show as one file: a zip of `show.json` and `assets/`. The form is described in docs/formats.md. */
import { type AsyncZippable, zip } from 'fflate';
import { nanoid } from 'nanoid';
import { Show } from '#core/desk/show';
import { ShowError } from '#core/desk/validate';
import { askWorker } from '../ask-worker';
import { openAsset, type Share, storeAsset } from './assets';
import { db } from './db';
import { type AssetEntry, type ShowPackage } from './show-package';
import { type FromPackage } from './show-package.worker';
import { assetIdsOf, assetsIn, type Described, listShows, renameAssets, storeShow } from './shows';

/** A show as a file. */
export interface SavedShow {
  file: Blob;
  name: string;
  /** Assets that are not on this machine, and so not in the file. */
  missing: string[];
}

/** A show of the list, and every file it uses. Files that are missing are left out and named. */
export async function exportShow(id: string, share?: Share): Promise<SavedShow> {
  const row = await db.shows.get(id);
  if (!row) throw new Error('This show is no longer in the list.');
  return packShow(row.show, row.name, share);
}

/** A show and every file it uses as one file of this name; `share` hears how many of its files are read. */
export async function packShow(show: Show, called: string, share?: Share): Promise<SavedShow> {
  const contents: AsyncZippable = {};
  const assets: AssetEntry[] = [];
  const missing: string[] = [];
  const all = [...new Set(assetIdsOf(show))];
  for (const [i, asset] of all.entries()) {
    share?.(i / all.length);
    try {
      const file = await openAsset(asset);
      assets.push({ id: asset, name: file.name, type: file.type });
      // Media is packed already: storing it is quicker and no larger.
      contents[`assets/${asset}`] = [new Uint8Array(await file.arrayBuffer()), { level: 0 }];
    } catch {
      missing.push(asset);
    }
  }
  const text = JSON.stringify({ show, assets }, null, 1);
  contents['show.json'] = new TextEncoder().encode(text);
  const data = await new Promise<Uint8Array>((resolve, reject) => zip(contents, (error, out) => (error ? reject(error) : resolve(out))));
  const name = `${called.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'show'}.bivoca`;
  return { file: new Blob([data as Uint8Array<ArrayBuffer>], { type: 'application/zip' }), name, missing };
}

/** Longest that a file may take to be unpacked: a minute, and a second for each 10 MB; milliseconds. */
const patienceFor = (file: Blob) => 60_000 + file.size / 10_000;

/** Unpacks and checks a show file in a worker, which is ended when it takes too long. @throws ShowError */
export async function readShowFile(file: Blob): Promise<ShowPackage> {
  const worker = new Worker(new URL('./show-package.worker.ts', import.meta.url), { type: 'module' });
  const answer = await askWorker<FromPackage>(worker, file, {
    limitMs: patienceFor(file),
    late: () =>
      new ShowError('This file could not be unpacked in good time: it is damaged, or this machine is too busy. Nothing was changed.'),
    failed: () => new ShowError('This file is damaged: unpacking it failed. Nothing was changed.'),
  });
  if (answer.type === 'trouble') throw new ShowError(answer.message, answer.problems);
  return answer.content;
}

/** A name that no show of the list has: with "copy" behind it where one is called so already. */
async function freeName(wanted: string): Promise<string> {
  const taken = new Set((await listShows()).map((s) => s.name));
  if (!taken.has(wanted)) return wanted;
  const base = wanted.slice(0, 105);
  let name = `${base} (copy)`;
  for (let n = 2; taken.has(name); n += 1) name = `${base} (copy ${n})`;
  return name;
}

/**
 * Adds a show file to the list as a new show; one whose name is there is called a copy. `share` hears how much of its files is kept, 0 to 1; before that
 * it is unpacked.
 * @throws ShowError naming place and cause; nothing is changed then.
 */
export async function importShow(file: Blob, share?: Share): Promise<{ id: string; missing: string[]; copy: string | null }> {
  const { show, assets } = await readShowFile(file);
  const copy = structuredClone(show);
  const missing = await keepAssets(assets, [{ of: Show, value: copy }], share);
  const name = await freeName(copy.name);
  return { id: await storeShow({ ...copy, id: nanoid(12), name }), missing, copy: name === copy.name ? null : name };
}

/**
 * Keeps those of a file's assets that these objects name, which name them as they are kept from now on. Returns those that are not in the
 * file. `share` hears how many of their bytes are kept, 0 to 1.
 */
export async function keepAssets(assets: ShowPackage['assets'], within: readonly Described[], share?: Share): Promise<string[]> {
  const renamed = new Map<string, string>();
  const missing: string[] = [];
  const bytes = [...assets.values()].reduce((sum, { data }) => sum + data.size, 0);
  let kept = 0;
  for (const id of new Set(within.flatMap(assetsIn))) {
    const asset = assets.get(id);
    if (!asset) {
      missing.push(id);
      continue;
    }
    const { name, type, data } = asset;
    // What is in an SVG is looked at again whenever it is drawn; one that cannot be used is kept, and its source says why.
    const before = kept;
    renamed.set(id, await storeAsset(data, name, type, undefined, (part) => share?.((before + part * data.size) / Math.max(1, bytes))));
    kept += data.size;
  }
  for (const one of within) renameAssets(one, renamed);
  return missing;
}
