/** Keeps sheets up with where they come from: addresses are asked again and again, files are read again as they change. What is there stays when neither can be read. */
import { type Desk } from '#core/desk/air';
import { needsSeconds } from '#core/desk/keep-sheets';
import { wholeSeconds } from '#core/graphics/clocks';
import { causeOf } from '#core/schema/cause';
import { type AddressSource, type Sheet } from '#core/sheets/document';
import { type SheetStatus } from '../client/state';
import { askAddress, AddressTrouble } from '../sheets/addresses';
import { type SheetRows } from '../sheets/messages';
import { readSheet } from '../sheets/sheets';
import { storeImage } from '../storage/assets';
import { db } from '../storage/db';
import { type Follower, type HostAccess } from './follower';
import { type ImageOutside, SheetImages } from './sheet-images';

/** How often a followed file is looked at, milliseconds. */
const LOOK_MS = 1000;

/** What the outside gives; another one in tests. */
export interface SheetOutside extends ImageOutside {
  read: (data: Blob, name: string) => Promise<SheetRows>;
  handles: (showId: string) => Promise<{ sheetId: string; handle: FileSystemFileHandle }[]>;
  keepHandle: (showId: string, sheetId: string, handle: FileSystemFileHandle) => Promise<unknown>;
}

const OUTSIDE: SheetOutside = {
  ask: askAddress,
  store: storeImage,
  read: readSheet,
  handles: (showId) => db.sheetFiles.where('showId').equals(showId).toArray(),
  keepHandle: (showId, sheetId, handle) => db.sheetFiles.put({ sheetId, showId, handle }),
};

interface Followed {
  /** What it was begun with: another source begins anew. */
  source: object;
  stop: () => void;
}

const sameRows = (sheet: Sheet, columns: readonly string[], rows: readonly string[]): boolean =>
  sheet.rows.length === rows.length &&
  sheet.columns.length === columns.length &&
  columns.every((c, i) => c === sheet.columns[i]) &&
  rows.every((r, i) => r === sheet.rows[i]);

export class SheetControl implements Follower {
  private readonly followed = new Map<string, Followed>();
  private readonly handles = new Map<string, FileSystemFileHandle>();
  private status: Record<string, SheetStatus> = {};
  private seconds = '';
  private closed = false;
  private readonly images: SheetImages;
  /** Images that cannot be had: rows may be read all the same. */
  private readonly missing = new Map<string, Pick<SheetStatus, 'trouble' | 'wants'>>();

  constructor(
    private readonly showId: string,
    private readonly access: HostAccess,
    private readonly outside: SheetOutside = OUTSIDE,
  ) {
    this.images = new SheetImages(access, outside, (id, trouble, host) => {
      const missing = { trouble, wants: host === null ? null : { kind: 'host' as const, host } };
      this.missing.set(id, missing);
      this.troubled(id, missing.trouble, missing.wants);
    });
    void this.recall();
  }

  /** Files that were followed before a reload: those that may still be read go on, the others ask for a press. */
  private async recall(): Promise<void> {
    const rows = await this.outside.handles(this.showId).catch(() => []);
    if (this.closed) return;
    for (const { sheetId, handle } of rows) if (!this.handles.has(sheetId)) this.handles.set(sheetId, handle);
    this.follow(this.access.state().desk);
  }

  private say(sheetId: string, change: Partial<SheetStatus>): void {
    const before = this.status[sheetId] ?? { good: null, trouble: null, wants: null };
    const next = { ...before, ...change };
    if (next.good === before.good && next.trouble === before.trouble && JSON.stringify(next.wants) === JSON.stringify(before.wants)) return;
    this.status = { ...this.status, [sheetId]: next };
    this.access.set({ sheets: this.status });
  }

  /** It was read without a fault. */
  private good(id: string): void {
    this.say(id, { good: Date.now(), ...(this.missing.get(id) ?? { trouble: null, wants: null }) });
  }

  private sheet(id: string): Sheet | undefined {
    return this.access.state().desk.show.sheets.find((s) => s.id === id);
  }

  follow(desk: Desk): void {
    const { show } = desk;
    this.images.follow(desk);
    for (const sheet of show.sheets) {
      const known = this.followed.get(sheet.id);
      if (known?.source === sheet.source) continue;
      if (sheet.source.kind === 'address') this.begin(sheet.id, sheet.source, this.poll(sheet.id, sheet.source));
      else if (sheet.source.kind === 'file') {
        const handle = this.handles.get(sheet.id);
        // Another file may have taken its place, which is not followed.
        if (handle && handle.name === sheet.source.fileName) this.begin(sheet.id, sheet.source, this.watch(sheet.id, handle));
      }
    }
    for (const [id, { source }] of this.followed) {
      const now = show.sheets.find((s) => s.id === id)?.source;
      if (now !== source) this.end(id);
    }
  }

  private begin(id: string, source: object, stop: () => void): void {
    this.followed.get(id)?.stop();
    this.missing.delete(id);
    this.followed.set(id, { source, stop });
  }

  private end(id: string): void {
    this.followed.get(id)?.stop();
    this.followed.delete(id);
    const rest = Object.fromEntries(Object.entries(this.status).filter(([other]) => other !== id));
    this.status = rest;
    this.access.set({ sheets: rest });
  }

  /** Asks an address again and again; the next time is counted from the end of the one before. Returns how to stop. */
  private poll(id: string, source: AddressSource): () => void {
    let timer: ReturnType<typeof setTimeout> | undefined;
    let stopped = false;
    let tag = '';
    const again = async () => {
      try {
        const { data, tag: next } = await this.outside.ask({
          address: source.address,
          timeoutMs: source.timeoutSeconds * 1000,
          most: source.mostMegabytes * 1e6,
          allowed: source.allowed,
          tag,
        });
        if (stopped) return;
        if (data) this.put(id, await this.outside.read(data, this.sheet(id)?.name ?? 'The address'), () => stopped);
        tag = next;
        this.good(id);
      } catch (error) {
        tag = '';
        const host = error instanceof AddressTrouble ? error.host : null;
        const quiet = error instanceof AddressTrouble && error.ours;
        if (!stopped && quiet) this.say(id, { trouble: causeOf(error), wants: null });
        else if (!stopped) this.troubled(id, causeOf(error), host === null ? null : { kind: 'host', host });
      }
      if (!stopped) timer = setTimeout(() => void again(), source.everySeconds * 1000);
    };
    void again();
    return () => {
      stopped = true;
      clearTimeout(timer);
    };
  }

  /** Reads a file again whenever it changes on the disk. Returns how to stop. */
  private watch(id: string, handle: FileSystemFileHandle): () => void {
    let stopped = false;
    let modified = 0;
    let looking = false;
    const look = async () => {
      if (looking) return;
      looking = true;
      try {
        if ((await permissionOf(handle)) !== 'granted')
          return this.troubled(id, `${handle.name} may be read again after a press.`, { kind: 'press' });
        const file = await handle.getFile();
        if (file.lastModified === modified) return;
        this.put(id, await this.outside.read(file, file.name), () => stopped);
        modified = file.lastModified;
        this.good(id);
      } catch (error) {
        if (!stopped) this.troubled(id, `${handle.name} cannot be read any more (${causeOf(error)}).`, null);
      } finally {
        looking = false;
      }
    };
    const timer = setInterval(() => void look(), LOOK_MS);
    void look();
    return () => {
      stopped = true;
      clearInterval(timer);
    };
  }

  private troubled(id: string, trouble: string, wants: SheetStatus['wants']): void {
    const before = this.status[id]?.trouble ?? null;
    this.say(id, { trouble, wants });
    const name = this.sheet(id)?.name ?? 'A sheet';
    // Said once, until it is good again: what is on air is not touched.
    if (before === null)
      this.access.notify('caution', `${name}: ${trouble} The values from before stay.`, ({ show }) => {
        const status = this.status[id];
        return !show.sheets.some((s) => s.id === id) || status?.trouble === null || status === undefined;
      });
  }

  private put(id: string, { columns, rows }: SheetRows, stopped: () => boolean): void {
    const sheet = this.sheet(id);
    if (stopped() || (sheet?.source.kind !== 'address' && sheet?.source.kind !== 'file')) return;
    if (sameRows(sheet, columns, rows)) return;
    const done = this.access.command({ type: 'sheet.refresh', args: { sheet: id, columns, rows, at: Date.now() } });
    if (done && !done.ok) throw new Error(done.error.message);
  }

  /** From now on a sheet follows this file. */
  async followFile(sheetId: string, handle: FileSystemFileHandle): Promise<void> {
    this.handles.set(sheetId, handle);
    await this.outside.keepHandle(this.showId, sheetId, handle).catch(() => undefined);
    this.end(sheetId);
    this.follow(this.access.state().desk);
  }

  /** Asks whether the file of a sheet may be read again; call it within a press. */
  async again(sheetId: string): Promise<void> {
    const handle = this.handles.get(sheetId) as (FileSystemFileHandle & PermissionAsk) | undefined;
    if (!handle) return;
    await handle.requestPermission?.({ mode: 'read' });
    await this.followFile(sheetId, handle);
  }

  /** Formulas that read clocks are worked out again when one of these shows another second. */
  tick({ show, air }: Desk, frame: number): void {
    if (!needsSeconds(show)) return;
    const seconds = show.graphics.clocks.map((c) => wholeSeconds(c, air.graphics, frame + 1, show.rate)).join();
    if (seconds === this.seconds) return;
    this.seconds = seconds;
    this.access.command({ type: 'formula.seconds' });
  }

  close(): void {
    this.closed = true;
    this.images.close();
    for (const { stop } of this.followed.values()) stop();
    this.followed.clear();
  }
}

interface PermissionAsk {
  queryPermission?: (of: { mode: 'read' }) => Promise<PermissionState>;
  requestPermission?: (of: { mode: 'read' }) => Promise<PermissionState>;
}

/** Whether a file may be read; files of this browser's own storage always may. */
const permissionOf = async (handle: FileSystemFileHandle & PermissionAsk): Promise<PermissionState> =>
  (await handle.queryPermission?.({ mode: 'read' })) ?? 'granted';
