/** Adding channels, buses and listeners. */
import { Plus } from 'lucide-react';
import { type FormEvent, useState } from 'react';
import { useShow, useSend } from '../client/show-client';
import { Button } from '../parts/button';
import { Popover } from '../parts/popover';
import { setSoundRoom } from './room-state';

/** One line that makes something under a name. */
function NameLine({ label, placeholder, onAdd }: { label: string; placeholder: string; onAdd: (name: string) => boolean }) {
  const [name, setName] = useState('');
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (name.trim() && onAdd(name.trim())) setName('');
  };
  return (
    <form className="flex items-center gap-2" onSubmit={submit}>
      <span className="w-24 text-[13px] text-muted">{label}</span>
      <input
        aria-label={`Name of the ${label}`}
        placeholder={placeholder}
        maxLength={40}
        className="min-w-0 flex-1"
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Button type="submit" unusable={name.trim() ? null : 'Give it a name.'}>
        Add
      </Button>
    </form>
  );
}

/** Adds what the desk can have more of: the channel of a seat, a tone, a bus, a fader group. */
export function AddMenu() {
  const send = useSend();
  const { seats, inputs } = useShow(({ desk: { show } }) => ({ seats: show.seats, inputs: show.sound.inputs }));
  const free = seats.filter((s) => !inputs.some((c) => c.feed.kind === 'seat' && c.feed.seatId === s.id));
  return (
    <Popover
      label="Add to the desk"
      align="start"
      trigger={
        <Button>
          <Plus size={14} /> Add
        </Button>
      }
    >
      <div className="flex w-80 flex-col gap-2">
        <label className="flex items-center gap-2">
          <span className="w-24 text-[13px] text-muted">seat’s channel</span>
          <select
            aria-label="Seat that gets a channel"
            className="min-w-0 flex-1"
            value=""
            onChange={(e) =>
              e.target.value &&
              send('sound.addChannel', {
                name: seats.find((s) => s.id === e.target.value)?.name ?? 'Seat',
                feed: { kind: 'seat', seatId: e.target.value },
              })
            }
          >
            <option value="">{free.length > 0 ? 'whoever sits on…' : 'every seat has one'}</option>
            {free.map((s) => (
              <option key={s.id} value={s.id}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <NameLine
          label="test tone"
          placeholder="Line-up tone"
          onAdd={(name) => send('sound.addChannel', { name, feed: { kind: 'tone', hz: 1000, levelDb: -18 } })}
        />
        <NameLine label="bus" placeholder="who listens?" onAdd={(name) => send('sound.addBus', { name })} />
        <NameLine label="fader group" placeholder="Cameras" onAdd={(name) => send('sound.addGroup', { name })} />
        <p className="text-[13px] text-muted">
          Microphones and lines are added under{' '}
          <button type="button" className="text-straw underline" onClick={() => setSoundRoom({ tab: 'patch' })}>
            Patch
          </button>
          , a guest’s mix under{' '}
          <button type="button" className="text-straw underline" onClick={() => setSoundRoom({ tab: 'listeners' })}>
            Listeners
          </button>
          .
        </p>
      </div>
    </Popover>
  );
}
