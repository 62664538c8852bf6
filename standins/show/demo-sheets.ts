/** Sheets of the demo show: from the simulated data source, and from a workbook; and what shows them. */
import { type Show } from '#core/desk/show';
import { type Graphic } from '#core/graphics/document';
import { addressSource, createSheet } from '#core/sheets/create';
import { matchColumns } from '#core/sheets/match';
import { lineOf } from '#core/sheets/row';
import { news, standings, wind } from '../data/results-data';

/** Rows of the workbook of the heats, as it was read. */
export interface HeatRows {
  columns: string[];
  rows: string[];
}

/** Rows of a data source as they are before it is first asked. */
function rowsOf(data: Record<string, string | number>[]): { columns: string[]; rows: string[] } {
  const columns = Object.keys(data[0] ?? {});
  return { columns, rows: data.map((row) => lineOf(columns.map((c) => String(row[c])))) };
}

/** Lets a graphic have an entry for every row. */
function tie(graphic: Graphic | undefined, sheetId: string, columns: Record<string, string>): void {
  if (!graphic) return;
  const found = graphic.fields.flatMap(({ id, name }) => (columns[name] === undefined ? [] : [{ fieldId: id, column: columns[name] }]));
  graphic.sheet = { sheetId, all: true, columns: found };
}

/** Adds the sheets, and ties what shows them. Entries, rows and items come with the first act. */
export function addSheets(show: Show, heats: HeatRows): void {
  const from = (file: string, everySeconds: number) => addressSource(`/simulated/${file}`, { everySeconds });
  show.sheets = [
    createSheet('standings', 'Standings', from('standings.json', 5), { ...rowsOf(standings(0)), key: 'Bib' }),
    createSheet('wind', 'Wind', from('wind.json', 10), { ...rowsOf(wind(0)), key: 'Place' }),
    createSheet('news', 'News', from('news.json', 10), rowsOf(news(0))),
    createSheet('heats', 'Heats', { kind: 'file', fileName: 'heats.xlsx' }, heats),
  ];
  const graphic = (id: string) => show.graphics.list.find((g) => g.id === id);
  for (const { content } of graphic('news-line')?.elements ?? [])
    if (content.kind === 'ticker') Object.assign(content, { sheetId: 'news', column: 'News' });
  for (const { content } of graphic('standings-table')?.elements ?? []) if (content.kind === 'table') content.sheetId = 'standings';
  const dial = graphic('wind-dial');
  tie(dial, 'wind', { Speed: 'Knots' });
  const place = dial?.fields.find((f) => f.name === 'Place');
  if (place) place.formula = 'Place & if(Gusts > Knots + 5, ", gusts " & Gusts, "")';
  const next = graphic('next-up');
  if (next)
    tie(
      next,
      'heats',
      Object.fromEntries(
        Object.entries(matchColumns(next.fields, heats.columns)).map(([id, c]) => [next.fields.find((f) => f.id === id)?.name ?? '', c]),
      ),
    );
}
