/** The list of shows in this browser. */
import { nanoid } from 'nanoid';
import { createShow } from '#core/desk/create';
import { type Raster } from '#core/show/raster';
import { walkRefs } from '#core/desk/refs';
import { Show } from '#core/desk/show';
import { type Constructor } from '#core/schema/fields';
import { type EntityKind } from '#core/schema/kinds';
import { type Rate } from '#core/time/rate';
import { db, openDatabase, type ShowRow } from './db';
import { removeFile } from './opfs';
import { dropReplayOf } from './replay-segments';

/** A deleted show can be brought back for this long. */
const KEEP_DELETED_MS = 24 * 3600 * 1000;

export interface ShowListItem {
  id: string;
  name: string;
  openedAt: number;
  raster: Raster;
  /** Bytes of the document and its files. */
  size: number;
  thumbnail: Blob | null;
}

const ASSETS: ReadonlySet<EntityKind> = new Set(['asset']);

/** An object of the show document and its class. */
export interface Described {
  of: Constructor;
  value: object;
}

/** Assets that an object refers to, wherever it does. */
export function assetsIn({ of, value }: Described): string[] {
  const ids: string[] = [];
  walkRefs(of, value, ({ id }) => ids.push(id), ASSETS);
  return ids;
}

export const assetIdsOf = (show: Show): string[] => assetsIn({ of: Show, value: show });

/** Gives every reference to an asset the name that `renamed` has for it. Changes `value`. */
export function renameAssets({ of, value }: Described, renamed: ReadonlyMap<string, string>): void {
  walkRefs(
    of,
    value,
    ({ id, field, holders }) => {
      const holder = holders.at(-1)?.value;
      if (holder) holder[field.name] = renamed.get(id) ?? id;
    },
    ASSETS,
  );
}

/** Shows that are not deleted, the last opened first. */
export async function listShows(): Promise<ShowListItem[]> {
  await openDatabase();
  const rows = (await db.shows.toArray()).filter((row) => row.deletedAt === null);
  const sizes = new Map((await db.assets.toArray()).map((a) => [a.id, a.size]));
  return rows
    .map(({ id, name, openedAt, thumbnail, show }) => {
      const files = new Set(assetIdsOf(show));
      const size = JSON.stringify(show).length + [...files].reduce((sum, asset) => sum + (sizes.get(asset) ?? 0), 0);
      return { id, name, openedAt, thumbnail, size, raster: show.raster };
    })
    .sort((a, b) => b.openedAt - a.openedAt);
}

/** Stores a show that is not in the list yet. */
export async function storeShow(show: Show): Promise<string> {
  const now = Date.now();
  const row: ShowRow = {
    id: show.id,
    name: show.name,
    show,
    epoch: null,
    createdAt: now,
    openedAt: now,
    savedAt: now,
    deletedAt: null,
    thumbnail: null,
    openSince: null,
  };
  await db.shows.add(row);
  return show.id;
}

export const newShow = (name: string, raster: Raster, rate: Rate): Promise<string> => storeShow(createShow(nanoid(12), name, raster, rate));

export async function renameShow(id: string, name: string): Promise<void> {
  await db.transaction('rw', db.shows, async () => {
    const row = await db.shows.get(id);
    if (row) await db.shows.update(id, { name, show: { ...row.show, name } });
  });
}

export async function duplicateShow(id: string): Promise<string> {
  const row = await db.shows.get(id);
  if (!row) throw new Error('This show is no longer in the list.');
  const copy = structuredClone(row.show);
  return storeShow({ ...copy, id: nanoid(12), name: `${copy.name.slice(0, 112)} (copy)` });
}

export const deleteShow = (id: string): Promise<unknown> => db.shows.update(id, { deletedAt: Date.now() });

export const restoreShow = (id: string): Promise<unknown> => db.shows.update(id, { deletedAt: null });

/** Removes for good what was deleted more than a day ago, and files that no show uses any more. */
export async function sweep(now = Date.now()): Promise<void> {
  const old = (await db.shows.toArray()).filter((row) => row.deletedAt !== null && now - row.deletedAt > KEEP_DELETED_MS);
  await db.shows.bulkDelete(old.map((row) => row.id));
  await db.airs.bulkDelete(old.map((row) => row.id));
  await dropReplayOf(old.map((row) => row.id));
  await db.passes
    .where('showId')
    .anyOf(old.map((row) => row.id))
    .delete();
  await db.sheetFiles
    .where('showId')
    .anyOf(old.map((row) => row.id))
    .delete();
  const used = new Set((await db.shows.toArray()).flatMap((row) => assetIdsOf(row.show)));
  const unused = (await db.assets.toArray()).filter((a) => !used.has(a.id) && now - a.addedAt > KEEP_DELETED_MS);
  for (const { id } of unused) {
    await removeFile('assets', id);
    await db.assets.delete(id);
  }
}
