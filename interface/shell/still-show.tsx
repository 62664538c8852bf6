/** What is seen of a show while it opens: its Desk as it was left, without colour, until pictures move. */
import { Component, type ReactNode, useEffect, useState } from 'react';
import { Outlet, useLocation } from 'react-router';
import { roomOfPath } from '#core/control/rooms';
import { type ShowClient } from '#engine/client/show-client';
import { ShowClientContext } from '../client/show-client';
import { Bar } from './top-bar';

/** Milliseconds after which it is said that opening takes long. */
const LONG_MS = 10_000;

function Opening({ alone }: { alone: boolean }) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), LONG_MS);
    return () => clearTimeout(timer);
  }, []);
  return (
    <p
      role="status"
      className={alone ? 'grid h-full place-items-center' : 'status-line fixed bottom-0 left-0 z-[60] flex items-center bg-panel px-3'}
    >
      Opening the show…{long && ' It takes long: see that the server runs, or load the page again. Nothing is lost.'}
    </p>
  );
}

/** A show whose picture fails before it is opened in full opens all the same, and says there what is wrong. */
class Unseen extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError(): { failed: boolean } {
    return { failed: true };
  }

  override render(): ReactNode {
    return this.state.failed ? <Opening alone /> : this.props.children;
  }
}

/** Only the Desk is painted before the show runs: what is on air and what is next are seen first. The other rooms follow with the show. */
export function StillShow({ client }: { client: ShowClient }) {
  if (roomOfPath(useLocation().pathname) !== 'desk') return <Opening alone />;
  return (
    <Unseen>
      <ShowClientContext value={client}>
        <div inert aria-busy className="contents *:opacity-60 *:grayscale">
          <Bar />
          <Outlet />
        </div>
        <Opening alone={false} />
      </ShowClientContext>
    </Unseen>
  );
}
