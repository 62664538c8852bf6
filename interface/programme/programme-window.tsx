import { useEffect, useRef, useState } from 'react';

/** How often it looks for the show's window, milliseconds. */
const LOOK = 1000;

/** The programme and nothing else; with `?feed=clean`, below its lanes. A double press, or F, fills the screen. */
export function ProgrammeWindow() {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [shown, setShown] = useState(false);
  useEffect(() => {
    const feed = new URLSearchParams(window.location.search).get('feed') === 'clean' ? 'clean' : 'programme';
    document.title = `${feed === 'clean' ? 'Clean programme' : 'Programme'} · Bivoca`;
    let stop: (() => void) | null = null;
    let from: unknown = null;
    const look = () => {
      const host = (window.opener as Window | null)?.bivocaHost;
      if (host === from) return;
      stop?.();
      stop = null;
      from = host;
      setShown(host !== undefined);
      if (!host) return;
      const context = canvas.current?.getContext('2d', { alpha: false });
      stop = host.programmeFrames((frame) => {
        const target = canvas.current;
        if (target && (target.width !== frame.displayWidth || target.height !== frame.displayHeight)) {
          target.width = frame.displayWidth;
          target.height = frame.displayHeight;
        }
        context?.drawImage(frame, 0, 0);
        frame.close();
      }, feed);
    };
    look();
    const timer = setInterval(look, LOOK);
    const leave = () => stop?.();
    window.addEventListener('pagehide', leave);
    const key = (event: KeyboardEvent) => event.code === 'KeyF' && toggleFull();
    window.addEventListener('keydown', key);
    return () => {
      clearInterval(timer);
      window.removeEventListener('pagehide', leave);
      window.removeEventListener('keydown', key);
      stop?.();
    };
  }, []);
  return (
    <main className="grid h-full place-items-center bg-black" onDoubleClick={toggleFull}>
      <canvas
        ref={canvas}
        aria-label="Programme"
        role="img"
        className="max-h-full max-w-full"
        style={{ width: '100vw', height: '100vh', objectFit: 'contain' }}
      />
      {!shown && (
        <p className="absolute text-muted">The programme appears here while its show is open in the window that opened this one.</p>
      )}
    </main>
  );
}

function toggleFull(): void {
  if (document.fullscreenElement) void document.exitFullscreen();
  else void document.documentElement.requestFullscreen();
}
