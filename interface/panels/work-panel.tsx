/** The rooms of a show that runs in another window: the same rooms, worked with a pass. */
import { useEffect, useState } from 'react';
import { Navigate, Outlet, useLocation, useParams } from 'react-router';
import { useStore } from 'zustand';
import { ROOM_IDS, ROOMS, roomOfPath } from '#core/control/rooms';
import { maySee, passWords } from '#core/panels/pass';
import { type ControlDriver } from '#engine/control/driver';
import { type PanelClient, PanelLink } from '#engine/panels/panel-client';
import { ShowClientContext } from '../client/show-client';
import { useControllers } from '../control/use-controllers';
import { useKeyboard } from '../control/use-hands';
import { Here } from '../shell/here';
import { RoomGuard } from '../shell/room-guard';
import { Bar } from '../shell/top-bar';

declare global {
  interface Window {
    /** The show that this panel works, for whoever measures. */
    bivocaPanel?: PanelClient | undefined;
  }
}

const keptUnder = (showId: string): string => `bivoca.pass ${showId}`;

/** The secret of the address, kept in this tab and taken out of the address: nobody reads it over a shoulder, and a reload still has it. */
function takeSecret(showId: string): string | null {
  const given = new URLSearchParams(window.location.hash.slice(1)).get('pass');
  try {
    if (given !== null) {
      sessionStorage.setItem(keptUnder(showId), given);
      localStorage.setItem(keptUnder(showId), given);
    }
    if (given !== null) window.history.replaceState(window.history.state, '', window.location.pathname + window.location.search);
    return given ?? sessionStorage.getItem(keptUnder(showId)) ?? localStorage.getItem(keptUnder(showId));
  } catch {
    return given;
  }
}

/** The keys and hands-on controllers work in every room. */
function Hands({ controls }: { controls: readonly ControlDriver[] }) {
  useControllers(controls);
  useKeyboard();
  return null;
}

/** What stands over the rooms while the show is away. */
function Away({ client }: { client: PanelClient }) {
  const { line, message } = useStore(client.panel);
  if (line === 'open') return null;
  return (
    <p role="status" className="bg-caution px-3 py-1 font-semibold text-deep">
      {message}
    </p>
  );
}

function Rooms({ client, controls }: { client: PanelClient; controls: readonly ControlDriver[] }) {
  const path = useLocation().pathname;
  const room = roomOfPath(path);
  const { pass, line } = useStore(client.panel);
  const first = pass ? (ROOM_IDS.find((r) => pass.rooms[r] === 'work') ?? ROOM_IDS.find((r) => pass.rooms[r])) : undefined;
  const allowed = pass ? maySee(pass, room) : true;
  if (!allowed && first) return <Navigate to={first} replace />;
  return (
    <ShowClientContext value={client}>
      <Hands controls={controls} />
      <Here />
      <Bar />
      <Away client={client} />
      <div className={line === 'open' ? 'contents' : 'contents *:opacity-60 *:grayscale'} data-line={line}>
        <RoomGuard key={path}>
          {allowed ? <Outlet /> : <main className="p-6 text-muted">This pass is for no room: whoever runs the show can change that.</main>}
        </RoomGuard>
      </div>
    </ShowClientContext>
  );
}

export function WorkPanel({ controls }: { controls: readonly ControlDriver[] }) {
  const { showId = '' } = useParams();
  const [secret] = useState(() => takeSecret(showId));
  const [link, setLink] = useState<PanelLink | null>(null);
  const [client, setClient] = useState<PanelClient | null>(null);
  useEffect(() => {
    if (secret === null) return undefined;
    const opened = new PanelLink(showId, secret, (made) => {
      window.bivocaPanel = made;
      setClient(made);
    });
    setLink(opened);
    return () => {
      window.bivocaPanel = undefined;
      opened.close();
      setClient(null);
    };
  }, [showId, secret]);
  if (client) return <Rooms client={client} controls={controls} />;
  return (
    <main className="grid h-full place-items-center p-6">
      <div role="status" className="max-w-lg">
        {secret === null || !link ? (
          <p>This address needs a pass: open the whole link that whoever runs the show has sent, or its code.</p>
        ) : (
          <Opening link={link} />
        )}
      </div>
    </main>
  );
}

function Opening({ link }: { link: PanelLink }) {
  const { line, message, pass } = useStore(link.panel);
  return (
    <>
      <p className={line === 'refused' ? 'text-caution' : ''}>
        {line === 'away' ? 'The show is not open yet. This page opens it by itself as soon as it is.' : message || 'Opening the show…'}
      </p>
      {pass && (
        <p className="text-muted">
          {pass.name}: {passWords(pass)}, of {ROOM_IDS.map((r) => ROOMS[r].name).length} rooms
        </p>
      )}
    </>
  );
}
