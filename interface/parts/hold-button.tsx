/** A button that acts only when it is held. */
import { useRef, useState } from 'react';
import { Button, type ButtonProps } from './button';

/** Milliseconds. */
const HOLD = 700;

/** Does its work only when held: for what must not happen by a slip while on air. Enter and Space can be held too. */
export function HoldButton({ onHeld, children, title, ...rest }: Omit<ButtonProps, 'onClick'> & { onHeld: () => void }) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const begin = () => {
    if (timer.current !== undefined || rest.unusable) return;
    setHolding(true);
    timer.current = setTimeout(() => {
      end();
      onHeld();
    }, HOLD);
  };
  const end = () => {
    clearTimeout(timer.current);
    timer.current = undefined;
    setHolding(false);
  };
  return (
    <Button
      {...rest}
      title={title ?? 'Hold to do this'}
      onPointerDown={begin}
      onPointerUp={end}
      onPointerLeave={end}
      onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && begin()}
      onKeyUp={end}
      onBlur={end}
      className={`relative overflow-hidden ${rest.className ?? ''}`}
    >
      <span
        aria-hidden
        className="absolute inset-0 origin-left bg-current opacity-25"
        style={{ transform: `scaleX(${holding ? 1 : 0})`, transition: holding ? `transform ${HOLD}ms linear` : 'none' }}
      />
      {children}
    </Button>
  );
}
