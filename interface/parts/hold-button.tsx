/** A button that acts only when it is held. */
import { useEffect, useRef, useState } from 'react';
import { keeperOf, spend } from '../client/focus';
import { Button, type ButtonProps } from './button';

/** Milliseconds for which a key or button must be held. */
export const HOLD_MS = 700;
/** Milliseconds that "hold" is said for, after a short press. */
const SAYS_MS = 1600;

/** Does its work only when held: for what must not happen by a slip while on air. Enter and Space can be held too; a short press says so. */
export function HoldButton({ onHeld, children, title, ...rest }: Omit<ButtonProps, 'onClick'> & { onHeld: () => void }) {
  const [holding, setHolding] = useState(false);
  const [asks, setAsks] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (!asks) return undefined;
    const silent = setTimeout(() => setAsks(false), SAYS_MS);
    return () => clearTimeout(silent);
  }, [asks]);
  useEffect(() => () => clearTimeout(timer.current), []);
  const begin = () => {
    if (timer.current !== undefined || rest.unusable) return;
    setHolding(true);
    setAsks(false);
    timer.current = setTimeout(() => {
      stop();
      onHeld();
    }, HOLD_MS);
  };
  const stop = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
    setHolding(false);
  };
  /** Let go too early. */
  const end = () => {
    if (timer.current !== undefined) setAsks(true);
    stop();
  };
  return (
    <Button
      {...rest}
      title={title ?? 'Hold to do this'}
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onKeyDown={(e) => {
        if ((e.key !== 'Enter' && e.key !== ' ') || keeperOf(e.nativeEvent) === null) return;
        // A key that goes on does not press again what has taken its place.
        e.preventDefault();
        if (e.repeat) return;
        spend();
        begin();
      }}
      onKeyUp={end}
      onBlur={end}
      className={`relative overflow-hidden ${rest.className ?? ''}`}
    >
      <span
        aria-hidden
        className="absolute inset-0 origin-left bg-current opacity-25"
        style={{ transform: `scaleX(${holding ? 1 : 0})`, transition: holding ? `transform ${HOLD_MS}ms linear` : 'none' }}
      />
      {children}
      {asks && (
        <span role="status" className="absolute inset-0 grid place-items-center bg-caution px-0.5 font-semibold text-deep">
          hold
        </span>
      )}
    </Button>
  );
}
