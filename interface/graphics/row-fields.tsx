/** What tickers and tables show: items and rows, typed or from a sheet. */
import { Plus, Trash2 } from 'lucide-react';
import {
  ACROSS,
  MOST_TABLE_COLUMNS,
  type TableColumn,
  type TableContent,
  type TextStyle,
  type TickerContent,
} from '#core/graphics/element';
import { useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { FileButton } from '../parts/file-button';
import { useDraft } from '../parts/use-draft';
import { Check, Choice, ColourField, Line, Num, Numbers, Part } from '../parts/fields';
import { useAddImage } from './images';
import { TypeFields } from './type-fields';

interface Props<C> {
  content: C;
  change: (part: Partial<C>) => void;
  setType: (part: Partial<TextStyle>) => void;
}

function SheetChoice({ sheetId, onChange }: { sheetId: string | null; onChange: (sheetId: string | null) => void }) {
  const sheets = useShow(({ desk }) => desk.show.sheets);
  return (
    <Choice
      label="From the sheet"
      value={sheetId ?? ''}
      all={[['', 'none'], ...sheets.map((s) => [s.id, s.name] as const)]}
      onChange={(id) => onChange(id === '' ? null : id)}
    />
  );
}

/** Columns of a sheet to choose from; one that is gone is named too. */
function useColumns(sheetId: string | null): readonly string[] {
  return useShow(({ desk }) => desk.show.sheets.find((s) => s.id === sheetId)?.columns) ?? NONE;
}
const NONE: readonly string[] = [];

const columnChoices = (columns: readonly string[], now: string) =>
  (columns.includes(now) || now === '' ? columns : [now, ...columns]).map((c) => [c, columns.includes(c) ? c : `${c} (gone)`] as const);

function Items({ items, onSave }: { items: readonly string[]; onSave: (items: string[]) => void }) {
  const kept = items.join('\n');
  const [text, setText] = useDraft(kept);
  const save = () => {
    const next = text
      .split('\n')
      .map((line) => line.trim().slice(0, 1000))
      .filter(Boolean);
    if (next.join('\n') !== kept) onSave(next.slice(0, 1000));
  };
  return (
    <textarea
      aria-label="Items, one in a line"
      rows={5}
      className="w-full resize-y"
      value={text}
      onChange={(e) => setText(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => e.key === 'Escape' && setText(kept)}
    />
  );
}

export function TickerFields({ content, change, setType }: Props<TickerContent>) {
  const addImage = useAddImage();
  const columns = useColumns(content.sheetId);
  return (
    <>
      <Part title={`Items (${content.items.length})`}>
        <Numbers>
          <SheetChoice
            sheetId={content.sheetId}
            onChange={(sheetId) => change({ sheetId, ...(!columns.includes(content.column) && { column: '' }) })}
          />
          {content.sheetId !== null && (
            <Choice
              label="Column"
              value={content.column}
              all={[['', 'none'], ...columnChoices(columns, content.column)]}
              onChange={(column) => change({ column })}
            />
          )}
        </Numbers>
        {content.sheetId === null ? (
          <Items items={content.items} onSave={(items) => change({ items })} />
        ) : (
          <p className="text-xs text-muted">{content.items.slice(0, 3).join(' • ') || 'The column has no items.'}</p>
        )}
      </Part>
      <Part title="How it runs">
        <Numbers>
          <Num label="Speed" unit="px/s" min={1} max={4000} value={content.speed} onCommit={(speed) => change({ speed })} />
          <Choice
            label="Goes"
            value={content.direction}
            all={[
              ['left', 'to the left'],
              ['right', 'to the right'],
            ]}
            onChange={(direction) => change({ direction })}
          />
          <Num label="Room at the separator" unit="px" min={0} max={2000} value={content.gap} onCommit={(gap) => change({ gap })} />
          <label className="flex flex-col gap-0.5">
            <span className="text-xs text-muted">Separator</span>
            <Line label="Separator" empty max={20} value={content.separator} onSave={(separator) => change({ separator })} />
          </label>
        </Numbers>
        <div className="flex gap-1">
          <FileButton
            label="Image of the separator"
            accept="image/*"
            onFile={(file) => void addImage(file).then((separatorId) => separatorId && change({ separatorId }))}
          >
            {content.separatorId === null ? 'An image instead…' : 'Another image…'}
          </FileButton>
          {content.separatorId !== null && <Button onClick={() => change({ separatorId: null })}>Text again</Button>}
        </div>
        <Check label="begins anew after the last item" on={content.loops} onChange={(loops) => change({ loops })} />
      </Part>
      <TypeFields grows={false} style={content.style} set={setType} />
    </>
  );
}

export function TableFields({ content, change, setType }: Props<TableContent>) {
  const columns = useColumns(content.sheetId);
  const setColumn = (at: number, part: Partial<TableColumn>) =>
    change({ columns: content.columns.map((c, i) => (i === at ? { ...c, ...part } : c)) });
  return (
    <>
      <Part title="Rows">
        <SheetChoice sheetId={content.sheetId} onChange={(sheetId) => change({ sheetId })} />
        <Numbers>
          <Choice
            label="Sorted by"
            value={content.sortBy ?? ''}
            all={[['', 'as the sheet is'], ...columnChoices(columns, content.sortBy ?? '')]}
            onChange={(sortBy) => change({ sortBy: sortBy === '' ? null : sortBy })}
          />
          <Choice
            label="First"
            value={content.down ? 'down' : 'up'}
            all={[
              ['down', 'the largest'],
              ['up', 'the smallest'],
            ]}
            onChange={(way) => change({ down: way === 'down' })}
          />
          <Num
            label="Rows at most"
            min={1}
            max={60}
            digits={0}
            value={content.count}
            onCommit={(count) => change({ count: Math.round(count) })}
          />
          <Num
            label="Height of a row"
            unit="px"
            min={1}
            max={2000}
            value={content.rowHeight}
            onCommit={(rowHeight) => change({ rowHeight })}
          />
          <Num label="Between rows" unit="px" min={0} max={500} value={content.gap} onCommit={(gap) => change({ gap })} />
        </Numbers>
        <Check label="rows are numbered" on={content.numbered} onChange={(numbered) => change({ numbered })} />
        <Check label="a plate behind each row" on={content.plate !== null} onChange={(on) => change({ plate: on ? '#0d1517' : null })} />
        {content.plate !== null && (
          <ColourField
            label="Plate"
            colour={content.plate}
            opacity={content.plateOpacity}
            onChange={({ colour, opacity }) =>
              change({ ...(colour !== undefined && { plate: colour }), ...(opacity !== undefined && { plateOpacity: opacity }) })
            }
          />
        )}
      </Part>
      <Part
        title="Columns from left to right"
        action={
          <IconButton
            label="Add a column to the table"
            unusable={
              columns.length === 0
                ? 'Choose a sheet first.'
                : content.columns.length >= MOST_TABLE_COLUMNS
                  ? 'A table has at most 12 columns.'
                  : null
            }
            onClick={() => {
              const column = columns.find((c) => !content.columns.some((own) => own.column === c)) ?? columns[0];
              if (column !== undefined) change({ columns: [...content.columns, { column, share: 1, across: 'left' }] });
            }}
          >
            <Plus size={14} />
          </IconButton>
        }
      >
        {content.columns.length === 0 && <p className="text-xs text-muted">None yet: nothing of the rows is seen.</p>}
        {content.columns.map(({ column, share, across }, i) => (
          <div key={i} className="flex items-end gap-1">
            <div className="min-w-0 flex-1">
              <Choice
                label={`Column ${i + 1}`}
                value={column}
                all={columnChoices(columns, column)}
                onChange={(next) => setColumn(i, { column: next })}
              />
            </div>
            <div className="w-14">
              <Num label="Share" min={0.1} max={50} value={share} onCommit={(next) => setColumn(i, { share: next })} />
            </div>
            <Choice
              label="Set"
              value={across}
              all={ACROSS.map((a) => [a, a] as const)}
              onChange={(next) => setColumn(i, { across: next })}
            />
            <Button
              look="quiet"
              className="px-0.5!"
              aria-label={`Remove column ${i + 1} of the table`}
              onClick={() => change({ columns: content.columns.filter((_, c) => c !== i) })}
            >
              <Trash2 size={13} />
            </Button>
          </div>
        ))}
      </Part>
      <TypeFields grows={false} style={content.style} set={setType} />
    </>
  );
}
