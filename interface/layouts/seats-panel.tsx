/** The seats, and who fills them. */
import { ArrowLeftRight, Plus, Trash2, UserRound } from 'lucide-react';
import { useState } from 'react';
import { type Seat } from '#core/layout/document';
import { useShow, useSend } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { PictureSelect } from '../parts/picture-select';

function SeatRow({ seat, swapping, onSwap }: { seat: Seat; swapping: string | null; onSwap: (id: string) => void }) {
  const send = useSend();
  const tally = useTally(seat.id);
  const live = tally.onAir || tally.inUse;
  return (
    <li className="flex flex-col gap-1 border-b border-line px-2 py-1.5">
      <div className="flex items-center gap-1.5">
        <input
          type="color"
          aria-label={`Colour of ${seat.name}`}
          className="h-7 w-7 shrink-0 p-0!"
          value={seat.colour}
          onChange={(e) => send('seat.edit', { seat: seat.id, colour: e.target.value })}
        />
        <input
          key={seat.name}
          aria-label="Name of the seat"
          className="min-w-0 flex-1 font-semibold"
          defaultValue={seat.name}
          maxLength={60}
          onBlur={(e) =>
            e.target.value.trim() && e.target.value !== seat.name && send('seat.edit', { seat: seat.id, name: e.target.value.trim() })
          }
          onKeyDown={(e) => {
            if (e.key === 'Escape') e.currentTarget.value = seat.name;
            if (e.key === 'Enter' || e.key === 'Escape') e.currentTarget.blur();
          }}
        />
        {live && <span className="figures bg-air px-1 text-[13px] font-semibold text-deep">AIR</span>}
        <IconButton label={`Remove the seat ${seat.name}`} onClick={() => send('seat.remove', { seat: seat.id })}>
          <Trash2 size={14} />
        </IconButton>
      </div>
      <div className="flex items-center gap-1.5">
        <UserRound size={15} className={seat.occupantId === null ? 'text-caution' : 'text-muted'} aria-hidden />
        <PictureSelect
          className="min-w-0 flex-1"
          role="occupant"
          label={`Who fills ${seat.name}`}
          kinds={['framing', 'source']}
          none="empty"
          value={seat.occupantId}
          onChange={(occupant) => send('seat.fill', { seat: seat.id, occupant })}
        />
        <Button
          pressed={swapping === seat.id}
          className="px-1.5!"
          aria-label={swapping && swapping !== seat.id ? `Swap with ${seat.name}` : `Swap ${seat.name} with another`}
          title={swapping && swapping !== seat.id ? 'Swap with this one' : 'Swap: then press the other seat'}
          onClick={() => onSwap(seat.id)}
        >
          <ArrowLeftRight size={15} />
        </Button>
      </div>
    </li>
  );
}

/** The seats: who fills each; two may be swapped by pressing both. */
export function SeatsPanel() {
  const send = useSend();
  const seats = useShow(({ desk: { show } }) => show.seats);
  const [swapping, setSwapping] = useState<string | null>(null);
  const [name, setName] = useState('');
  const swap = (id: string) => {
    if (swapping === null) return setSwapping(id);
    if (swapping !== id) send('seat.swap', { a: swapping, b: id });
    return setSwapping(null);
  };
  const add = () => {
    if (send('seat.add', { name: name.trim() || `Seat ${seats.length + 1}` })) setName('');
  };
  const empty = seats.filter((s) => s.occupantId === null);
  return (
    <section aria-label="Seats">
      {empty.length > 0 && <p className="px-2 py-1 text-xs text-caution">Still empty: {empty.map((s) => s.name).join(', ')}</p>}
      <ul>
        {seats.map((seat) => (
          <SeatRow key={seat.id} seat={seat} swapping={swapping} onSwap={swap} />
        ))}
      </ul>
      {seats.length === 0 && (
        <p className="px-2 py-2 text-muted">
          No seats yet. A seat is a role, such as Host, that stands in layouts until somebody fills it.
        </p>
      )}
      <form
        className="flex gap-1.5 p-2"
        onSubmit={(e) => {
          e.preventDefault();
          add();
        }}
      >
        <input
          aria-label="Name of the new seat"
          placeholder="Host, Guest 1…"
          className="min-w-0 flex-1"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit">
          <Plus size={15} /> Seat
        </Button>
      </form>
    </section>
  );
}
