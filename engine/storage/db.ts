/** Documents and indexes, in IndexedDB. Media bytes are in OPFS. */
import Dexie, { type EntityTable, type Table } from 'dexie';
import { type AsRunLine } from '#core/output/as-run';
import { type Air } from '#core/desk/air';
import { type Show } from '#core/desk/show';
import { type Pass } from '#core/panels/pass';
import { type WayKind } from '#core/panels/way-in';
import { type Group, type TrackConfig } from '../replay/segment-format';

export interface ShowRow {
  id: string;
  name: string;
  show: Show;
  /** Wall time in milliseconds of show frame 0; null before the first opening. */
  epoch: number | null;
  createdAt: number;
  openedAt: number;
  savedAt: number;
  /** Set when deleted; the row goes for good when another day has passed. */
  deletedAt: number | null;
  thumbnail: Blob | null;
  /** Open in a window since; still set after a crash. */
  openSince: number | null;
}

/** What was on air at the last act, apart from the document: it is small, and must be on disk at once. */
export interface AirRow {
  showId: string;
  air: Air;
  /** Show frame at the last save: the clock never goes back behind it. */
  savedFrame: number;
}

export interface AssetRow {
  id: string;
  name: string;
  type: string;
  size: number;
  addedAt: number;
}

export interface RecordingRow {
  id: string;
  showId: string;
  name: string;
  extension: 'mp4' | 'webm' | 'wav';
  startedAt: number;
  /** `cut` was ended by a crash. */
  state: 'recording' | 'done' | 'cut';
  bytes: number;
  seconds: number;
  /** Why it ended, when not by the crew. */
  note: string;
}

/** A pass that was made for somebody. It is kept in this browser and not in the show: a copy of the show lets nobody in. */
export interface PassRow extends Pass {
  showId: string;
  /** What the link holds. */
  secret: string;
  madeAt: number;
}

/** A line of a show's as-run log. */
export interface AsRunRow extends AsRunLine {
  id?: number;
  showId: string;
}

/** A segment of a replay track; its bytes are in OPFS under `replay/<id>`. */
export interface ReplaySegmentRow {
  id: string;
  showId: string;
  trackId: string;
  /** Show microseconds. */
  from: number;
  to: number;
  bytes: number;
  frames: number;
  /** `open` was being written; after a crash the file says how far it reaches. */
  state: 'open' | 'done';
  config: TrackConfig;
  groups: Group[];
}

/** A file on this machine that a sheet follows. Its permission has to be given again after a reload. */
export interface SheetFileRow {
  sheetId: string;
  showId: string;
  handle: FileSystemFileHandle;
}

/** A way in by a link: in no show, as a show is handed on. */
export interface WayRow {
  showId: string;
  kind: WayKind;
  /** Of what it is for. */
  id: string;
  secret: string;
  until: number | null;
}

/** Who has voted for what in a poll: kept here, so that a server that begins anew lets nobody vote twice. */
export interface VotesRow {
  showId: string;
  /** Identity and round of the poll. */
  poll: string;
  /** Choices from 0, by who has chosen. */
  votes: Record<string, number>;
}

/** The app's database; `name` is another for tests of its upgrades. */
export class Database extends Dexie {
  shows!: EntityTable<ShowRow, 'id'>;
  airs!: EntityTable<AirRow, 'showId'>;
  assets!: EntityTable<AssetRow, 'id'>;
  recordings!: EntityTable<RecordingRow, 'id'>;
  asRun!: EntityTable<AsRunRow, 'id'>;
  replaySegments!: EntityTable<ReplaySegmentRow, 'id'>;
  sheetFiles!: EntityTable<SheetFileRow, 'sheetId'>;
  passes!: EntityTable<PassRow, 'id'>;
  ways!: Table<WayRow, [string, WayKind, string]>;
  votes!: Table<VotesRow, [string, string]>;

  constructor(name = 'bivoca') {
    super(name);
    this.version(1).stores({
      shows: 'id, openedAt, deletedAt',
      assets: 'id',
      recordings: 'id, showId, startedAt, state',
      asRun: '++id, showId, [showId+startedAt]',
    });
    this.version(2).stores({ replaySegments: 'id, showId, [showId+trackId], state' });
    this.version(3)
      .stores({ airs: 'showId' })
      .upgrade(async (t) => {
        const rows = (await t.table('shows').toArray()) as (ShowRow & { air?: Air | null; savedFrame?: number })[];
        for (const { id, air, savedFrame } of rows)
          if (air) await t.table('airs').put({ showId: id, air, savedFrame: savedFrame ?? 0 } satisfies AirRow);
        await t
          .table('shows')
          .toCollection()
          .modify((row: { air?: unknown; savedFrame?: unknown }) => {
            delete row.air;
            delete row.savedFrame;
          });
      });
    this.version(4).stores({ sheetFiles: 'sheetId, showId' });
    // Passes are in no show: see PassRow.
    this.version(5).stores({ passes: 'id, showId' });
    this.version(6).stores({ guestLinks: 'id, showId' });
    this.version(7)
      .stores({ ways: '[showId+kind+id], showId', votes: '[showId+poll], showId' })
      .upgrade(async (t) => {
        const links = (await t.table('guestLinks').toArray()) as Omit<WayRow, 'kind'>[];
        await t.table('ways').bulkPut(links.map((link) => ({ ...link, kind: 'guest' }) satisfies WayRow));
      });
    this.version(8).stores({ guestLinks: null });
  }
}

export const db = new Database();

/** Longest wait for the browser's own storage, in milliseconds. */
const STORAGE_ANSWERS_MS = 8000;

/**
 * Opens the database. Chromium can leave it locked for good when a page is left in the very moment of making it.
 * @throws Error with the remedy when the browser's storage does not answer.
 */
export async function openDatabase(): Promise<void> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const silence = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () =>
        reject(
          new Error("The browser's storage does not answer. Close all windows of this browser and open Bivoca again; nothing is lost."),
        ),
      STORAGE_ANSWERS_MS,
    );
  });
  await Promise.race([db.open(), silence]).finally(() => clearTimeout(timer));
}

/**
 * Changes fields of a show's row; nothing when it is not there. Dexie's own `update` would clone and compare the whole document, which may have
 * thousands of clips, on the page's thread.
 */
export const changeShowRow = (id: string, change: Partial<ShowRow>): Promise<void> =>
  db.transaction('rw', db.shows, async () => {
    const row = await db.shows.get(id);
    if (row) await db.shows.put({ ...row, ...change });
  });
