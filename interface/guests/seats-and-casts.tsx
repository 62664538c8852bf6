/** Who sits where: two presses, or a drag, put a guest into a seat; casts keep and bring back a whole. */
import clsx from 'clsx';
import { Plus, Trash2, X } from 'lucide-react';
import { useState } from 'react';
import { type Seat } from '#core/layout/document';
import { useShow, useSend } from '../client/show-client';
import { useTally } from '../client/use-tally';
import { Button } from '../parts/button';
import { Line } from '../parts/fields';
import { IconButton } from '../parts/icon-button';
import { PictureSelect } from '../parts/picture-select';
import { useGuestsRoom } from './room-state';

const SEAT_DRAG = 'text/bivoca-seat';
const OCCUPANT_DRAG = 'text/bivoca-occupant';

function SeatRow({ seat, place }: { seat: Seat; place: number }) {
  const send = useSend();
  const tally = useTally(seat.id);
  const [over, setOver] = useState(false);
  const guestId = useGuestsRoom((s) => s.guest);
  const chosen = useShow(({ desk: { show } }) => show.guests.list.find((g) => g.id === guestId));
  const drop = (data: DataTransfer) => {
    const [from, occupant] = [data.getData(SEAT_DRAG), data.getData(OCCUPANT_DRAG)];
    if (from !== '' && from !== seat.id) send('seat.swap', { a: from, b: seat.id });
    else if (occupant !== '') send('seat.fill', { seat: seat.id, occupant });
  };
  const live = tally.onAir || tally.inUse;
  const isHere = chosen?.sourceId === seat.occupantId;
  return (
    <li
      data-seat={seat.id}
      className={clsx('flex items-center gap-1.5 border-b border-line px-2 py-1.5', over && 'bg-raised')}
      draggable
      onDragStart={(e) => e.dataTransfer.setData(SEAT_DRAG, seat.id)}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        drop(e.dataTransfer);
      }}
    >
      <span className="figures w-4 text-muted">{place <= 9 ? place : ''}</span>
      <span className="h-5 w-1.5 shrink-0" style={{ background: seat.colour }} aria-hidden />
      <span className="w-24 shrink-0 truncate font-semibold" title={seat.name}>
        {seat.name}
      </span>
      <PictureSelect
        className="min-w-0 flex-1"
        role="occupant"
        label={`Who sits at ${seat.name}`}
        kinds={['framing', 'source']}
        none="empty"
        value={seat.occupantId}
        onChange={(occupant) => send('seat.fill', { seat: seat.id, occupant })}
      />
      {live && <span className="figures bg-air px-1 text-[13px] font-semibold text-deep">AIR</span>}
      <Button
        className="px-2!"
        aria-label={chosen ? `Put ${chosen.name} into ${seat.name}` : `Put the chosen guest into ${seat.name}`}
        title={chosen ? `Put ${chosen.name} here` : 'Choose a guest first, then press here'}
        unusable={!chosen ? 'Choose a guest first.' : isHere ? `${chosen.name} sits here already.` : null}
        onClick={() => chosen && send('seat.fill', { seat: seat.id, occupant: chosen.sourceId })}
      >
        here
      </Button>
      <IconButton
        label={`Empty ${seat.name}`}
        unusable={seat.occupantId === null ? 'Nobody sits here.' : null}
        onClick={() => send('seat.fill', { seat: seat.id, occupant: null })}
      >
        <X size={14} />
      </IconButton>
    </li>
  );
}

function NameForm({ label, word, onAdd }: { label: string; word: string; onAdd: (name: string) => boolean }) {
  const [name, setName] = useState('');
  return (
    <form
      className="flex gap-1 p-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '' && onAdd(name.trim())) setName('');
      }}
    >
      <input
        aria-label={label}
        placeholder={label}
        className="min-w-0 flex-1"
        maxLength={60}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Button type="submit">
        <Plus size={14} /> {word}
      </Button>
    </form>
  );
}

export function SeatsAndCasts() {
  const send = useSend();
  const { seats, casts } = useShow(({ desk: { show } }) => ({ seats: show.seats, casts: show.guests.casts }));
  const asIs = (seatsOf: readonly { seatId: string; occupantId: string | null }[]) =>
    seatsOf.every(({ seatId, occupantId }) => (seats.find((s) => s.id === seatId)?.occupantId ?? occupantId) === occupantId);
  return (
    <>
      <h2 className="px-2 pt-2 text-lg font-semibold">Seats</h2>
      <ul aria-label="Seats">
        {seats.map((seat, i) => (
          <SeatRow key={seat.id} seat={seat} place={i + 1} />
        ))}
        {seats.length === 0 && (
          <li className="p-2 text-muted">No seats yet. A seat stands in layouts and names; who fills it can change at any time.</li>
        )}
      </ul>
      <NameForm label="Name of a new seat" word="Seat" onAdd={(name) => send('seat.add', { name })} />
      <h2 className="px-2 pt-2 text-lg font-semibold">Casts</h2>
      <ul aria-label="Casts">
        {casts.map((cast) => (
          <li key={cast.id} className="flex items-center gap-1.5 border-b border-line px-2 py-1.5" data-cast={cast.id}>
            <div className="min-w-0 flex-1">
              <Line
                strong
                max={60}
                label={`Name of the cast ${cast.name}`}
                value={cast.name}
                onSave={(name) => send('cast.rename', { cast: cast.id, name })}
              />
            </div>
            <Button
              pressed={asIs(cast.seats)}
              title="Everybody takes the seat that the cast has them in"
              onClick={() => send('cast.recall', { cast: cast.id })}
            >
              Recall
            </Button>
            <Button title="It becomes who sits where now" onClick={() => send('cast.overwrite', { cast: cast.id })}>
              Store
            </Button>
            <IconButton label={`Remove the cast ${cast.name}`} onClick={() => send('cast.remove', { cast: cast.id })}>
              <Trash2 size={14} />
            </IconButton>
          </li>
        ))}
      </ul>
      <NameForm label="Name of a new cast" word="Cast" onAdd={(name) => send('cast.store', { name })} />
    </>
  );
}
