/** A small panel that opens at what was pressed. */
import { Popover as Radix } from 'radix-ui';
import { type ReactNode } from 'react';

/** A panel that opens at the control it belongs to; Escape and a press elsewhere close it. */
export function Popover({
  trigger,
  children,
  label,
  align = 'center',
  open,
  onOpenChange,
}: {
  trigger: ReactNode;
  children: ReactNode;
  label: string;
  align?: 'start' | 'center' | 'end';
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}) {
  return (
    <Radix.Root {...(open === undefined ? {} : { open })} {...(onOpenChange ? { onOpenChange } : {})}>
      <Radix.Trigger asChild>{trigger}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          align={align}
          sideOffset={6}
          collisionPadding={8}
          className="z-40 max-h-[80vh] overflow-auto rounded border border-line bg-panel p-3 shadow-2xl"
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
