/** A small panel that opens at what was pressed. */
import {
  type ButtonHTMLAttributes,
  cloneElement,
  type ReactElement,
  type ReactNode,
  type Ref,
  type RefObject,
  useRef,
  useState,
} from 'react';
import { later } from './later';

const Floating = later(() => import('./floating').then((m) => m.Floating));

/** A button, or a part that gives what it gets to one. */
type Trigger = ReactElement<ButtonHTMLAttributes<HTMLButtonElement> & { ref?: Ref<HTMLButtonElement> }>;

/** A panel that opens at the control it belongs to; Escape and a press elsewhere close it. */
export function Popover({
  trigger,
  children,
  label,
  align = 'center',
  side = 'bottom',
  className = 'z-40 max-h-[80vh] overflow-auto rounded border border-line bg-panel p-3 shadow-2xl',
  open: given,
  onOpenChange,
}: {
  trigger: Trigger;
  children: ReactNode;
  label: string;
  align?: 'start' | 'center' | 'end';
  side?: 'top' | 'bottom';
  className?: string;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}) {
  const anchor = useRef<HTMLButtonElement>(null);
  const [own, setOwn] = useState(false);
  const open = given ?? own;
  const setOpen = (next: boolean) => {
    setOwn(next);
    onOpenChange?.(next);
  };
  return (
    <>
      {cloneElement(trigger, { ref: anchor, 'aria-haspopup': 'dialog', 'aria-expanded': open, onClick: () => setOpen(!open) })}
      {open && (
        <Floating
          anchor={anchor as RefObject<HTMLButtonElement>}
          label={label}
          align={align}
          side={side}
          className={className}
          onClose={() => setOpen(false)}
        >
          {children}
        </Floating>
      )}
    </>
  );
}
