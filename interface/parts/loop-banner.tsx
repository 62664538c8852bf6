/** Asks what to do with a change that would close a sound loop. */
import { RefreshCcw } from 'lucide-react';
import { useEffect } from 'react';
import { useShowClient } from '../client/show-client';
import { forgetWarning, useLoopWarning } from '../client/loop-warning';
import { Button } from './button';
import { HoldButton } from './hold-button';

/** Says which loop a change would close, before it is made. Meaning it must be held. */
export function LoopBanner() {
  const host = useShowClient();
  const warning = useLoopWarning((s) => s.warning);
  useEffect(() => {
    if (!warning) return undefined;
    const escape = (e: KeyboardEvent) => e.key === 'Escape' && forgetWarning();
    window.addEventListener('keydown', escape);
    return () => window.removeEventListener('keydown', escape);
  }, [warning]);
  if (!warning) return null;
  const path = warning.message.replace(/ Nothing was changed\..*/, '');
  return (
    <div
      role="alertdialog"
      aria-label="A loop would be closed"
      className="fixed bottom-9 left-1/2 z-50 flex w-[min(760px,94vw)] -translate-x-1/2 flex-col gap-2 border-l-4 border-air bg-raised px-4 py-3 whitespace-normal shadow-2xl"
    >
      <p className="flex items-start gap-2">
        <RefreshCcw size={18} className="mt-0.5 shrink-0 text-air" />
        <span>{path} Nothing was changed.</span>
      </p>
      <div className="flex justify-end gap-2">
        <HoldButton
          look="air"
          title="Hold to close the loop all the same"
          onHeld={() => {
            host.dispatch({ ...warning.command, args: { ...warning.command.args, anyway: true } });
            forgetWarning();
          }}
        >
          Hold to do it all the same
        </HoldButton>
        <Button look="straw" autoFocus onClick={forgetWarning}>
          Leave it
        </Button>
      </div>
    </div>
  );
}
