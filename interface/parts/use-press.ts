/** A press that may have to be held: with the pointer, or by Enter and Space where the control has the keys. */
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { keeperOf, spend } from '../client/focus';

/** Milliseconds for which a key or button must be held. */
export const HOLD_MS = 700;

/**
 * With `holds`, `press` comes when it has been held, otherwise at once; `short` when it was let go too early. `holding` while it is held.
 */
export function usePress(holds: boolean, press: () => void, short?: () => void) {
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [holding, setHolding] = useState(false);
  useEffect(() => () => clearTimeout(timer.current), []);
  const stop = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
    setHolding(false);
  };
  const begin = () => {
    if (!holds || timer.current !== undefined) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      stop();
      press();
    }, HOLD_MS);
  };
  const end = () => {
    if (timer.current !== undefined) short?.();
    stop();
  };
  return {
    holding,
    handlers: {
      onPointerDown: begin,
      onPointerUp: end,
      onPointerLeave: end,
      onBlur: end,
      onKeyUp: end,
      onKeyDown: (e: KeyboardEvent) => {
        if (!holds || (e.key !== 'Enter' && e.key !== ' ') || keeperOf(e.nativeEvent) === null) return;
        // A key that goes on does not press again what has taken its place.
        e.preventDefault();
        if (e.repeat) return;
        spend();
        begin();
      },
      onClick: () => {
        if (!holds) press();
      },
    },
  };
}
