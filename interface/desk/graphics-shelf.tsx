/** Entries of a graphic at hand: their words, and the lane that holds them. */
import { Plus, Trash2 } from 'lucide-react';
import { Link } from 'react-router';
import { type Entry, type Graphic } from '#core/graphics/document';
import { entryName } from '#core/graphics/find';
import { valueOf } from '#core/graphics/values';
import { useSend, useShow } from '../client/show-client';
import { ValueField } from '../graphics/value-field';
import { Button } from '../parts/button';
import { setDeskRoom, useDeskRoom } from './room-state';

/** Entries that the shelf shows; the room Graphics has all of them. */
const MOST_SHOWN = 60;
/** Fields of an entry that stand on the shelf. */
const MOST_FIELDS = 2;

/** The lane that an entry of this graphic goes to: one that holds the graphic already, or the first. */
function useLaneFor(graphic: Graphic) {
  return useShow(({ desk: { show } }) => {
    const ids = new Set([graphic.id, ...graphic.entries.map((e) => e.id)]);
    return show.lanes.find((l) => l.content !== null && ids.has(l.content.id)) ?? show.lanes[0];
  });
}

function EntryRow({ graphic, entry }: { graphic: Graphic; entry: Entry }) {
  const send = useSend();
  const lane = useLaneFor(graphic);
  const used = useShow(({ desk: { show } }) =>
    show.lanes
      .filter((l) => l.content?.id === entry.id)
      .map((l) => l.name)
      .join(', '),
  );
  return (
    <li className="grid grid-cols-[1fr_auto] gap-1 border-b border-line px-2 py-1.5">
      <div className="flex min-w-0 flex-col gap-1">
        {graphic.fields.slice(0, MOST_FIELDS).map((field, i) => (
          <ValueField
            key={field.id}
            field={field}
            value={valueOf(field, entry.values)}
            entry={i === 0 ? entry.id : undefined}
            onChange={(value) => send('entry.set', { entry: entry.id, field: field.id, value })}
          />
        ))}
        {graphic.fields.length > MOST_FIELDS && (
          <span className="text-xs text-muted">and {graphic.fields.length - MOST_FIELDS} more in Graphics</span>
        )}
      </div>
      <div className="flex flex-col gap-1">
        <Button title="Put it into Next as a picture" onClick={() => send('picture.setNext', { picture: entry.id })}>
          Next
        </Button>
        {lane && (
          <Button
            pressed={used !== ''}
            title={used ? `Held ready by ${used}` : `Hold ready in ${lane.name}`}
            onClick={() => send('lane.setContent', { lane: lane.id, content: { kind: 'picture', id: entry.id } })}
          >
            {used ? 'Ready' : 'To lane'}
          </Button>
        )}
        <Button
          look="quiet"
          aria-label={`Remove the entry ${entryName(graphic, entry)}`}
          onClick={() => send('entry.remove', { entry: entry.id })}
        >
          <Trash2 size={14} />
        </Button>
      </div>
    </li>
  );
}

/** Graphics on the shelf: one is chosen, its entries stand below. */
export function GraphicsShelf() {
  const send = useSend();
  const graphics = useShow(({ desk: { show } }) => show.graphics.list);
  const chosen = useDeskRoom((s) => s.graphicId);
  const graphic = graphics.find((g) => g.id === chosen) ?? graphics[0];
  if (!graphic)
    return (
      <p className="p-2 text-muted">
        No graphics yet. They are drawn in the room{' '}
        <Link className="text-straw underline" to="../graphics" relative="path">
          Graphics
        </Link>
        , or taken from its gallery.
      </p>
    );
  return (
    <section aria-label="Graphics">
      <div className="flex gap-1 p-2">
        <select
          aria-label="Graphic"
          className="min-w-0 flex-1"
          value={graphic.id}
          onChange={(e) => setDeskRoom({ graphicId: e.target.value })}
        >
          {graphics.map(({ id, name, entries }) => (
            <option key={id} value={id}>
              {name} ({entries.length})
            </option>
          ))}
        </select>
        <Button
          data-role="add-entry"
          title={`Add an entry of ${graphic.name}`}
          onClick={() => send('entry.add', { graphic: graphic.id, values: [] })}
        >
          <Plus size={15} /> Entry
        </Button>
      </div>
      <ul>
        {graphic.entries.slice(0, MOST_SHOWN).map((entry) => (
          <EntryRow key={entry.id} graphic={graphic} entry={entry} />
        ))}
        {graphic.entries.length === 0 && (
          <li className="px-2 py-2 text-muted">No entries yet. Add one, fill it in, and put it into a lane.</li>
        )}
        {graphic.entries.length > MOST_SHOWN && (
          <li className="px-2 py-2 text-muted">
            {graphic.entries.length - MOST_SHOWN} more stand in{' '}
            <Link className="text-straw underline" to="../graphics" relative="path">
              Graphics
            </Link>
            .
          </li>
        )}
      </ul>
    </section>
  );
}
