/** The chosen entry: every field, with its hint, and numbers that go up and down by a press. */
import { Minus, Plus } from 'lucide-react';
import { type Entry, type Field, type Graphic, type Value } from '#core/graphics/document';
import { entryName } from '#core/graphics/find';
import { valueOf, wordsOf } from '#core/graphics/values';
import { filledElsewhere } from '#core/sheets/into-entries';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { region } from '../parts/region';
import { ValueField } from './value-field';

/** A value that comes from a row or a formula: it is read here, and changed there. */
function Given({ field, entry, value, by }: { field: Field; entry: Entry; value: Value; by: 'formula' | 'sheet' }) {
  const words = value.kind === 'image' ? (value.assetId === null ? '' : 'image') : wordsOf(value);
  return (
    <output
      aria-label={field.name}
      title={by === 'formula' ? `Worked out by its formula: ${field.formula ?? ''}` : `From the row ${entry.rowKey ?? ''} of the sheet`}
      className="flex min-h-8 items-center gap-2 border border-dashed border-line px-2 text-sm"
    >
      <span className="min-w-0 flex-1 truncate">{words || <span className="text-muted">empty</span>}</span>
      <span className="text-xs text-muted">{by === 'formula' ? 'formula' : 'sheet'}</span>
    </output>
  );
}

/** The form of an entry; where none is chosen it says so. */
export function EntryForm({ graphic, entry }: { graphic: Graphic; entry: Entry | undefined }) {
  const send = useSend();
  if (!entry)
    return (
      <section {...region('entry', 'Entry')} className="shrink-0 p-2 text-muted">
        {graphic.entries.length > 0 ? 'Choose an entry to fill it in.' : 'What is filled in stands here.'}
      </section>
    );
  return (
    <section {...region('entry', 'Entry')} className="max-h-[45%] shrink-0 overflow-y-auto p-2">
      <div className="mb-1 flex items-center gap-2">
        <h2 className="min-w-0 flex-1 truncate font-semibold">{entryName(graphic, entry)}</h2>
        <NumberField
          className="w-20"
          label="Number of the entry"
          min={0}
          max={9999}
          value={entry.number ?? 0}
          onCommit={(number) => send('entry.number', { entry: entry.id, number: number === 0 ? null : Math.round(number) })}
        />
      </div>
      <div className="grid grid-cols-[repeat(auto-fill,minmax(220px,1fr))] gap-x-3 gap-y-1.5">
        {graphic.fields.map((field) => {
          const value = valueOf(field, entry.values);
          const elsewhere = filledElsewhere(graphic, entry, field);
          const step = (by: number) => send('entry.step', { entry: entry.id, field: field.id, by });
          return (
            <div key={field.id} className="flex flex-col gap-0.5">
              <span className="truncate text-xs text-muted" title={field.hint || undefined}>
                {field.name}
              </span>
              <span className="flex items-center gap-1">
                <span className="min-w-0 flex-1">
                  {elsewhere ? (
                    <Given field={field} entry={entry} value={value} by={elsewhere} />
                  ) : (
                    <ValueField
                      field={field}
                      value={value}
                      onChange={(next) => send('entry.set', { entry: entry.id, field: field.id, value: next })}
                    />
                  )}
                </span>
                {value.kind === 'number' && !elsewhere && (
                  <>
                    <Button className="px-1.5!" aria-label={`${field.name} down by one`} onClick={() => step(-1)}>
                      <Minus size={14} />
                    </Button>
                    <Button className="px-1.5!" aria-label={`${field.name} up by one`} onClick={() => step(1)}>
                      <Plus size={14} />
                    </Button>
                  </>
                )}
              </span>
            </div>
          );
        })}
      </div>
    </section>
  );
}
