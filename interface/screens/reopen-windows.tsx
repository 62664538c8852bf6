/** Opens the windows again that a show had open when the browser ended, and keeps which are open. */
import { useEffect, useRef } from 'react';
import { findOutput, screenOutput } from '#core/screens/outputs';
import { over, say } from '../client/say';
import { useShowClient } from '../client/show-client';
import { keepWindows, keptPlace, keptWindows } from '../programme/kept-windows';
import { openOutputWindow } from '../programme/open-window';
import { useWindows } from '../programme/use-windows';
import { findKnownDisplays, openOn } from './displays';

/** Milliseconds that a window is missed before it is taken for closed by hand: when the browser ends, windows go one after another. */
const MISSED_MS = 3000;

export function ReopenWindows() {
  const client = useShowClient();
  const { showId } = client;
  const open = useWindows(showId);
  const kept = useRef<string[]>([]);
  /** Not opened again yet: they are not closed by hand. */
  const waiting = useRef<readonly string[]>([]);
  useEffect(() => {
    let left = false;
    kept.current = keptWindows(showId);
    waiting.current = kept.current;
    const reopen = async () => {
      await findKnownDisplays();
      const { held = [] } = await navigator.locks.query();
      const missing = () =>
        kept.current.filter((id) => findOutput(client.state.desk.show, id) && !held.some((l) => l.name?.endsWith(`${showId} ${id}`)));
      const openAll = (): string[] =>
        missing().filter((id) => {
          const output = screenOutput(client.state.desk.show, id);
          if (output && output.display !== '') return openOn(showId, output) !== null;
          const at = keptPlace(showId, id);
          return openOutputWindow(showId, id, { name: findOutput(client.state.desk.show, id)?.name ?? id, ...(at && { at }) }) === null;
        });
      if (left) return;
      const refused = openAll();
      waiting.current = refused;
      if (refused.length === 0) return;
      const names = refused.map((id) => findOutput(client.state.desk.show, id)?.name ?? id).join(', ');
      say.caution(`These windows were open when the show was left: ${names}. The browser opens them by a press only.`, {
        id: 'reopen',
        duration: Infinity,
        action: {
          label: refused.length === 1 ? 'Open it' : 'Open them',
          onClick: () => {
            const still = openAll();
            waiting.current = still;
            if (still.length > 0)
              say.caution('The browser has not opened all windows: allow windows (pop-ups) at the address of this page.', { id: 'reopen' });
            else over('reopen');
          },
        },
      });
    };
    void reopen();
    return () => {
      left = true;
      over('reopen');
    };
  }, [client, showId]);
  useEffect(() => {
    const now = new Set([...kept.current, ...open]);
    kept.current = [...now];
    keepWindows(showId, kept.current);
    const gone = kept.current.filter((id) => !open.includes(id) && !waiting.current.includes(id));
    if (gone.length === 0) return undefined;
    const timer = setTimeout(() => {
      kept.current = kept.current.filter((id) => !gone.includes(id));
      keepWindows(showId, kept.current);
    }, MISSED_MS);
    return () => clearTimeout(timer);
  }, [open, showId]);
  return null;
}
