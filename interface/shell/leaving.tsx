/** Leaving a show that is on air to somebody: by a link or back it asks by holding, by reload or closing by the browser's own question. */
import { useEffect } from 'react';
import { useBlocker } from 'react-router';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Dialog } from '../parts/dialog';
import { HoldButton } from '../parts/hold-button';
import { useWindows } from '../programme/use-windows';

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

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

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
  return (
    <Dialog
      open
      onClose={() => blocker.reset()}
      title="This show is on air"
      about={seen ? `Leaving it ends ${listed(watching)}.` : 'Nobody sees it any more: it can be left.'}
    >
      <div className="flex justify-end gap-2">
        <HoldButton look="air" title="Hold to leave the show" onHeld={() => blocker.proceed()}>
          Hold to leave
        </HoldButton>
        <Button look="straw" autoFocus onClick={() => blocker.reset()}>
          Stay
        </Button>
      </div>
    </Dialog>
  );
}
