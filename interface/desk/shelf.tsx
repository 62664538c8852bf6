/** Name cards and layouts at hand. */
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { type NameCard } from '#core/show/document';
import { useShow, useSend } from '../client/show-client';
import { PictureTile } from '../layouts/picture-tile';
import { SeatsPanel } from '../layouts/seats-panel';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { ReplayShelf } from './replay-shelf';
import { setDeskRoom, type SHELF_TABS, useDeskRoom } from './room-state';

function CardRow({ card }: { card: NameCard }) {
  const send = useSend();
  const [name, setName] = useState(card.name);
  const [role, setRole] = useState(card.role);
  const { lanes, used } = useShow(({ desk: { show } }) => ({
    lanes: show.lanes,
    used: show.lanes
      .filter((l) => l.content?.kind === 'card' && l.content.id === card.id)
      .map((l) => l.name)
      .join(', '),
  }));
  const save = () => {
    if (name !== card.name || role !== card.role) send('card.edit', { card: card.id, name, role });
  };
  const first = lanes[0];
  return (
    <li className="grid grid-cols-[1fr_auto] gap-1 border-b border-line px-2 py-1.5">
      <div className="flex min-w-0 flex-col gap-1">
        <input
          data-card={card.id}
          aria-label="Name on the card"
          placeholder="Name"
          maxLength={60}
          className="w-full font-semibold"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => {
            if (e.key === 'Enter') save();
            if (e.key === 'Escape') setName(card.name);
          }}
        />
        <input
          aria-label="Who that is"
          placeholder="Who that is"
          maxLength={90}
          className="w-full text-[13px]"
          value={role}
          onChange={(e) => setRole(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => {
            if (e.key === 'Enter') save();
            if (e.key === 'Escape') setRole(card.role);
          }}
        />
      </div>
      <div className="flex flex-col gap-1">
        {first && (
          <Button
            pressed={used !== ''}
            title={used ? `Held ready by ${used}` : `Hold ready in ${first.name}`}
            onClick={() => send('lane.setContent', { lane: first.id, content: { kind: 'card', id: card.id } })}
          >
            {used ? 'Ready' : 'To lane'}
          </Button>
        )}
        <Button look="quiet" aria-label={`Remove the card ${card.name}`} onClick={() => send('card.remove', { card: card.id })}>
          <Trash2 size={14} />
        </Button>
      </div>
    </li>
  );
}

function Cards() {
  const send = useSend();
  const cards = useShow(({ desk: { show } }) => show.cards);
  return (
    <section aria-label="Name cards">
      <ul>
        {cards.map((card) => (
          <CardRow key={card.id} card={card} />
        ))}
        {cards.length === 0 && <li className="px-2 py-2 text-muted">No cards yet. Add one, fill it in, and put it into a lane.</li>}
      </ul>
      <Button className="m-2" data-role="add-card" onClick={() => send('card.add', { name: 'Name', role: 'Who that is' })}>
        <Plus size={15} /> Card
      </Button>
    </section>
  );
}

/** Layouts and presets as switches. */
function Layouts() {
  const { layouts, presets } = useShow(({ desk: { show } }) => ({ layouts: show.layouts, presets: show.presets }));
  return (
    <section aria-label="Layouts" className="p-2">
      <ul className="grid grid-cols-2 gap-1.5">
        {[...layouts, ...presets].map(({ id, name, number }) => (
          <li key={id}>
            <PictureTile id={id} name={name} number={number} />
          </li>
        ))}
      </ul>
      {layouts.length === 0 && <p className="text-muted">No layouts yet. They are built in the room Layouts, from seats and sources.</p>}
      <Link to="../layouts" className="mt-2 inline-block text-straw underline" relative="path">
        Build layouts
      </Link>
    </section>
  );
}

/** Framings as switches. */
function Framings() {
  const framings = useShow(({ desk: { show } }) => show.framings);
  return (
    <section aria-label="Framings" className="p-2">
      <ul className="grid grid-cols-2 gap-1.5">
        {framings.map(({ id, name, number }) => (
          <li key={id}>
            <PictureTile id={id} name={name} number={number} />
          </li>
        ))}
      </ul>
      {framings.length === 0 && (
        <p className="text-muted">No framings yet. They are made in the room Layouts: a crop, a zoom, colours, a key of a source.</p>
      )}
    </section>
  );
}

/** What is prepared: layouts, framings, who fills the seats, name cards, clips. */
export function Shelf() {
  const tab = useDeskRoom((s) => s.tab);
  const box = useRoving<HTMLElement>();
  const empty = useShow(({ desk: { show } }) => show.seats.filter((s) => s.occupantId === null).length);
  return (
    <section ref={box} {...region('shelf', 'Shelf')} className="flex min-h-0 flex-1 flex-col border-t border-line">
      <Tabs
        label="Shelf"
        value={tab}
        onChange={(value) => setDeskRoom({ tab: value as (typeof SHELF_TABS)[number] })}
        tabs={[
          { value: 'layouts', label: 'Layouts', content: <Layouts /> },
          { value: 'framings', label: 'Framings', content: <Framings /> },
          { value: 'seats', label: empty > 0 ? `Seats · ${empty}` : 'Seats', content: <SeatsPanel /> },
          { value: 'cards', label: 'Cards', content: <Cards /> },
          { value: 'replay', label: 'Clips', content: <ReplayShelf /> },
        ]}
      />
    </section>
  );
}
