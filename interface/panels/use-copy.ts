/** The copy of a show in a window of its own: `?show=` in the address says which. */
import { useEffect, useRef, useState } from 'react';
import { ShowCopy, type ShownCopy } from '#engine/panels/show-copy';

/** Times a second that what depends on the frame is drawn again. */
const DRAWN_A_SECOND = 4;

/** What is known of the show, its frame a few times a second, and the line itself. */
export function useCopy(): ShownCopy & { frame: number; line: ShowCopy | null } {
  const [state, setState] = useState<ShownCopy>({ copy: null, trouble: 'Looking for the show…' });
  const [frame, setFrame] = useState(0);
  const line = useRef<ShowCopy | null>(null);
  useEffect(() => {
    const opened = new ShowCopy(new URLSearchParams(window.location.search).get('show'), setState);
    line.current = opened;
    const timer = setInterval(() => setFrame(opened.frame()), 1000 / DRAWN_A_SECOND);
    return () => {
      clearInterval(timer);
      opened.close();
    };
  }, []);
  return { ...state, frame, line: line.current };
}
