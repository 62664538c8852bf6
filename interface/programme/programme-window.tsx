/** An output and nothing else, for a second display. */
import { useEffect, useState } from 'react';
import { CLEAN_OUTPUT, PROGRAMME_OUTPUT } from '#core/screens/outputs';
import { toggleFull, useFullKey } from '../parts/full-screen';
import { keepPlace } from './kept-windows';
import { windowLock } from './open-window';
import { OutputCanvas } from './output-canvas';

/** What the address asks for: a show, or whichever runs; an output, or the programme. */
function asked(): { showId: string | null; outputId: string; name: string } {
  const query = new URLSearchParams(window.location.search);
  const outputId = query.get('output') ?? PROGRAMME_OUTPUT;
  return { showId: query.get('show'), outputId, name: query.get('name') ?? (outputId === CLEAN_OUTPUT ? 'Clean programme' : 'Programme') };
}

/** The programme and nothing else, or another output by `?output=`. A double press, or F, fills the screen. */
export function ProgrammeWindow() {
  const [{ showId, outputId, name }] = useState(asked);
  const [shown, setShown] = useState(false);
  useFullKey();
  useEffect(() => {
    document.title = `${name} · Bivoca`;
    // The show knows by this lock that it is seen; it is let go when the window closes, however that comes.
    const closed = new AbortController();
    void navigator.locks
      .request(
        windowLock(showId ?? '', outputId),
        { mode: 'shared', signal: closed.signal },
        () => new Promise<void>((done) => closed.signal.addEventListener('abort', () => done())),
      )
      .catch(() => undefined);
    return () => closed.abort();
  }, [showId, outputId, name]);
  useEffect(() => (showId === null ? undefined : keepPlace(showId, outputId)), [showId, outputId]);
  return (
    <main className="grid h-full place-items-center bg-black" onDoubleClick={toggleFull}>
      <OutputCanvas showId={showId} outputId={outputId} name={name} className="h-screen w-screen" onShown={setShown} />
      {!shown && <p className="absolute text-muted">The picture appears here while its show is open in a window of this browser.</p>}
    </main>
  );
}
