/** Images that entries want from addresses which cells of their sheets name, and that are not there yet. */
import { type Show } from '../desk/show';
import { type Graphic } from '../graphics/document';
import { type Sheet } from './document';
import { imageOf } from './into-entries';
import { cellOf } from './row';
import { columnAt, rowKeys } from './rows';

export interface WantedImage {
  sheetId: string;
  address: string;
}

const known = new WeakMap<Graphic, { rows: readonly string[]; images: Sheet['images']; addresses: readonly string[] }>();

/** Addresses of images that the rows of a graphic's entries name, without those that are there. */
function addressesFor(graphic: Graphic, sheet: Sheet): readonly string[] {
  const found = known.get(graphic);
  if (found?.rows === sheet.rows && found.images === sheet.images) return found.addresses;
  const columns = (graphic.sheet?.columns ?? []).flatMap(({ fieldId, column }) =>
    graphic.fields.find((f) => f.id === fieldId)?.default.kind === 'image' ? [columnAt(sheet.columns, column)] : [],
  );
  const { places } = rowKeys(sheet);
  const addresses = new Set<string>();
  for (const { rowKey } of columns.length > 0 ? graphic.entries : []) {
    const row = rowKey === null ? undefined : places.get(rowKey);
    for (const at of row === undefined ? [] : columns) {
      const cell = at < 0 ? '' : cellOf(sheet.rows[row ?? 0] ?? '', at).trim();
      if (/^https?:\/\//u.test(cell) && cell.length <= 300 && imageOf(sheet.images, cell) === undefined) addresses.add(cell);
    }
  }
  const list = [...addresses];
  known.set(graphic, { rows: sheet.rows, images: sheet.images, addresses: list });
  return list;
}

/** Every image that is wanted from an address, of sheets that come from addresses themselves: just those say which hosts are allowed. */
export const wantedImages = ({ graphics, sheets }: Pick<Show, 'graphics' | 'sheets'>): WantedImage[] =>
  graphics.list.flatMap((graphic) => {
    const sheet = graphic.sheet && sheets.find((s) => s.id === graphic.sheet?.sheetId);
    return sheet?.source.kind === 'address' ? addressesFor(graphic, sheet).map((address) => ({ sheetId: sheet.id, address })) : [];
  });

/** True when a sheet may ask this host: it is that of its own address, or somebody has allowed it. */
export function mayAsk({ source }: Sheet, address: string): boolean {
  if (source.kind !== 'address') return false;
  const { host } = new URL(address);
  return source.allowed.includes(host) || new URL(source.address, 'http://here.invalid/').host === host;
}
