/** Which windows of this browser show outputs of a show, however they were opened. */
import { useEffect, useState } from 'react';
import { windowLock } from './open-window';

/** How often windows are looked for, milliseconds: nothing tells when one is closed. */
const LOOK_MS = 1000;

/** The outputs that windows show, one for each window. */
export function useWindows(showId: string): readonly string[] {
  const [open, setOpen] = useState<readonly string[]>([]);
  useEffect(() => {
    const begins = [windowLock(showId, ''), windowLock('', '')];
    const look = () =>
      void navigator.locks.query().then(({ held = [] }) => {
        const ids = held.flatMap(({ name = '' }) => begins.filter((b) => name.startsWith(b)).map((b) => name.slice(b.length)));
        setOpen((before) => (before.join() === ids.join() ? before : ids));
      });
    look();
    const timer = setInterval(look, LOOK_MS);
    return () => clearInterval(timer);
  }, [showId]);
  return open;
}
