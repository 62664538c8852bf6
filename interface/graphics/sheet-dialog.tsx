/** A sheet for a graphic: chosen or brought in, its columns met with the fields, its rows taken as entries. */
import { useMemo, useState } from 'react';
import { type Graphic, MOST_ENTRIES, type SheetLink } from '#core/graphics/document';
import { type Sheet } from '#core/sheets/document';
import { createSheet } from '#core/sheets/create';
import { sheetFaults } from '#core/sheets/into-entries';
import { type ColumnMap, matchColumns } from '#core/sheets/match';
import { cellsOf } from '#core/sheets/row';
import { useShow, useShowClient } from '../client/show-client';
import { say } from '../client/say';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { FileButton } from '../parts/file-button';
import { Check, Choice } from '../parts/fields';
import { canFollow, chooseToFollow, putRows, type ReadRows, rowsOfFile, rowsOfPaste } from './sheet-files';

/** Rows that are shown before they are taken. */
const SHOWN = 4;

/** What a sheet begins with: its first rows, under the names of its columns. */
function Begin({ columns, rows }: Pick<Sheet, 'columns' | 'rows'>) {
  return (
    <div className="max-h-40 shrink-0 overflow-auto border border-line">
      <table className="w-full text-sm" aria-label="How the sheet begins">
        <thead>
          <tr className="text-left text-xs text-muted">
            {columns.map((c) => (
              <th key={c} className="px-2 py-0.5 font-normal whitespace-nowrap">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, SHOWN).map((row, i) => (
            <tr key={i} className="border-t border-line">
              {cellsOf(row).map((cell, c) => (
                <td key={c} className="max-w-48 truncate px-2 py-0.5">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Faults({ graphic, sheet, link }: { graphic: Graphic; sheet: Sheet; link: SheetLink }) {
  const faults = useMemo(() => sheetFaults(graphic.fields, link, sheet), [graphic.fields, link, sheet]);
  if (faults.length === 0) return null;
  return (
    <section aria-label="Cells that cannot be taken">
      <h3 className="text-sm font-semibold text-caution">
        {faults.length} {faults.length === 1 ? 'cell is' : 'cells are'} left out
      </h3>
      <ul className="max-h-24 list-disc overflow-y-auto pl-5 text-sm">
        {faults.slice(0, 50).map((f) => (
          <li key={`${f.row} ${f.column}`}>
            row {f.row}, {f.column}: {f.why}
          </li>
        ))}
      </ul>
    </section>
  );
}

const NEW = '';

/** Columns by field, as a graphic is tied to its sheet. */
const mapOf = ({ sheet }: Graphic): ColumnMap => Object.fromEntries(sheet?.columns.map((c) => [c.fieldId, c.column]) ?? []);

/** Columns that meet fields: as they did before where they are still there, else by their names. */
function meet(graphic: Graphic, columns: readonly string[]): ColumnMap {
  const still = Object.fromEntries(Object.entries(mapOf(graphic)).filter(([, column]) => columns.includes(column)));
  return { ...matchColumns(graphic.fields, columns), ...still };
}

function Form({ graphic, onClose }: { graphic: Graphic; onClose: () => void }) {
  const client = useShowClient();
  const sheets = useShow(({ desk }) => desk.show.sheets);
  const tied = sheets.find((s) => s.id === graphic.sheet?.sheetId) ?? null;
  const [chosen, setChosen] = useState<string>(tied?.id ?? NEW);
  const [read, setRead] = useState<ReadRows | null>(null);
  const [map, setMap] = useState<ColumnMap>(() => (tied ? meet(graphic, tied.columns) : {}));
  const [key, setKey] = useState<string | null>(tied?.key ?? null);
  const [all, setAll] = useState(graphic.sheet?.all ?? true);
  const [pasted, setPasted] = useState('');
  const stored = sheets.find((s) => s.id === chosen) ?? null;
  const sheet = useMemo(
    () =>
      read
        ? createSheet('read', read.name, read.source, { columns: read.columns, rows: read.rows, images: stored?.images ?? [], key })
        : stored && { ...stored, key },
    [read, stored, key],
  );
  const every = all && (sheet?.rows.length ?? 0) <= MOST_ENTRIES;
  const link = useMemo<SheetLink>(
    () => ({ sheetId: chosen, all: every, columns: Object.entries(map).map(([fieldId, column]) => ({ fieldId, column })) }),
    [chosen, every, map],
  );
  const take = (columns: readonly string[], wanted: string | null) => {
    setMap(meet(graphic, columns));
    setKey(wanted !== null && columns.includes(wanted) ? wanted : null);
  };
  const have = (next: ReadRows | null) => {
    if (!next) return;
    setRead(next);
    take(next.columns, key);
  };
  const bring = async () => {
    const commands = (sheetId: string) => [
      { type: 'sheet.set', args: { sheet: sheetId, key } },
      { type: 'graphic.setSheet', args: { graphic: graphic.id, sheet: { ...link, sheetId } } },
    ];
    if (read) {
      if ((await putRows(client, read, stored, commands)) === null) return;
    } else if (stored) {
      const done = client.dispatchAll(commands(stored.id));
      if (!done.ok) return say.caution(done.error.message);
    }
    onClose();
  };
  const untie = () => {
    client.dispatch({ type: 'graphic.setSheet', args: { graphic: graphic.id, sheet: null } });
    onClose();
  };
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <Choice
          label="Sheet"
          value={chosen}
          all={[[NEW, 'a new one'], ...sheets.map((s) => [s.id, s.name] as const)]}
          onChange={(id) => {
            const next = sheets.find((s) => s.id === id);
            setChosen(id);
            setRead(null);
            take(next?.columns ?? [], next?.key ?? null);
          }}
        />
        {canFollow() ? <Button onClick={() => void chooseToFollow().then(have)}>Choose a file to follow…</Button> : null}
        <FileButton label="Sheet file" accept=".csv,.tsv,.txt,.json,.xlsx" onFile={(file) => void rowsOfFile(file).then(have)}>
          Choose a file…
        </FileButton>
        <textarea
          aria-label="Pasted table"
          placeholder="or paste a table here"
          rows={1}
          className="min-w-60 flex-1"
          value={pasted}
          onChange={(e) => setPasted(e.target.value)}
        />
        <Button unusable={pasted.trim() === '' ? 'Paste a table first.' : null} onClick={() => void rowsOfPaste(pasted).then(have)}>
          Read it
        </Button>
      </div>
      {sheet && sheet.columns.length > 0 && (
        <>
          <p className="text-sm text-muted">
            {sheet.name}: {sheet.rows.length} rows, {sheet.columns.length} columns
            {read?.handle ? '; followed as it changes on the disk' : ''}
            {read && stored ? `; they take the place of what is in ${stored.name}` : ''}
          </p>
          <Begin columns={sheet.columns} rows={sheet.rows} />
          <div className="grid shrink-0 grid-cols-3 gap-2">
            {graphic.fields.map((field) => (
              <Choice
                key={field.id}
                label={`${field.name} (${field.formula === null ? field.default.kind : 'formula'})`}
                value={map[field.id] ?? ''}
                all={[['', field.formula === null ? 'not from the sheet' : 'by its formula'], ...sheet.columns.map((c) => [c, c] as const)]}
                onChange={(column) => {
                  const rest = Object.entries(map).filter(([id]) => id !== field.id);
                  setMap(Object.fromEntries(column === '' ? rest : [...rest, [field.id, column]]));
                }}
              />
            ))}
            <Choice
              label="Rows are told apart by"
              value={key ?? ''}
              all={[['', 'their order'], ...sheet.columns.map((c) => [c, c] as const)]}
              onChange={(column) => setKey(column === '' ? null : column)}
            />
          </div>
          {sheet.rows.length > MOST_ENTRIES ? (
            <p className="text-sm text-muted">
              A graphic holds {MOST_ENTRIES} entries: of this sheet rows are picked one by one, under Sheets.
            </p>
          ) : (
            <Check label="every row is an entry; otherwise rows are picked under Sheets" on={all} onChange={setAll} />
          )}
          <Faults graphic={graphic} sheet={sheet} link={link} />
        </>
      )}
      <div className="flex justify-end gap-2">
        {tied && (
          <Button className="mr-auto" title="The entries stay as they are, and are filled in by hand again" onClick={untie}>
            No sheet any more
          </Button>
        )}
        <Button onClick={onClose}>Leave it</Button>
        <Button
          look="straw"
          unusable={
            !sheet || sheet.columns.length === 0
              ? 'Choose a sheet or a file, or paste a table first.'
              : link.columns.length === 0
                ? 'No column fills a field in yet.'
                : null
          }
          onClick={() => void bring()}
        >
          Take the rows
        </Button>
      </div>
    </>
  );
}

export function SheetDialog({ graphic, open, onClose }: { graphic: Graphic; open: boolean; onClose: () => void }) {
  return (
    <Dialog
      open={open}
      onClose={onClose}
      extraWide
      title={`Sheet for ${graphic.name}`}
      about="Rows become entries, and go on with the sheet: only what differs changes. CSV, TSV, JSON or XLSX, in any encoding; addresses are under Sheets."
    >
      {open && <Form graphic={graphic} onClose={onClose} />}
    </Dialog>
  );
}
