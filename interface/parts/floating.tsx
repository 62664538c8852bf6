/** What a popover shows, placed beside the control that opened it. Fetched with the first one that opens, or soon after the page stands. */
import { Popover as Radix } from 'radix-ui';
import { type ReactNode, type RefObject, useRef } from 'react';

export interface FloatingProps {
  /** The control that it belongs to: it gets the focus back. */
  anchor: RefObject<HTMLElement>;
  children: ReactNode;
  label: string;
  align: 'start' | 'center' | 'end';
  side: 'top' | 'bottom';
  className: string;
  onClose: () => void;
}

export function Floating({ anchor, children, label, align, side, className, onClose }: FloatingProps) {
  /** A press elsewhere closed it: the focus is where that press has put it. */
  const elsewhere = useRef(false);
  return (
    <Radix.Root open onOpenChange={onClose}>
      <Radix.Anchor virtualRef={anchor} />
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align={align}
          side={side}
          sideOffset={6}
          collisionPadding={8}
          className={className}
          onInteractOutside={(event) => {
            // The control itself opens and closes it by its own press.
            if (anchor.current.contains(event.target as Node)) event.preventDefault();
            else elsewhere.current = true;
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault();
            if (!elsewhere.current) anchor.current.focus();
          }}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
