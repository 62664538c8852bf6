/** Simulated guests: pages of their own, not seen, that join through the real signalling and real connections, and can be told what to do. */
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import { type ShowClient } from '#engine/client/show-client';
import { useShow, useShowClient } from '../client/show-client';

export type SimulatedOrder = 'speak' | 'silent' | 'share' | 'unshare' | 'lose' | 'hand' | 'echo' | 'quiet' | 'clap' | 'leave';

interface Simulated {
  guestId: string;
  url: string;
  silent: boolean;
  shares: boolean;
  echoes: boolean;
}

export const useSimulated = create<{ guests: readonly Simulated[] }>(() => ({ guests: [] }));

/** Lets somebody drawn come in by the link of a guest, which is made where there is none. */
export async function joinSimulated(client: ShowClient, guestId: string): Promise<void> {
  const { list } = client.state.desk.show.guests;
  const number = list.findIndex((g) => g.id === guestId);
  const link =
    client.ways.store.getState().ways.find((w) => w.kind === 'guest' && w.id === guestId) ??
    (await client.ways.make('guest', guestId, null));
  const name = encodeURIComponent(list[number]?.name ?? 'Guest');
  const url = `/join/${client.showId}?simulated=${number}&name=${name}#guest=${link.secret}`;
  useSimulated.setState(({ guests }) => ({
    guests: [...guests.filter((g) => g.guestId !== guestId), { guestId, url, silent: false, shares: false, echoes: false }],
  }));
}

/** Lets several come in who are not here yet, each to a guest of that name, who is added where there is none. */
export async function simulateGuests(client: ShowClient, people: readonly { name: string; title: string; seat: string }[]): Promise<void> {
  for (const { name, title, seat } of people) {
    const { show } = client.state.desk;
    const known = show.guests.list.find((g) => g.name === name);
    const place = show.seats.find((s) => s.name === seat);
    const added = known ? null : client.dispatch({ type: 'guest.add', args: { name, title, ...(place && { seat: place.id }) } });
    const id = known?.id ?? (added?.ok ? String(added.result.id) : null);
    if (id === null) return;
    if (!useSimulated.getState().guests.some((g) => g.guestId === id)) await joinSimulated(client, id);
  }
}

const frames = new Map<string, HTMLIFrameElement>();

export function tellSimulated(guestId: string, order: SimulatedOrder): void {
  frames.get(guestId)?.contentWindow?.postMessage({ simulatedGuest: order }, window.location.origin);
  const change = {
    speak: { silent: false },
    silent: { silent: true },
    share: { shares: true },
    unshare: { shares: false },
    echo: { echoes: true },
    quiet: { echoes: false },
  }[order as 'speak'];
  if (change) useSimulated.setState(({ guests }) => ({ guests: guests.map((g) => (g.guestId === guestId ? { ...g, ...change } : g)) }));
}

export function endSimulated(guestId: string): void {
  tellSimulated(guestId, 'leave');
  setTimeout(() => useSimulated.setState(({ guests }) => ({ guests: guests.filter((g) => g.guestId !== guestId) })), 300);
}

function Page({ guestId, url }: { guestId: string; url: string }) {
  const frame = useRef<HTMLIFrameElement>(null);
  useEffect(() => {
    if (frame.current) frames.set(guestId, frame.current);
    return () => void frames.delete(guestId);
  }, [guestId]);
  return <iframe ref={frame} src={url} title="A simulated guest" aria-hidden tabIndex={-1} allow="autoplay" className="h-px w-px" />;
}

/** The pages of simulated guests, over all rooms: they stay while one goes from room to room. */
export function SimulatedGuests() {
  const { panel } = useShowClient();
  const guests = useSimulated((s) => s.guests);
  const there = useShow(({ desk }) => desk.show.guests.list.map((g) => g.id).join());
  if (panel) return null;
  return (
    <div className="pointer-events-none fixed bottom-0 left-0 opacity-0" aria-hidden>
      {guests
        .filter((g) => there.split(',').includes(g.guestId))
        .map(({ guestId, url }) => (
          <Page key={`${guestId} ${url}`} guestId={guestId} url={url} />
        ))}
    </div>
  );
}
