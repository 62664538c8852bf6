/** The running show, for every component beneath it. */
import { createContext, useCallback, useContext } from 'react';
import { toast } from 'sonner';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { warnOfLoop } from './loop-warning';
import { type ShowHost } from '#engine/host/show-host';
import { type HostState } from '#engine/host/state';

export const HostContext = createContext<ShowHost | null>(null);

export function useHost(): ShowHost {
  const host = useContext(HostContext);
  if (!host) throw new Error('This part works only inside an open show.');
  return host;
}

/** Part of the host's state; renders again only when that part changes. */
export function useHostState<T>(select: (state: HostState) => T): T {
  return useStore(useHost().store, useShallow(select));
}

/** Sends a command; a refusal is shown, in its own words. True when it was done. */
export function useSend(): (type: string, args?: Record<string, unknown>) => boolean {
  const host = useHost();
  return useCallback(
    (type, args = {}) => {
      const outcome = host.dispatch({ type, args });
      if (!outcome.ok && outcome.error.code === 'loop') warnOfLoop({ type, args }, outcome.error.message);
      else if (!outcome.ok) toast.warning(outcome.error.message, { id: outcome.error.code });
      return outcome.ok;
    },
    [host],
  );
}
