/** Talkback by key, in every room. */
import { useEffect } from 'react';
import { useShowClient, useSend } from '../client/show-client';
import { talkTarget, useTalkTarget } from '../client/talk-target';

/** Talkback while the key left of 1 is held, in every room: to all guests, with Shift to the room, with Alt to one person. Letting go anywhere closes the microphone. */
export function useTalkKeys(): void {
  const host = useShowClient();
  const send = useSend();
  useEffect(() => {
    let talking = false;
    const end = () => {
      if (!talking) return;
      talking = false;
      if (host.state.desk.air.sound.talkback) send('talkback.stop');
    };
    const down = (event: KeyboardEvent) => {
      if (event.code !== 'Backquote' || event.repeat || event.ctrlKey || event.metaKey) return;
      if ((event.target as HTMLElement).closest('input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable]'))
        return;
      event.preventDefault();
      const one = event.altKey ? talkTarget(host.state.desk.show.sound.listeners, useTalkTarget.getState().chosen) : undefined;
      talking = send('talkback.start', one ? { listeners: [one.id] } : { to: event.shiftKey ? 'room' : 'guests' });
    };
    const up = (event: KeyboardEvent) => event.code === 'Backquote' && end();
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', end);
    return () => {
      end();
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', end);
    };
  }, [host, send]);
}
