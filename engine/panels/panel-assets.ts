/** Files of graphics at a panel, which draws its previews itself: fetched from the host one after another, and kept like its own. */
import { Graphics } from '#core/graphics/document';
import { walkRefs } from '#core/desk/refs';
import { isRecord } from '#core/schema/record';
import { storeAsset } from '../storage/assets';
import { db } from '../storage/db';
import { fromBase64 } from './base64';
import { type AskHost } from './panel-parts';

/** Identities of the files that graphics of a show use. */
export function graphicAssets({ graphics }: { graphics: Graphics }): ReadonlySet<string> {
  const ids = new Set<string>();
  walkRefs(Graphics, graphics, ({ id }) => ids.add(id), new Set(['asset'] as const));
  return ids;
}

export class PanelAssets {
  private known: Graphics | null = null;
  private readonly tried = new Set<string>();
  private working: Promise<void> = Promise.resolve();

  constructor(private readonly ask: AskHost) {}

  /** Fetches what is not here yet. */
  follow(show: { graphics: Graphics }): void {
    if (show.graphics === this.known) return;
    this.known = show.graphics;
    for (const id of graphicAssets(show)) {
      if (this.tried.has(id)) continue;
      this.tried.add(id);
      this.working = this.working.then(() => this.fetch(id)).catch(() => undefined);
    }
  }

  private async fetch(id: string): Promise<void> {
    if (await db.assets.get(id)) return;
    const answer = await this.ask({ what: 'asset', assetId: id });
    if (!isRecord(answer) || typeof answer.data !== 'string') return;
    const [name, type] = [answer.name, answer.type].map((t) => (typeof t === 'string' ? t.slice(0, 256) : ''));
    await storeAsset(new Blob([fromBase64(answer.data)], { type: type ?? '' }), name ?? id, type ?? '', id);
  }
}
