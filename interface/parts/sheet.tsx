/** A panel that comes in from the side. */
import { X } from 'lucide-react';
import { type ReactNode, useEffect, useRef } from 'react';
import { Button } from './button';

/** Settings that open over the list of sources: air, Next and the rail stay in sight, and their keys go on working. */
export function Sheet({ title, onClose, children }: { title: string; onClose: () => void; children: ReactNode }) {
  const room = useRef<HTMLElement>(null);
  useEffect(() => {
    const before = document.activeElement as HTMLElement | null;
    room.current?.focus();
    const key = (event: KeyboardEvent) => {
      if (event.key === 'Escape' && !event.defaultPrevented) onClose();
    };
    window.addEventListener('keydown', key);
    return () => {
      window.removeEventListener('keydown', key);
      before?.focus();
    };
  }, [onClose]);
  return (
    <section
      ref={room}
      tabIndex={-1}
      aria-label={title}
      className="fixed top-[44px] bottom-[134px] left-0 z-30 flex w-[min(332px,100vw)] flex-col border-r border-line bg-panel shadow-2xl outline-none"
    >
      <header className="flex items-center border-b border-line px-3 py-1">
        <h2 className="font-semibold">{title}</h2>
        <Button look="quiet" className="ml-auto px-1.5!" aria-label={`Close ${title}`} title="Close (Escape)" onClick={onClose}>
          <X size={16} />
        </Button>
      </header>
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3">{children}</div>
    </section>
  );
}
