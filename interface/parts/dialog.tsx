/** A dialog over the room, which keeps the keys while it is open. */
import { Dialog as Radix } from 'radix-ui';
import { type ReactNode, useRef } from 'react';

interface DialogProps {
  open: boolean;
  onClose: () => void;
  title: string;
  /** One line under the title. */
  about?: string;
  children: ReactNode;
  wide?: boolean;
  extraWide?: boolean;
}

/** A dialog over the app. What is on air goes on beneath it. */
export function Dialog({ open, onClose, title, about, children, wide, extraWide }: DialogProps) {
  const before = useRef<HTMLElement | null>(null);
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-deep/70" />
        <Radix.Content
          className={`fixed top-[8vh] left-1/2 z-50 flex max-h-[84vh] ${extraWide ? 'w-[960px]' : wide ? 'w-[680px]' : 'w-[480px]'} max-w-[94vw] -translate-x-1/2 flex-col gap-3 overflow-auto rounded border border-line bg-panel p-4`}
          onOpenAutoFocus={() => {
            before.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
          }}
          onCloseAutoFocus={(event) => {
            // Dialogs are opened by keys too: the focus goes back to where it was, and never to nothing.
            event.preventDefault();
            const back =
              before.current?.isConnected && before.current !== document.body
                ? before.current
                : document.querySelector<HTMLElement>('main');
            back?.focus({ preventScroll: true });
          }}
          {...(about ? {} : { 'aria-describedby': undefined })}
        >
          <div>
            <Radix.Title className="text-lg font-semibold">{title}</Radix.Title>
            {about && <Radix.Description className="text-muted">{about}</Radix.Description>}
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
