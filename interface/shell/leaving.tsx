/** Leaving a show that is on air to somebody: by a link or back it asks by holding, by reload or closing by the browser's own question. */
import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { useShow, useShowClient } from '../client/show-client';
import { later } from '../parts/later';
import { useWindows } from '../programme/use-windows';

const LeavingDialog = later(() => import('./leaving-dialog').then((m) => m.LeavingDialog));

/** What would end, in words; empty when nobody sees the show. */
function useWatching(): string[] {
  const { showId } = useShowClient();
  const windows = useWindows(showId).length;
  const { recording, stream, angles } = useShow(({ desk: { air } }) => ({
    recording: air.recording !== null,
    stream: air.stream !== null,
    angles: air.replay.recording !== null,
  }));
  return [
    recording && 'the recording',
    stream && 'the stream',
    angles && 'the recording of the angles',
    windows > 0 && (windows === 1 ? 'the picture in its own window' : `the picture in ${windows} windows`),
  ].filter((w): w is string => w !== false);
}

/** Asks before the show is left while somebody sees it. */
export function Leaving() {
  const { showId } = useShowClient();
  const watching = useWatching();
  const seen = watching.length > 0;
  const home = `/show/${showId}`;
  const blocker = useBlocker(({ nextLocation }) => seen && nextLocation.pathname !== home && !nextLocation.pathname.startsWith(`${home}/`));
  useEffect(() => {
    if (!seen) return undefined;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, [seen]);
  if (blocker.state !== 'blocked') return null;
  return <LeavingDialog watching={watching} onStay={() => blocker.reset()} onLeave={() => blocker.proceed()} />;
}
