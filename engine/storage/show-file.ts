/** A show as one file: a zip of `show.json` and `assets/`. The form is described in docs/formats.md. */
import { unzip, zip, type AsyncZippable, type Unzipped } from 'fflate';
import { nanoid } from 'nanoid';
import { readShow } from '#core/show/migrate';
import { type Show } from '#core/show/show';
import { ShowError } from '#core/show/validate';
import { openAsset, sanitiseSvg, storeAsset } from './assets';
import { db } from './db';
import { assetIdsOf, storeShow } from './shows';

interface AssetEntry {
  id: string;
  name: string;
  type: string;
}

/** Bytes that an import may unpack to, so that a crafted file cannot fill the memory. */
const UNPACKED_LIMIT = 4e9;

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

async function unpack(file: Blob): Promise<Unzipped> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let total = 0;
  return new Promise((resolve, reject) => {
    unzip(
      bytes,
      {
        filter: ({ originalSize }) => {
          total += originalSize;
          return total <= UNPACKED_LIMIT;
        },
      },
      (error, contents) => {
        if (error) reject(new ShowError('This file is damaged, or is not a Bivoca show: it cannot be unpacked.'));
        else if (total > UNPACKED_LIMIT) reject(new ShowError('This file is too large to import.'));
        else resolve(contents);
      },
    );
  });
}

function parse(contents: Unzipped): { show: Show; assets: AssetEntry[] } {
  const text = contents['show.json'];
  if (!text) throw new ShowError('This is not a Bivoca show: it holds no show.json.');
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(text));
  } catch {
    throw new ShowError('This show is damaged: its show.json is not JSON.');
  }
  const { show, assets } = (raw ?? {}) as { show?: unknown; assets?: unknown };
  const list = (Array.isArray(assets) ? assets : []).filter(
    (a): a is AssetEntry => typeof a?.id === 'string' && /^[\w-]{1,64}$/.test(a.id) && typeof a.name === 'string' && typeof a.type === 'string',
  );
  return { show: readShow(show), assets: list };
}

/**
 * Adds a show file to the list as a new show.
 * @throws ShowError naming place and cause; nothing is changed then.
 */
export async function importShow(file: Blob): Promise<{ id: string; missing: string[] }> {
  const contents = await unpack(file);
  const { show, assets } = parse(contents);
  const known = new Map(assets.map((a) => [a.id, a]));
  const renamed = new Map<string, string>();
  const missing: string[] = [];
  for (const id of new Set(assetIdsOf(show))) {
    const entry = known.get(id);
    const data = contents[`assets/${id}`];
    if (!entry || !data) {
      missing.push(id);
      continue;
    }
    let blob = new Blob([data as Uint8Array<ArrayBuffer>], { type: entry.type });
    if (entry.type === 'image/svg+xml') blob = new Blob([sanitiseSvg(await blob.text(), entry.name)], { type: entry.type });
    renamed.set(id, await storeAsset(blob, entry.name, entry.type));
  }
  const copy = structuredClone(show);
  for (const { settings } of copy.sources) {
    if (settings.kind === 'media' || settings.kind === 'still') settings.assetId = renamed.get(settings.assetId) ?? settings.assetId;
  }
  return { id: await storeShow({ ...copy, id: nanoid(12) }), missing };
}
