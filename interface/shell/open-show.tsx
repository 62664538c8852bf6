/**
 * Opens a show and keeps it running above all rooms. What was left of it is painted as soon as it has been read; what runs it is fetched and started
 * meanwhile.
 */
import { type ComponentType, useEffect, useState } from 'react';
import { Link, useParams } from 'react-router';
import { causeOf } from '#core/schema/cause';
import { type ShowClient } from '#engine/client/show-client';
import { stillClient } from '#engine/client/still-client';
import { type ControlDriver } from '#engine/control/driver';
import { becomeHost, letGo } from '#engine/host/host-lock';
import { type ShowHost } from '#engine/host/show-host';
import { db, type ShowRow } from '#engine/storage/db';
import { leftDesk } from '#engine/storage/left-show';
import { Button } from '../parts/button';
import { StillShow } from './still-show';

/** What runs a show in this window. */
export interface ShowEngine {
  /** Starts a stored show; `reloaded`: this page has just left it. */
  open: (row: ShowRow, reloaded: boolean) => Promise<ShowHost>;
  controls: readonly ControlDriver[];
  /** The rooms of a show that runs. */
  Running: ComponentType<{ client: ShowClient; controls: readonly ControlDriver[] }>;
}

type Opening =
  | { state: 'opening'; left: ShowClient | null }
  | { state: 'closing' }
  | { state: 'elsewhere' }
  | { state: 'missing' }
  | { state: 'lost' }
  | { state: 'failed'; message: string }
  | { state: 'open'; host: ShowHost; engine: ShowEngine };

const NOT_FETCHED = 'A part of Bivoca did not come from the server. See that the server runs, and load the page again.';

const UNREAD: Opening = { state: 'opening', left: null };

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

/** The show of a row as it was left; null where it cannot be seen before it is opened in full. */
async function asLeft(row: ShowRow): Promise<ShowClient | null> {
  try {
    const left = leftDesk(row, await db.airs.get(row.id), Date.now());
    return left && stillClient(left.desk, left.frame);
  } catch {
    // What is wrong with it is said by what opens it in full.
    return null;
  }
}

/** Opens the show of the address and keeps it running above all rooms, so that changing rooms disturbs nothing. */
export function OpenShow({ engine }: { engine: () => Promise<ShowEngine> }) {
  const { showId = '' } = useParams();
  const [opening, setOpening] = useState<Opening>(UNREAD);
  /** How often it was taken over from another window. */
  const [taken, setTaken] = useState(0);

  useEffect(() => {
    /** This page has left the show, or another window has taken it over. */
    let gone = false;
    /** What there was of the show was left by this page, and nothing runs yet in its place. */
    let reloaded = false;
    let host: ShowHost | null = null;
    let release: (() => void) | null = null;
    const open = async () => {
      // It comes while the show is read and painted.
      let here = false;
      const fetched = engine().catch(() => Promise.reject(new Error(NOT_FETCHED)));
      fetched.then(
        () => (here = true),
        () => undefined,
      );
      const slow = setTimeout(() => !gone && setOpening({ state: 'closing' }), CLOSING_MS);
      release = await becomeHost(showId, taken > 0, () => {
        gone = true;
        setOpening({ state: 'lost' });
        window.bivocaHost = undefined;
        void host?.close();
      }).finally(() => clearTimeout(slow));
      if (gone) return release?.();
      if (!release) return setOpening({ state: 'elsewhere' });
      const row = await db.shows.get(showId);
      if (gone) return undefined;
      if (!row || row.deletedAt !== null) return setOpening({ state: 'missing' });
      // What this page itself has left, by a reload or a link, was not interrupted.
      reloaded = sessionStorage.getItem(LEFT) === showId;
      sessionStorage.removeItem(LEFT);
      // Where it is here already, painting would only keep it waiting.
      const left = here ? null : await asLeft(row);
      if (!gone && !here) setOpening({ state: 'opening', left });
      const ready = await fetched;
      if (gone) return undefined;
      host = await ready.open(row, reloaded);
      if (gone) return letGo(showId, host.close(), release);
      window.bivocaHost = host;
      setOpening({ state: 'open', host, engine: ready });
    };
    const leave = () => (host !== null || reloaded) && sessionStorage.setItem(LEFT, showId);
    window.addEventListener('pagehide', leave);
    open().catch((error: unknown) => !gone && setOpening({ state: 'failed', message: causeOf(error) }));
    return () => {
      gone = true;
      window.removeEventListener('pagehide', leave);
      window.bivocaHost = undefined;
      if (host && release) letGo(showId, host.close(), release);
      else release?.();
    };
  }, [showId, taken, engine]);

  if (opening.state === 'open') return <opening.engine.Running client={opening.host} controls={opening.engine.controls} />;
  if (opening.state === 'opening' && opening.left) return <StillShow client={opening.left} />;
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
                setOpening(UNREAD);
                setTaken((times) => times + 1);
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
