/** An output and nothing else, for a second display. */
import { useEffect, useRef, useState } from 'react';
import { CLEAN_OUTPUT, PROGRAMME_OUTPUT } from '#core/screens/outputs';
import { viewOutput } from '#engine/panels/output-viewer';
import { toggleFull, useFullKey } from '../parts/full-screen';
import { windowLock } from './open-window';

/** What the address asks for: a show, or whichever runs; an output, or the programme. */
function asked(): { showId: string | null; outputId: string; name: string } {
  const query = new URLSearchParams(window.location.search);
  const outputId = query.get('output') ?? PROGRAMME_OUTPUT;
  return { showId: query.get('show'), outputId, name: query.get('name') ?? (outputId === CLEAN_OUTPUT ? 'Clean programme' : 'Programme') };
}

/** The programme and nothing else, or another output by `?output=`. A double press, or F, fills the screen. */
export function ProgrammeWindow() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [{ showId, outputId, name }] = useState(asked);
  const [shown, setShown] = useState(false);
  useFullKey();
  useEffect(() => {
    document.title = `${name} · Bivoca`;
    const context = canvas.current?.getContext('2d', { alpha: false });
    const show = (frame: VideoFrame) => {
      const target = canvas.current;
      if (target && (target.width !== frame.displayWidth || target.height !== frame.displayHeight)) {
        target.width = frame.displayWidth;
        target.height = frame.displayHeight;
      }
      context?.drawImage(frame, 0, 0);
      frame.close();
      setShown(true);
    };
    const stop = viewOutput(showId, outputId, show, () => setShown(false));
    // The show knows by this lock that it is seen; it is let go when the window closes, however that comes.
    const closed = new AbortController();
    void navigator.locks
      .request(
        windowLock(showId ?? '', outputId),
        { mode: 'shared', signal: closed.signal },
        () => new Promise<void>((done) => closed.signal.addEventListener('abort', () => done())),
      )
      .catch(() => undefined);
    window.addEventListener('pagehide', stop);
    return () => {
      window.removeEventListener('pagehide', stop);
      stop();
      closed.abort();
    };
  }, [showId, outputId, name]);
  return (
    <main className="grid h-full place-items-center bg-black" onDoubleClick={toggleFull}>
      <canvas
        ref={canvas}
        aria-label={name}
        role="img"
        className="max-h-full max-w-full"
        style={{ width: '100vw', height: '100vh', objectFit: 'contain' }}
      />
      {!shown && <p className="absolute text-muted">The picture appears here while its show is open in a window of this browser.</p>}
    </main>
  );
}
