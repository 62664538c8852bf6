/** The room Guests: green room and admitted guests, seats and casts, what guests write. */
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useStore } from 'zustand';
import { guestNow } from '#core/guests/air';
import { DEMO_GUESTS } from '#standins/guests/people';
import { useShow, useSend, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { COLUMNS } from '../parts/columns';
import { region } from '../parts/region';
import { AudiencePanel } from './audience-panel';
import { Gatherings } from './gatherings';
import { GuestCard } from './guest-card';
import { chooseGuest } from './room-state';
import { simulateGuests } from './simulated';
import { SeatsAndCasts } from './seats-and-casts';

function AddGuest() {
  const send = useSend();
  const [name, setName] = useState('');
  return (
    <form
      className="flex gap-1"
      onSubmit={(e) => {
        e.preventDefault();
        if (name.trim() !== '' && send('guest.add', { name: name.trim() })) setName('');
      }}
    >
      <input
        aria-label="Name of a new guest"
        placeholder="Name of a guest"
        className="w-36"
        maxLength={60}
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
      <Button type="submit">
        <Plus size={14} /> Guest
      </Button>
    </form>
  );
}

/** Who waits first, then who is admitted, then who is away. */
function useOrder() {
  return useShow(({ desk: { show, air } }) => {
    const rank = { waiting: 0, admitted: 1, away: 2 };
    return show.guests.list
      .map((guest, i) => ({ guest, place: i + 1, rank: rank[guestNow(air, guest.id).state] }))
      .sort((a, b) => a.rank - b.rank || a.place - b.place)
      .map(({ guest, place }) => `${guest.id} ${place}`)
      .join();
  });
}

function Words() {
  const { guests } = useShowClient();
  const words = useStore(guests.store, (s) => s.words);
  return (
    <section className="border-t border-line" aria-label="What guests write">
      <h2 className="px-2 pt-2 text-lg font-semibold">From the guests</h2>
      <ul className="max-h-72 overflow-auto">
        {[...words].reverse().map(({ id, name, text, at, guestId }) => (
          <li key={id} className="border-b border-line px-2 py-1.5">
            <button type="button" className="text-left" onClick={() => chooseGuest(guestId)}>
              <span className="font-semibold">{name}</span>{' '}
              <time className="figures text-[13px] text-muted">{new Date(at).toLocaleTimeString('en-GB')}</time>
              <span className="block break-words">{text}</span>
            </button>
          </li>
        ))}
        {words.length === 0 && <li className="p-2 text-muted">What guests write to the crew stands here.</li>}
      </ul>
    </section>
  );
}

export function GuestsRoom() {
  const client = useShowClient();
  const order = useOrder();
  const list = useShow(({ desk: { show } }) => show.guests.list);
  const waiting = useShow(({ desk: { show, air } }) => show.guests.list.filter((g) => guestNow(air, g.id).state === 'waiting').length);
  return (
    <main className={`${COLUMNS} h-(--room) grid-cols-[minmax(0,1fr)_350px_400px] max-wide:grid-cols-[minmax(0,1fr)_330px_290px]`}>
      <h1 className="sr-only">Guests</h1>
      <section className="flex min-h-0 min-w-0 flex-col overflow-auto" {...region('people', 'Guests')}>
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-2 py-1.5">
          <h2 className="text-lg font-semibold whitespace-nowrap">Green room</h2>
          <span className={`whitespace-nowrap ${waiting > 0 ? 'text-straw' : 'text-muted'}`} role="status">
            {waiting === 0 ? 'nobody waits' : waiting === 1 ? 'one waits' : `${waiting} wait`}
          </span>
          <span className="flex-1" />
          {!client.panel && (
            <Button
              title="Four people who are made up join by the real way: the wind analyst, a judge, and two more"
              onClick={() => void simulateGuests(client, DEMO_GUESTS)}
            >
              Simulate four
            </Button>
          )}
          <AddGuest />
        </div>
        <ul aria-label="Guests" className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-1 p-1">
          {order === ''
            ? null
            : order.split(',').map((entry) => {
                const [id, place] = entry.split(' ');
                const guest = list.find((g) => g.id === id);
                return guest ? <GuestCard key={guest.id} guest={guest} place={Number(place)} /> : null;
              })}
        </ul>
        {list.length === 0 && (
          <p className="max-w-lg p-4 text-muted">
            No guests yet. Add somebody by name, make a link for them and send it: they join from a browser, and wait here until they are
            admitted.
          </p>
        )}
      </section>
      <aside className="min-h-0 overflow-auto border-l border-line" {...region('seats', 'Seats and casts')}>
        <SeatsAndCasts />
        <Gatherings />
        <Words />
      </aside>
      <aside className="flex min-h-0 min-w-0 flex-col border-l border-line" {...region('audience', 'Comments and polls')}>
        <AudiencePanel />
      </aside>
    </main>
  );
}
