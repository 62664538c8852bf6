/** A show that runs in this window: keys, controllers and windows of its own, above all rooms. */
import { useEffect } from 'react';
import { Outlet, useLocation } from 'react-router';
import { type ControlDriver } from '#engine/control/driver';
import { type ShowClient } from '#engine/client/show-client';
import { ShowClientContext } from '../client/show-client';
import { useControllers } from '../control/use-controllers';
import { useKeyboard } from '../control/use-hands';
import { SimulatedGuests } from '../guests/simulated';
import { ReopenWindows } from '../screens/reopen-windows';
import { Here } from './here';
import { RoomGuard } from './room-guard';
import { Bar } from './top-bar';

/** Browsers let sound start only after a press or a key: the first one anywhere wakes it. */
function Wakes({ client }: { client: ShowClient }) {
  useEffect(() => {
    const wake = () => void client.sound.wake();
    const events = ['pointerdown', 'keydown'] as const;
    for (const event of events) window.addEventListener(event, wake);
    return () => {
      for (const event of events) window.removeEventListener(event, wake);
    };
  }, [client]);
  return null;
}

/** The keys and hands-on controllers work in every room. */
function Hands({ controls }: { controls: readonly ControlDriver[] }) {
  useControllers(controls);
  useKeyboard();
  return null;
}

export function RunningShow({ client, controls }: { client: ShowClient; controls: readonly ControlDriver[] }) {
  const room = useLocation().pathname;
  return (
    <ShowClientContext value={client}>
      <Wakes client={client} />
      <Hands controls={controls} />
      <Here />
      <ReopenWindows />
      <SimulatedGuests />
      <Bar />
      <RoomGuard key={room}>
        <Outlet />
      </RoomGuard>
    </ShowClientContext>
  );
}
