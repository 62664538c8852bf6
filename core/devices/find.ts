/** Finds devices and their messages. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type Device, type DeviceMessage } from './document';

/** @throws CommandError when the show has no such device. */
export function deviceOf({ show }: Pick<Desk, 'show'>, id: string, field = 'device'): Device {
  const found = show.devices.find((d) => d.id === id);
  if (!found) throw new CommandError('unknown-device', `There is no device "${id}" in this show.`, field);
  return found;
}

/** A message and the device that it belongs to. @throws CommandError when no device has it. */
export function messageOf({ show }: Pick<Desk, 'show'>, id: string, field = 'message'): { device: Device; message: DeviceMessage } {
  for (const device of show.devices) {
    const message = device.messages.find((m) => m.id === id);
    if (message) return { device, message };
  }
  throw new CommandError('unknown-message', `No device of this show has the message "${id}".`, field);
}
