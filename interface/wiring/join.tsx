/** A guest's page, with the devices of the browser, or drawn ones for a simulated guest. */
import { browserGuestDevices } from '#engine/guests/devices';
import { simulatedGuest } from '#standins/guests/simulated-guest';
import { JoinPage } from '../guests/join-page';
import { obeyOpener } from '../guests/simulated-orders';

/** Devices of a guest's page: drawn ones for a simulated guest, who can be told what to do by the window that has opened it. */
const guestDevices = (simulated: { name: string; number: number } | null) => {
  if (!simulated) return browserGuestDevices;
  const guest = simulatedGuest(simulated.name, simulated.number);
  obeyOpener(guest);
  return guest;
};

export const Join = () => <JoinPage devicesFor={guestDevices} />;
