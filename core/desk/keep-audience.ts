/** After every act: sheets that come from the audience hold what was chosen and voted, whichever act has changed it. */
import { type Patch, produceWithPatches } from 'immer';
import { audienceTable, type Table } from '../audience/rows';
import { type Sheet } from '../sheets/document';
import { putColumns, putRows } from '../sheets/edit';
import { type Desk } from './air';
import { KeepLast } from './keep-last';

interface Change {
  index: number;
  table: Table;
}

const changesFor = new KeepLast<readonly Change[]>();

const isSame = (sheet: Sheet, table: Table): boolean =>
  JSON.stringify([sheet.columns, sheet.rows, sheet.key, sheet.images]) ===
  JSON.stringify([table.columns, table.rows, table.key, table.images]);

/** The desk with such sheets in order, with the patches of that; the same desk where nothing was to be done. */
export function keepAudience(desk: Desk): readonly [Desk, Patch[], Patch[]] {
  const { sheets, audience } = desk.show;
  const { poll } = desk.air.audience;
  const changes = changesFor.get([sheets, audience.queue, audience.polls, poll], () =>
    sheets.flatMap((sheet, index) => {
      const table = audienceTable(sheet, audience, desk.air.audience);
      return table && !isSame(sheet, table) ? [{ index, table }] : [];
    }),
  );
  if (changes.length === 0) return [desk, [], []];
  return produceWithPatches(desk, (draft: Desk) => {
    for (const { index, table } of changes) {
      const sheet = draft.show.sheets[index] as Sheet;
      putColumns(sheet, table.columns);
      putRows(sheet, table.rows);
      sheet.key = table.key;
      if (JSON.stringify(sheet.images) !== JSON.stringify(table.images)) sheet.images = table.images;
    }
  });
}
