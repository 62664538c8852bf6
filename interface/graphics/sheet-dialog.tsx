/** A sheet for a graphic: chosen, pasted, its columns met with the fields, its rows taken in. */
import { useMemo, useState } from 'react';
import { type Graphic, MOST_ENTRIES } from '#core/graphics/document';
import { type ColumnMap, matchColumns, rowsFor } from '#core/sheets/match';
import { readText, type Table } from '#core/sheets/table';
import { causeOf } from '#core/schema/cause';
import { readSheet } from '#engine/sheets/sheets';
import { say } from '../client/say';
import { useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { FileButton } from '../parts/file-button';
import { Choice } from './fields';
import { mapOf, takeRows, watchSheet } from './sheet-rows';

interface Read {
  name: string;
  table: Table;
  handle: FileSystemFileHandle | null;
  modified: number;
}

/** Rows that are shown before they are taken. */
const SHOWN = 4;

type Picker = () => Promise<FileSystemFileHandle[]>;
const picker = (): Picker | undefined => (window as unknown as { showOpenFilePicker?: Picker }).showOpenFilePicker?.bind(window);

/** What a sheet begins with: its first rows, under the names of its columns. */
function Begin({ table }: { table: Table }) {
  return (
    <div className="max-h-40 shrink-0 overflow-auto border border-line">
      <table className="w-full text-sm" aria-label="How the sheet begins">
        <thead>
          <tr className="text-left text-xs text-muted">
            {table.columns.map((c) => (
              <th key={c} className="px-2 py-0.5 font-normal whitespace-nowrap">
                {c}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {table.rows.slice(0, SHOWN).map((row, i) => (
            <tr key={i} className="border-t border-line">
              {row.map((cell, c) => (
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

function Faults({ graphic, table, map, keyColumn }: { graphic: Graphic; table: Table; map: ColumnMap; keyColumn: string | null }) {
  const { faults } = useMemo(() => rowsFor(graphic.fields, table, map, keyColumn), [graphic.fields, table, map, keyColumn]);
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

export function SheetDialog({ graphic, open, onClose }: { graphic: Graphic; open: boolean; onClose: () => void }) {
  const client = useShowClient();
  const [read, setRead] = useState<Read | null>(null);
  const [map, setMap] = useState<ColumnMap>({});
  const [keyColumn, setKeyColumn] = useState<string | null>(null);
  const [pasted, setPasted] = useState('');
  const take = (next: Read) => {
    setRead(next);
    const known = mapOf(graphic);
    const still = Object.fromEntries(Object.entries(known).filter(([, column]) => next.table.columns.includes(column)));
    setMap({ ...matchColumns(graphic.fields, next.table.columns), ...still });
    const key = graphic.sheet?.key ?? null;
    setKeyColumn(key !== null && next.table.columns.includes(key) ? key : null);
  };
  const fromFile = async (file: File, handle: FileSystemFileHandle | null) => {
    try {
      take({ name: file.name, table: await readSheet(file, file.name), handle, modified: file.lastModified });
    } catch (error) {
      say.caution(causeOf(error));
    }
  };
  const choose = async () => {
    try {
      const [handle] = (await picker()?.()) ?? [];
      if (handle) await fromFile(await handle.getFile(), handle);
    } catch {
      // Nobody chose a file.
    }
  };
  const paste = () => {
    try {
      take({ name: 'pasted table', table: readText(new TextEncoder().encode(pasted)), handle: null, modified: 0 });
    } catch (error) {
      say.caution(`The pasted table cannot be read. ${causeOf(error)}`);
    }
  };
  const close = () => {
    setRead(null);
    setPasted('');
    onClose();
  };
  const bring = () => {
    if (!read) return;
    const columns = Object.entries(map).map(([fieldId, column]) => ({ fieldId, column }));
    const tied = client.dispatch({
      type: 'graphic.setSheet',
      args: { graphic: graphic.id, sheet: { fileName: read.name.slice(0, 256), key: keyColumn, columns } },
    });
    if (!tied.ok) return void say.caution(tied.error.message);
    if (!takeRows(client, graphic.id, read.table).ok) return;
    if (read.handle) watchSheet(client, graphic.id, read.handle, read.modified);
    close();
  };
  return (
    <Dialog
      open={open}
      onClose={close}
      extraWide
      title={`Sheet for ${graphic.name}`}
      about="Each row becomes an entry; read again, only what differs changes. CSV, TSV, JSON or XLSX, in any encoding."
    >
      <div className="flex flex-wrap items-start gap-2">
        {picker() ? <Button onClick={() => void choose()}>Choose a file to follow…</Button> : null}
        <FileButton label="Sheet file" accept=".csv,.tsv,.txt,.json,.xlsx" onFile={(file) => void fromFile(file, null)}>
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
        <Button unusable={pasted.trim() === '' ? 'Paste a table first.' : null} onClick={paste}>
          Read it
        </Button>
      </div>
      {read && (
        <>
          <p className="text-sm text-muted">
            {read.name}: {read.table.rows.length} rows, {read.table.columns.length} columns
            {read.handle ? '; followed as it changes on the disk, as long as this page is open' : ''}
          </p>
          <Begin table={read.table} />
          <div className="grid shrink-0 grid-cols-3 gap-2">
            {graphic.fields.map((field) => (
              <Choice
                key={field.id}
                label={`${field.name} (${field.default.kind})`}
                value={map[field.id] ?? ''}
                all={[['', 'not from the sheet'], ...read.table.columns.map((c) => [c, c] as const)]}
                onChange={(column) => {
                  const rest = Object.entries(map).filter(([id]) => id !== field.id);
                  setMap(Object.fromEntries(column === '' ? rest : [...rest, [field.id, column]]));
                }}
              />
            ))}
            <Choice
              label="Rows are told apart by"
              value={keyColumn ?? ''}
              all={[['', 'their order'], ...read.table.columns.map((c) => [c, c] as const)]}
              onChange={(column) => setKeyColumn(column === '' ? null : column)}
            />
          </div>
          <Faults graphic={graphic} table={read.table} map={map} keyColumn={keyColumn} />
        </>
      )}
      <div className="flex justify-end gap-2">
        <Button onClick={close}>Leave it</Button>
        <Button
          look="straw"
          unusable={
            !read
              ? 'Choose a file, or paste a table first.'
              : read.table.rows.length > MOST_ENTRIES
                ? `A graphic holds ${MOST_ENTRIES} entries at most; the sheet has ${read.table.rows.length} rows.`
                : Object.keys(map).length === 0
                  ? 'No column fills a field in yet.'
                  : null
          }
          onClick={bring}
        >
          Take the rows
        </Button>
      </div>
    </Dialog>
  );
}
