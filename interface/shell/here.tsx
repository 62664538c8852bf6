/** Says which room is open, and gives it the focus. */
import { useLayoutEffect } from 'react';
import { useLocation } from 'react-router';
import { roomOfPath } from '#core/control/rooms';
import { useHere } from '../client/here';

export function Here() {
  const room = roomOfPath(useLocation().pathname);
  useLayoutEffect(() => {
    // What was opened meanwhile stays open: whoever types into it must not type into the room.
    useHere.setState({ room });
    const main = document.querySelector<HTMLElement>('main');
    if (main) main.tabIndex = -1;
    if (document.activeElement === document.body || document.activeElement === null) main?.focus({ preventScroll: true });
  }, [room]);
  return null;
}
