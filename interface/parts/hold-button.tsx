/** A button that acts only when it is held. */
import { useEffect, useState } from 'react';
import { Button, type ButtonProps } from './button';
import { HOLD_MS, usePress } from './use-press';

/** Milliseconds that "hold" is said for, after a short press. */
const SAYS_MS = 1600;

/** Does its work only when held: for what must not happen by a slip while on air. Enter and Space can be held too; a short press says so. */
export function HoldButton({ onHeld, children, title, ...rest }: Omit<ButtonProps, 'onClick'> & { onHeld: () => void }) {
  const [asks, setAsks] = useState(false);
  useEffect(() => {
    if (!asks) return undefined;
    const silent = setTimeout(() => setAsks(false), SAYS_MS);
    return () => clearTimeout(silent);
  }, [asks]);
  const held = () => {
    setAsks(false);
    onHeld();
  };
  // One that cannot be used has no press to be held, and none at once either.
  const { holding, handlers } = usePress(!rest.unusable, held, () => setAsks(true));
  return (
    <Button
      {...rest}
      title={title ?? 'Hold to do this'}
      {...handlers}
      onClick={undefined}
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
