/** The client of the show, for every component beneath it: rooms see this and never the host. */
import { createContext, useCallback, useContext, useSyncExternalStore } from 'react';
import { say } from './say';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import { type Command } from '#core/commands/command';
import { type Refusal } from '#core/desk/execute';
import { type ShowClient } from '#engine/client/show-client';
import { type LiveState, type ShowState } from '#engine/client/state';
import { warnOfLoop } from './loop-warning';

export const ShowClientContext = createContext<ShowClient | null>(null);

export function useShowClient(): ShowClient {
  const client = useContext(ShowClientContext);
  if (!client) throw new Error('This part works only inside an open show.');
  return client;
}

/** Part of what changes with acts and reports; renders again only when that part changes. */
export function useShow<T>(select: (state: ShowState) => T): T {
  return useStore(useShowClient().store, useShallow(select));
}

/** Part of what changes with every frame: asked at every frame, so only for what needs the frame number or the mixer's figures. */
export function useLive<T>(select: (state: LiveState) => T): T {
  const client = useShowClient();
  const shallow = useShallow(select);
  const subscribe = useCallback(
    (changed: () => void) => {
      const ends = [client.store.subscribe(changed), client.frames.subscribe(changed)];
      return () => ends.forEach((end) => end());
    },
    [client],
  );
  return useSyncExternalStore(subscribe, () => shallow(client.state));
}

function sayRefusal(client: ShowClient, command: Command, { code, message }: Refusal): void {
  const anyway = () => void client.dispatch({ ...command, args: { ...command.args, anyway: true } });
  if (code === 'anothers') say.caution(message, { id: code, action: { label: 'All the same', onClick: anyway } });
  else if (code === 'loop') warnOfLoop(command, message);
  else say.caution(message, { id: code });
}

/** Sends a command; a refusal is shown, in its own words. True when it was done. */
export function useSend(): (type: string, args?: Record<string, unknown>) => boolean {
  const client = useShowClient();
  return useCallback(
    (type, args = {}) => {
      const outcome = client.dispatch({ type, args });
      if (!outcome.ok) sayRefusal(client, { type, args }, outcome.error);
      return outcome.ok;
    },
    [client],
  );
}

/** Sends several commands as one step, and all steps of one `gesture` as one of undo; a refusal is shown. True when they were done. */
export function useSendAll(): (commands: readonly Command[], gesture?: string) => boolean {
  const client = useShowClient();
  return useCallback(
    (commands, gesture) => {
      const outcome = client.dispatchAll(commands, gesture);
      if (!outcome.ok) sayRefusal(client, commands[outcome.error.index ?? 0] ?? { type: '' }, outcome.error);
      return outcome.ok;
    },
    [client],
  );
}
