/** The entries of a graphic as a table, worked by keys all the way. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp, Check, CopyPlus, Plus, Sheet, Trash2 } from 'lucide-react';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { type Entry, type Field, type Graphic, type Value } from '#core/graphics/document';
import { entryName, findClock } from '#core/graphics/find';
import { foundEntries } from '#core/graphics/search';
import { type Where, whereEntries } from '#core/graphics/where';
import { valueOf, wordsOf } from '#core/graphics/values';
import { pictureName } from '#core/desk/pictures';
import { type Show } from '#core/desk/show';
import { isText } from '../client/focus';
import { useSend, useShow } from '../client/show-client';
import { useDo } from '../control/do';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { region } from '../parts/region';
import { SheetDialog } from './sheet-dialog';
import { chosenEntry, setGraphicsRoom, useGraphicsRoom, workLane } from './room-state';

const ROW = 32;
/** Columns of the table; further fields stand in the form below. */
const MOST_COLUMNS = 7;

/** A value in a cell. */
function cellText(show: Show, value: Value): string {
  if (value.kind === 'clock') return findClock(show, value.clockId)?.name ?? '';
  if (value.kind === 'picture') return value.pictureId === null ? '' : pictureName(show, value.pictureId);
  if (value.kind === 'image') return value.assetId === null ? '' : 'image';
  return wordsOf(value).replaceAll('\n', ' ');
}

/** The search: letters find, Enter prepares and shows, arrows choose. */
function Search({ graphic, count }: { graphic: Graphic; count: number }) {
  const perform = useDo();
  const search = useGraphicsRoom((s) => s.search);
  const field = useRef<HTMLInputElement>(null);
  // A letter typed anywhere in the room begins a search, unless something is being typed already.
  useEffect(() => {
    const down = (event: globalThis.KeyboardEvent) => {
      if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.isComposing || event.key.length !== 1) return;
      const target = event.target instanceof HTMLElement ? event.target : null;
      if (event.shiftKey && /^Key[TREPLICWKB]$/.test(event.code) && !isText(target)) return;
      if (!/[\p{L}\p{N}]/u.test(event.key) || isText(target) || target?.closest('[role=dialog], select')) return;
      setGraphicsRoom({ search: '' });
      field.current?.focus();
    };
    window.addEventListener('keydown', down);
    return () => window.removeEventListener('keydown', down);
  }, []);
  const change = (text: string) => {
    const first = foundEntries(graphic, text)[0];
    setGraphicsRoom({ search: text, ...(first && { entryId: first.id }) });
  };
  const key = (event: KeyboardEvent) => {
    const act =
      event.key === 'ArrowDown' || event.key === 'ArrowUp'
        ? () => perform('graphics.arrow', { x: 0, y: event.key === 'ArrowDown' ? 1 : -1 })
        : event.key === 'Enter'
          ? () => perform(event.shiftKey ? 'graphics.hide' : event.ctrlKey ? 'graphics.next' : 'graphics.enter')
          : null;
    if (event.key === 'Escape') setGraphicsRoom({ search: '' });
    if (!act) return;
    event.preventDefault();
    event.stopPropagation();
    act();
  };
  return (
    <input
      ref={field}
      data-role="find-entry"
      data-first=""
      type="search"
      aria-label={`Find an entry of ${graphic.name}`}
      placeholder={`Find in ${count} entries`}
      className="w-48"
      value={search}
      onChange={(e) => change(e.target.value)}
      onKeyDown={key}
    />
  );
}

const SIGNS = {
  ready: ['READY', 'border border-straw text-straw'],
  air: ['AIR', 'bg-air text-deep'],
  edited: ['EDITED', 'bg-caution text-deep'],
} as const;

function Cells({
  graphic,
  entry,
  fields,
  show,
  sign,
}: {
  graphic: Graphic;
  entry: Entry;
  fields: readonly Field[];
  show: Show;
  sign: Where['sign'] | undefined;
}) {
  return (
    <>
      <span role="cell" className="figures w-10 shrink-0 pr-2 text-right text-muted">
        {entry.number ?? ''}
      </span>
      <span role="cell" className="w-18 shrink-0">
        {sign && (
          <span
            className={`figures px-1 text-[13px] leading-tight font-semibold ${SIGNS[sign][1]}`}
            title={sign === 'edited' ? 'On air with other words: change it with Enter' : undefined}
          >
            {SIGNS[sign][0]}
          </span>
        )}
      </span>
      {fields.map((field) => {
        const value = valueOf(field, entry.values);
        return (
          <span
            role="cell"
            key={field.id}
            className={`min-w-0 flex-1 truncate pr-2 ${value.kind === 'number' ? 'figures text-right' : ''}`}
          >
            {value.kind === 'colour' ? (
              <span className="inline-block h-4 w-8 align-middle" style={{ background: value.colour }} />
            ) : (
              cellText(show, value)
            )}
          </span>
        );
      })}
      {fields.length === 0 && <span className="text-muted">{entryName(graphic, entry)}</span>}
    </>
  );
}

/** The table of the open graphic. */
export function EntryTable({ graphic }: { graphic: Graphic }) {
  const send = useSend();
  const perform = useDo();
  const { search, entryId, laneId } = useGraphicsRoom();
  const room = useRef<HTMLDivElement>(null);
  const [sheet, setSheet] = useState(false);
  const [sorted, setSorted] = useState<{ field: string | null; down: boolean } | null>(null);
  const sort = (field: string | null) => {
    const down = sorted?.field === field && !sorted.down;
    setSorted({ field, down });
    send('entry.sort', { graphic: graphic.id, ...(field !== null && { field }), down });
  };
  const { show, air } = useShow(({ desk }) => desk);
  const tied = show.sheets.find((s) => s.id === graphic.sheet?.sheetId)?.name;
  const where = whereEntries(show, air, graphic);
  const list = foundEntries(graphic, search);
  const lane = show.lanes.find((l) => l.id === workLane(show, laneId, graphic));
  const entry = chosenEntry(graphic, entryId);
  const at = list.findIndex((e) => e.id === entry?.id);
  const rows = useVirtualizer({ count: list.length, getScrollElement: () => room.current, estimateSize: () => ROW, overscan: 10 });
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at);
    // Only when another is chosen: whoever scrolls is not pulled back.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [at]);
  const fields = graphic.fields.slice(0, MOST_COLUMNS);
  const chosen = list[at];
  return (
    <section {...region('entries', 'Entries')} className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-1 p-1.5">
        <Search graphic={graphic} count={graphic.entries.length} />
        <Button title="New entry" keyFor="graphics.add" onClick={() => perform('graphics.add')}>
          <Plus size={15} /> Entry
        </Button>
        {chosen && (
          <>
            {(
              [
                [-1, 'Move the entry up', 'graphics.entryUp', ArrowUp],
                [1, 'Move the entry down', 'graphics.entryDown', ArrowDown],
              ] as const
            ).map(([by, words, action, Icon]) => (
              <Button
                key={by}
                look="quiet"
                className="px-1!"
                aria-label={words}
                title={words}
                keyFor={action}
                onClick={() => perform(action)}
              >
                <Icon size={15} />
              </Button>
            ))}
            <IconButton
              label={chosen.done ? 'Mark the entry as to come' : 'Mark the entry as done'}
              title={chosen.done ? 'To come again' : 'Done: passed over by “next”'}
              pressed={chosen.done}
              keyFor="graphics.done"
              onClick={() => perform('graphics.done')}
            >
              <Check size={15} />
            </IconButton>
            <IconButton label="Duplicate the entry" title="Duplicate" onClick={() => send('entry.duplicate', { entry: chosen.id })}>
              <CopyPlus size={15} />
            </IconButton>
            <IconButton label="Remove the entry" title="Remove" keyFor="graphics.remove" onClick={() => perform('graphics.remove')}>
              <Trash2 size={15} />
            </IconButton>
          </>
        )}
        <Button title="Entries from a sheet: CSV, TSV, JSON, XLSX, or pasted" onClick={() => setSheet(true)}>
          <Sheet size={15} /> {tied === undefined ? 'Sheet' : <span className="max-w-32 truncate">{tied}</span>}
        </Button>
        <SheetDialog graphic={graphic} open={sheet} onClose={() => setSheet(false)} />
        {chosen && where.get(chosen.id)?.sign === 'edited' && (
          <Button look="air" keyFor="graphics.change" onClick={() => perform('graphics.change')}>
            Change on air
          </Button>
        )}
        <span className="ml-auto text-xs text-muted">
          {lane ? `Enter: ready in ${lane.name}, again: on air` : 'Add a lane on the Desk first'}
        </span>
      </div>
      <div role="table" aria-label={`Entries of ${graphic.name}`} className="flex min-h-0 flex-1 flex-col border-y border-line">
        <div role="row" className="flex shrink-0 items-center border-b border-line px-1 text-xs text-muted">
          <span role="columnheader" className="w-10 shrink-0 pr-2 text-right">
            <button
              type="button"
              className="min-h-7 w-full text-right"
              aria-label="Sort by number"
              title="Sort by number"
              onClick={() => sort(null)}
            >
              No.
            </button>
          </span>
          <span role="columnheader" className="w-18 shrink-0">
            Where
          </span>
          {fields.map((f) => (
            <span
              role="columnheader"
              key={f.id}
              className={`min-w-0 flex-1 truncate pr-2 ${f.default.kind === 'number' ? 'text-right' : ''}`}
              title={f.hint || f.name}
            >
              <button
                type="button"
                className={`min-h-7 w-full truncate ${f.default.kind === 'number' ? 'text-right' : 'text-left'}`}
                aria-label={`Sort by ${f.name}`}
                onClick={() => sort(f.id)}
              >
                {f.name}
              </button>
            </span>
          ))}
        </div>
        <div ref={room} className="min-h-0 flex-1 overflow-y-auto">
          {list.length === 0 && (
            <p className="p-2 text-muted">
              {graphic.entries.length > 0
                ? 'No entry has these words.'
                : graphic.fields.length > 0
                  ? 'No entries yet. Add one and fill it in; Enter puts it into the lane, Enter again on air.'
                  : 'This graphic has no fields: it is shown as it is drawn. Enter puts it into the lane.'}
            </p>
          )}
          <div className="relative" style={{ height: rows.getTotalSize() }}>
            {rows.getVirtualItems().map(({ index, start }) => {
              const entry = list[index];
              if (!entry) return null;
              return (
                <div
                  key={entry.id}
                  role="row"
                  aria-selected={index === at}
                  className={`absolute inset-x-0 flex cursor-pointer items-center border-l-2 px-1 ${entry.done ? 'text-muted line-through' : ''} ${index === at ? 'border-straw bg-raised' : 'border-transparent hover:bg-panel'}`}
                  style={{ top: start, height: ROW }}
                  onClick={() => setGraphicsRoom({ entryId: entry.id })}
                  onDoubleClick={() => lane && send('lane.showPicture', { lane: lane.id, picture: entry.id })}
                >
                  <Cells graphic={graphic} entry={entry} fields={fields} show={show} sign={where.get(entry.id)?.sign} />
                </div>
              );
            })}
          </div>
        </div>
      </div>
    </section>
  );
}
