/** Images that cells name by address: asked once, one after another, from hosts that the sheet may ask, and kept with the show. */
import { type Desk } from '#core/desk/air';
import { causeOf } from '#core/schema/cause';
import { mayAsk, wantedImages } from '#core/sheets/wanted-images';
import { type askAddress } from '../sheets/addresses';
import { type HostAccess } from './follower';

/** Bytes of an image. */
const MOST_BYTES = 20e6;
const TIMEOUT_MS = 15_000;

export interface ImageOutside {
  ask: typeof askAddress;
  /** Keeps an image; its identity. @throws when it is none. */
  store: (file: File) => Promise<string>;
}

export class SheetImages {
  /** What was asked already, and the hosts that were allowed then: tried again when others are. */
  private readonly tried = new Map<string, string>();
  private asking = false;
  private closed = false;

  constructor(
    private readonly access: HostAccess,
    private readonly outside: ImageOutside,
    /** An image cannot be had, and the host that may be allowed for it. */
    private readonly troubled: (sheetId: string, trouble: string, host: string | null) => void,
  ) {}

  follow({ show }: Desk): void {
    if (!this.asking) void this.next(show);
  }

  private async next(show: Desk['show']): Promise<void> {
    this.asking = true;
    try {
      for (const { sheetId, address } of wantedImages(show)) {
        const sheet = show.sheets.find((s) => s.id === sheetId);
        if (this.closed || sheet?.source.kind !== 'address') continue;
        const allowed = sheet.source.allowed.join();
        const name = `${sheetId} ${address}`;
        if (this.tried.get(name) === allowed) continue;
        this.tried.set(name, allowed);
        if (!mayAsk(sheet, address)) {
          const { host } = new URL(address);
          this.troubled(sheetId, `Images at ${host} are wanted.`, host);
          continue;
        }
        await this.take(sheetId, address, sheet.source.allowed);
      }
    } finally {
      this.asking = false;
    }
    // What came meanwhile may want more.
    const now = this.access.state().desk.show;
    if (!this.closed && now !== show) await this.next(now);
  }

  private async take(sheetId: string, address: string, allowed: readonly string[]): Promise<void> {
    try {
      const { data, kind } = await this.outside.ask({ address, timeoutMs: TIMEOUT_MS, most: MOST_BYTES, allowed, tag: '' });
      if (!data) return;
      const file = new File([data], new URL(address).pathname.split('/').at(-1) || 'image', { type: kind.split(';')[0]?.trim() ?? '' });
      const assetId = await this.outside.store(file);
      if (!this.closed) this.access.command({ type: 'sheet.keepImages', args: { sheet: sheetId, images: [{ name: address, assetId }] } });
    } catch (error) {
      if (!this.closed) this.troubled(sheetId, `${address}: ${causeOf(error)}`, null);
    }
  }

  close(): void {
    this.closed = true;
  }
}
