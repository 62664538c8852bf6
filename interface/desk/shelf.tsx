import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { type NameCard } from '#core/show/show';
import { useHostState, useSend } from '../host/host-context';
import { Button } from '../parts/button';

function CardRow({ card }: { card: NameCard }) {
  const send = useSend();
  const [name, setName] = useState(card.name);
  const [role, setRole] = useState(card.role);
  const { lanes, used } = useHostState(({ desk: { show } }) => ({
    lanes: show.lanes,
    used: show.lanes.filter((l) => l.content?.kind === 'card' && l.content.id === card.id).map((l) => l.name).join(', '),
  }));
  const save = () => {
    if (name !== card.name || role !== card.role) send('card.edit', { card: card.id, name, role });
  };
  const first = lanes[0];
  return (
    <li className="grid grid-cols-[1fr_auto] gap-1 border-b border-line px-2 py-1.5">
      <div className="flex min-w-0 flex-col gap-1">
        <input aria-label="Name on the card" placeholder="Name" maxLength={60} className="w-full font-semibold" value={name} onChange={(e) => setName(e.target.value)} onBlur={save} onKeyDown={(e) => e.key === 'Enter' && save()} />
        <input aria-label="Who that is" placeholder="Who that is" maxLength={90} className="w-full text-[13px]" value={role} onChange={(e) => setRole(e.target.value)} onBlur={save} onKeyDown={(e) => e.key === 'Enter' && save()} />
      </div>
      <div className="flex flex-col gap-1">
        {first && (
          <Button pressed={used !== ''} title={used ? `Held ready by ${used}` : `Hold ready in ${first.name}`} onClick={() => send('lane.setContent', { lane: first.id, content: { kind: 'card', id: card.id } })}>
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

/** What is prepared: name cards. */
export function Shelf() {
  const send = useSend();
  const cards = useHostState(({ desk: { show } }) => show.cards);
  return (
    <section aria-label="Shelf" className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center px-2 py-1">
        <h2 className="font-semibold">Name cards</h2>
        <Button className="ml-auto" onClick={() => send('card.add', { name: 'Name', role: 'Who that is' })}>
          <Plus size={15} /> Card
        </Button>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto">
        {cards.map((card) => (
          <CardRow key={card.id} card={card} />
        ))}
        {cards.length === 0 && <li className="px-2 text-muted">No cards yet. Add one, fill it in, and put it into a lane.</li>}
      </ul>
    </section>
  );
}
