/** The rows of a sheet: searched, filled in where they are typed here, picked as entries. Of tens of thousands just those that are seen are drawn. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { ListPlus, Plus, Trash2 } from 'lucide-react';
import { type CSSProperties, memo, useCallback, useDeferredValue, useEffect, useMemo, useRef } from 'react';
import { type Graphic } from '#core/graphics/document';
import { type Sheet } from '#core/sheets/document';
import { cellsOf } from '#core/sheets/row';
import { foundRows, rowKeys } from '#core/sheets/rows';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { useDraft } from '../parts/use-draft';

const ROW = 30;
/** Columns that are drawn. */
const MOST_COLUMNS = 24;

function Cell({ sheet, row, column, text }: { sheet: Sheet; row: number; column: string; text: string }) {
  const send = useSend();
  const [draft, setDraft] = useDraft(text);
  const save = () => void (draft !== text && send('sheet.setCell', { sheet: sheet.id, row: row + 1, column, text: draft }));
  return (
    <input
      aria-label={`${column}, row ${row + 1}`}
      className="w-full min-w-0 border-transparent! bg-transparent! px-1! hover:border-line! focus:border-straw!"
      value={draft}
      maxLength={10_000}
      onChange={(e) => setDraft(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setDraft(text);
        if (e.key === 'Enter') save();
      }}
    />
  );
}

/** The name of a column: typed in where the sheet is. */
function ColumnName({ sheet, column }: { sheet: Sheet; column: string }) {
  const send = useSend();
  const [draft, setDraft] = useDraft(column);
  const save = () => {
    if (draft === column) return;
    if (draft.trim() === '' || !send('sheet.renameColumn', { sheet: sheet.id, column, name: draft })) setDraft(column);
  };
  return (
    <span className="flex items-center">
      <input
        aria-label={`Name of the column ${column}`}
        className="w-full min-w-0 border-transparent! bg-transparent! px-1! text-xs text-muted hover:border-line!"
        value={draft}
        maxLength={80}
        onChange={(e) => setDraft(e.target.value)}
        onBlur={save}
        onKeyDown={(e) => e.key === 'Enter' && save()}
      />
      {sheet.columns.length > 1 && (
        <Button
          look="quiet"
          className="px-0.5!"
          aria-label={`Remove the column ${column}`}
          onClick={() => send('sheet.removeColumn', { sheet: sheet.id, column })}
        >
          <Trash2 size={12} />
        </Button>
      )}
    </span>
  );
}

interface RowProps {
  sheet: Sheet;
  /** From 0. */
  row: number;
  line: string;
  rowKey: string;
  columns: readonly string[];
  grid: CSSProperties;
  top: number;
  graphic: Pick<Graphic, 'id' | 'name'> | null;
  hasEntry: boolean;
  onPick: (key: string) => void;
}

/** One row: drawn again only when something of its own has changed, as others come by while one scrolls. */
const Row = memo(
  function Row({ sheet, row, line, rowKey, columns, grid, top, graphic, hasEntry, onPick }: RowProps) {
    const send = useSend();
    const typed = sheet.source.kind === 'typed';
    const cells = cellsOf(line);
    return (
      <div
        role="row"
        className="absolute inset-x-0 grid items-center border-b border-line/40 px-1 hover:bg-panel"
        style={{ ...grid, top, height: ROW, contain: 'strict' }}
        onDoubleClick={() => graphic && onPick(rowKey)}
      >
        <span role="cell" className="figures pr-2 text-right text-xs text-muted">
          {row + 1}
        </span>
        {columns.map((c, i) => (
          <span role="cell" key={c} className="min-w-0 truncate px-1 text-sm">
            {typed ? <Cell sheet={sheet} row={row} column={c} text={cells[i] ?? ''} /> : cells[i]}
          </span>
        ))}
        <span role="cell" aria-label={`What can be done with row ${row + 1}`} className="flex justify-end">
          {graphic && (
            <Button
              look="quiet"
              className={`px-1! ${hasEntry ? 'text-straw!' : ''}`}
              aria-label={`Row ${row + 1} as an entry of ${graphic.name}`}
              title={hasEntry ? `Go to its entry of ${graphic.name}` : `Make an entry of ${graphic.name}`}
              onClick={() => onPick(rowKey)}
            >
              <ListPlus size={14} />
            </Button>
          )}
          {typed && (
            <IconButton label={`Remove row ${row + 1}`} onClick={() => send('sheet.removeRow', { sheet: sheet.id, row: row + 1 })}>
              <Trash2 size={13} />
            </IconButton>
          )}
        </span>
      </div>
    );
  },
  (a, b) =>
    a.sheet.id === b.sheet.id &&
    a.sheet.source === b.sheet.source &&
    (['row', 'line', 'rowKey', 'columns', 'grid', 'top', 'hasEntry', 'onPick'] as const).every((key) => a[key] === b[key]) &&
    a.graphic?.id === b.graphic?.id &&
    a.graphic?.name === b.graphic?.name,
);

export function SheetGrid({
  sheet,
  search,
  graphic,
  onPick,
}: {
  sheet: Sheet;
  search: string;
  /** The graphic that rows are picked for; null where the open one is not tied to the sheet. */
  graphic: Graphic | null;
  onPick: (key: string) => void;
}) {
  const send = useSend();
  const box = useRef<HTMLDivElement>(null);
  // Typing goes on while tens of thousands are looked through.
  const wanted = useDeferredValue(search);
  const found = useMemo(() => foundRows(sheet.rows, wanted), [sheet.rows, wanted]);
  const { keys } = rowKeys(sheet);
  const count = found?.length ?? sheet.rows.length;
  const rows = useVirtualizer({ count, getScrollElement: () => box.current, estimateSize: () => ROW, overscan: 8 });
  const typed = sheet.source.kind === 'typed';
  const columns = useMemo(() => sheet.columns.slice(0, MOST_COLUMNS), [sheet.columns]);
  const entries = useMemo(() => new Set(graphic?.entries.flatMap((e) => e.rowKey ?? [])), [graphic?.entries]);
  // Widths that do not depend on what stands in the rows: nothing has to be measured while one scrolls.
  const grid = useMemo(
    () => ({
      gridTemplateColumns: `4.5rem repeat(${columns.length}, minmax(0, 1fr)) 3.5rem`,
      minWidth: `${8 + 7 * columns.length}rem`,
    }),
    [columns.length],
  );
  // The same function for every drawing, so that rows need not be drawn again for it.
  const pick = useRef(onPick);
  useEffect(() => {
    pick.current = onPick;
  });
  const picked = useCallback((key: string) => pick.current(key), []);
  return (
    <div
      ref={box}
      role="table"
      aria-label={`Rows of ${sheet.name}`}
      aria-rowcount={count}
      className="min-h-0 flex-1 overflow-auto border-y border-line"
    >
      <div role="row" className="sticky top-0 z-10 grid items-center border-b border-line bg-panel px-1 text-xs text-muted" style={grid}>
        <span role="columnheader" className="pr-2 text-right">
          Row
        </span>
        {columns.map((c) => (
          <span role="columnheader" key={c} className="min-w-0 truncate px-1" title={c === sheet.key ? `${c}: tells rows apart` : c}>
            {typed ? <ColumnName sheet={sheet} column={c} /> : c}
            {!typed && c === sheet.key && <span className="text-straw"> key</span>}
          </span>
        ))}
        <span role="columnheader">
          {typed && (
            <IconButton label="Add a column" onClick={() => send('sheet.addColumn', { sheet: sheet.id })}>
              <Plus size={14} />
            </IconButton>
          )}
        </span>
      </div>
      {count === 0 && (
        <p className="p-2 text-muted">
          {sheet.rows.length > 0 ? 'No row has these words.' : typed ? 'No rows yet. Add one below.' : 'No rows have come yet.'}
        </p>
      )}
      <div className="relative" style={{ height: rows.getTotalSize(), minWidth: grid.minWidth }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const row = found ? (found[index] as number) : index;
          const key = keys[row] ?? '';
          return (
            <Row
              key={row}
              sheet={sheet}
              row={row}
              line={sheet.rows[row] ?? ''}
              rowKey={key}
              columns={columns}
              grid={grid}
              top={start}
              graphic={graphic}
              hasEntry={entries.has(key)}
              onPick={picked}
            />
          );
        })}
      </div>
    </div>
  );
}
