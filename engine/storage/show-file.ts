/** A show as one file: a zip of `show.json` and `assets/`. The form is described in docs/formats.md. */
import { type AsyncZippable, zip } from 'fflate';
import { nanoid } from 'nanoid';
import { ShowError } from '#core/desk/validate';
import { askWorker } from '../ask-worker';
import { openAsset, storeAsset } from './assets';
import { db } from './db';
import { type AssetEntry, type ShowPackage } from './show-package';
import { type FromPackage } from './show-package.worker';
import { assetIdsOf, renameAssets, storeShow } from './shows';

/** The show and every file it uses. Files that are missing are left out and named. */
export async function exportShow(id: string): Promise<{ file: Blob; name: string; missing: string[] }> {
  const row = await db.shows.get(id);
  if (!row) throw new Error('This show is no longer in the list.');
  const contents: AsyncZippable = {};
  const assets: AssetEntry[] = [];
  const missing: string[] = [];
  for (const asset of new Set(assetIdsOf(row.show))) {
    try {
      const file = await openAsset(asset);
      assets.push({ id: asset, name: file.name, type: file.type });
      // Media is packed already: storing it is quicker and no larger.
      contents[`assets/${asset}`] = [new Uint8Array(await file.arrayBuffer()), { level: 0 }];
    } catch {
      missing.push(asset);
    }
  }
  const text = JSON.stringify({ show: row.show, assets }, null, 1);
  contents['show.json'] = new TextEncoder().encode(text);
  const data = await new Promise<Uint8Array>((resolve, reject) => zip(contents, (error, out) => (error ? reject(error) : resolve(out))));
  const name = `${row.name.replace(/[^\p{L}\p{N} _-]+/gu, '').trim() || 'show'}.bivoca`;
  return { file: new Blob([data as Uint8Array<ArrayBuffer>], { type: 'application/zip' }), name, missing };
}

/** Longest that a file may take to be unpacked: a minute, and a second for each 10 MB; milliseconds. */
const patienceFor = (file: Blob) => 60_000 + file.size / 10_000;

/** Unpacks and checks a file in a worker, which is ended when it takes too long. @throws ShowError */
async function readInWorker(file: Blob): Promise<ShowPackage> {
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

/**
 * Adds a show file to the list as a new show.
 * @throws ShowError naming place and cause; nothing is changed then.
 */
export async function importShow(file: Blob): Promise<{ id: string; missing: string[] }> {
  const { show, assets } = await readInWorker(file);
  const renamed = new Map<string, string>();
  const missing: string[] = [];
  for (const id of new Set(assetIdsOf(show))) {
    const asset = assets.get(id);
    if (!asset) {
      missing.push(id);
      continue;
    }
    const { name, type, data } = asset;
    // What is in an SVG is looked at again whenever it is drawn; one that cannot be used is kept, and its source says why.
    renamed.set(id, await storeAsset(data, name, type));
  }
  const copy = structuredClone(show);
  renameAssets(copy, renamed);
  return { id: await storeShow({ ...copy, id: nanoid(12) }), missing };
}
