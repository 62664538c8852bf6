/** A button that does something as long as it is held: by mouse, finger, Space or Enter. What it begins always ends. */
import { type KeyboardEvent } from 'react';
import { Button, type ButtonProps } from './button';

interface HeldButtonProps extends Omit<ButtonProps, 'onClick' | 'pressed'> {
  /** It does it now. */
  active: boolean;
  onBegin: () => void;
  onEnd: () => void;
}

export function HeldButton({ active, onBegin, onEnd, ...rest }: HeldButtonProps) {
  const begin = () => {
    if (!rest.unusable) onBegin();
  };
  const key = (e: KeyboardEvent, act: () => void) => {
    if (e.code !== 'Space' && e.code !== 'Enter') return;
    e.preventDefault();
    e.stopPropagation();
    if (!e.repeat) act();
  };
  return (
    <Button
      {...rest}
      look={active ? 'straw' : 'plain'}
      aria-pressed={active}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        begin();
      }}
      onPointerUp={onEnd}
      onPointerCancel={onEnd}
      onBlur={onEnd}
      onKeyDown={(e) => key(e, begin)}
      onKeyUp={(e) => key(e, onEnd)}
    />
  );
}
