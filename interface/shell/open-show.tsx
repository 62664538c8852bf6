/** Opens a show and keeps it running above all rooms. */
import { useEffect, useState } from 'react';
import { Link, Outlet, useLocation, useParams } from 'react-router';
import { causeOf } from '#core/schema/cause';
import { type OutsideDrivers } from '#engine/capture/driver';
import { type ControlDriver } from '#engine/control/driver';
import { type SoundDeviceDriver } from '#engine/sound/device-driver';
import { becomeHost, letGo } from '#engine/host/host-lock';
import { ShowHost } from '#engine/host/show-host';
import { db } from '#engine/storage/db';
import { useControllers } from '../control/use-controllers';
import { useKeyboard } from '../control/use-hands';
import { ReopenWindows } from '../screens/reopen-windows';
import { SimulatedGuests } from '../guests/simulated';
import { Button } from '../parts/button';
import { Here } from './here';
import { RoomGuard } from './room-guard';
import { Bar } from './top-bar';
import { ShowClientContext } from '../client/show-client';

type Opening =
  | { state: 'opening' }
  | { state: 'closing' }
  | { state: 'elsewhere' }
  | { state: 'missing' }
  | { state: 'lost' }
  | { state: 'failed'; message: string }
  | { state: 'open'; host: ShowHost };

/** Milliseconds after which it is said that the show is closing still from when it ran here before. */
const CLOSING_MS = 3000;

/** Says, to the next page of this tab, which show it has left. */
const LEFT = 'bivoca.left';

declare global {
  interface Window {
    /** The running show, for the programme window that this window opened. */
    bivocaHost?: ShowHost | undefined;
  }
}

/** Opens the show of the address and keeps it running above all rooms, so that changing rooms disturbs nothing. */
export function OpenShow({
  drivers,
  soundDrivers,
  controls,
}: {
  drivers: OutsideDrivers;
  soundDrivers: readonly SoundDeviceDriver[];
  controls: readonly ControlDriver[];
}) {
  const { showId = '' } = useParams();
  const room = useLocation().pathname;
  const [opening, setOpening] = useState<Opening>({ state: 'opening' });
  const [steal, setSteal] = useState(false);

  useEffect(() => {
    let gone = false;
    let host: ShowHost | null = null;
    let release: (() => void) | null = null;
    const open = async () => {
      const slow = setTimeout(() => !gone && setOpening({ state: 'closing' }), CLOSING_MS);
      release = await becomeHost(showId, steal, () => {
        setOpening({ state: 'lost' });
        window.bivocaHost = undefined;
        void host?.close();
      }).finally(() => clearTimeout(slow));
      if (gone) return release?.();
      if (!release) return setOpening({ state: 'elsewhere' });
      const row = await db.shows.get(showId);
      if (!row || row.deletedAt !== null) return setOpening({ state: 'missing' });
      // What this page itself has left, by a reload or a link, was not interrupted.
      const reloaded = sessionStorage.getItem(LEFT) === showId;
      sessionStorage.removeItem(LEFT);
      host = await ShowHost.open(row, drivers, soundDrivers, reloaded);
      if (gone) return letGo(showId, host.close(), release);
      window.bivocaHost = host;
      setOpening({ state: 'open', host });
    };
    const leave = () => host && sessionStorage.setItem(LEFT, showId);
    window.addEventListener('pagehide', leave);
    open().catch((error: unknown) => setOpening({ state: 'failed', message: causeOf(error) }));
    return () => {
      gone = true;
      window.removeEventListener('pagehide', leave);
      window.bivocaHost = undefined;
      if (host && release) letGo(showId, host.close(), release);
      else release?.();
    };
  }, [showId, steal, drivers, soundDrivers]);

  if (opening.state === 'open') {
    return (
      <ShowClientContext value={opening.host}>
        <Wakes host={opening.host} />
        <Controllers drivers={controls} />
        <Keyboard />
        <Here />
        <ReopenWindows />
        <SimulatedGuests />
        <Bar />
        <RoomGuard key={room}>
          <Outlet />
        </RoomGuard>
      </ShowClientContext>
    );
  }
  return (
    <main className="grid h-full place-items-center p-6">
      <div className="flex max-w-lg flex-col gap-3" role="status">
        {opening.state === 'opening' && <p>Opening the show…</p>}
        {opening.state === 'missing' && <p>This show is not in this browser. It may have been deleted, or belongs to another browser.</p>}
        {opening.state === 'failed' && <p className="text-air">The show cannot be opened: {opening.message} Nothing was changed.</p>}
        {opening.state === 'lost' && <p>Another window has taken this show over. It runs there now.</p>}
        {opening.state === 'closing' && (
          <p>What ran here before is closing still, its files are being finished. The show opens by itself once that is done.</p>
        )}
        {opening.state === 'elsewhere' && (
          <p>This show runs in another window of this browser. Go there, or take it over: what is on air there then goes on here.</p>
        )}
        <div className="flex gap-2">
          {(opening.state === 'closing' || opening.state === 'elsewhere' || opening.state === 'lost') && (
            <Button
              look="straw"
              onClick={() => {
                setOpening({ state: 'opening' });
                setSteal(true);
              }}
            >
              Take it over
            </Button>
          )}
          <Link to="/" className="text-straw underline">
            All shows
          </Link>
        </div>
      </div>
    </main>
  );
}

/** Browsers let sound start only after a press or a key: the first one anywhere wakes it. */
function Wakes({ host }: { host: ShowHost }) {
  useEffect(() => {
    const wake = () => void host.sound.wake();
    const events = ['pointerdown', 'keydown'] as const;
    for (const event of events) window.addEventListener(event, wake);
    return () => {
      for (const event of events) window.removeEventListener(event, wake);
    };
  }, [host]);
  return null;
}

/** The keys work in every room. */
function Keyboard() {
  useKeyboard();
  return null;
}

/** Hands-on controllers work in every room. */
function Controllers({ drivers }: { drivers: readonly ControlDriver[] }) {
  useControllers(drivers);
  return null;
}
