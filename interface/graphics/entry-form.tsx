/** The chosen entry: every field, with its hint, and numbers that go up and down by a press. */
import { Minus, Plus } from 'lucide-react';
import { type Entry, type Graphic } from '#core/graphics/document';
import { entryName } from '#core/graphics/find';
import { valueOf } from '#core/graphics/values';
import { useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { region } from '../parts/region';
import { ValueField } from './value-field';

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
          const step = (by: number) => send('entry.step', { entry: entry.id, field: field.id, by });
          return (
            <div key={field.id} className="flex flex-col gap-0.5">
              <span className="truncate text-xs text-muted" title={field.hint || undefined}>
                {field.name}
              </span>
              <span className="flex items-center gap-1">
                <span className="min-w-0 flex-1">
                  <ValueField
                    field={field}
                    value={value}
                    onChange={(next) => send('entry.set', { entry: entry.id, field: field.id, value: next })}
                  />
                </span>
                {value.kind === 'number' && (
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
