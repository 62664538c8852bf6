/** Devices of the demo: the simulated ones at the pier, whose lamps follow tally. */
import { createDevice, createMessage } from '#core/devices/create';
import { type DeviceMessage } from '#core/devices/document';
import { type Show } from '#core/desk/show';
import { DEVICE_PORTS, WALL_LAYOUTS } from '../devices/pier';

const HOST = '127.0.0.1';
/** Cameras in the order of their lamps. */
const CAMERAS = ['Shore wide', 'Flight line', 'Mast overhead', 'Commentary desk'];

/** `port` is that of the server: the simulated devices listen behind it. */
export function addDevices(show: Show, port: number): void {
  const lamps = CAMERAS.map((name, i) =>
    createMessage(`lamp-${i + 1}`, `Lamp ${i + 1}: ${name}`, { text: `lamp ${i + 1} {tally: ${name}}`, follows: true }),
  );
  const shutter = (open: boolean): DeviceMessage =>
    createMessage(open ? 'shutter-open' : 'shutter-close', open ? 'Open the shutter' : 'Close the shutter', {
      method: 'PUT',
      path: '/shutter',
      text: JSON.stringify({ open }),
    });
  const layouts = Array.from({ length: WALL_LAYOUTS }, (_, i) =>
    createMessage(`wall-${i + 1}`, `Wall layout ${i + 1}`, { path: '/wall/layout', text: String(i + 1) }),
  );
  const clock = createMessage('wall-clock', 'Heat clock on the wall', {
    path: '/wall/cell/1',
    text: '"{clock: Heat clock}"',
    follows: true,
  });
  show.devices = [
    createDevice(
      'lamps',
      'Camera lamps',
      { kind: 'tcp', host: HOST, port: port + DEVICE_PORTS.lamps, ending: 'lf' },
      { answers: true, messages: lamps },
    ),
    createDevice(
      'projector',
      'Pier projector',
      { kind: 'http', address: `http://${HOST}:${port + DEVICE_PORTS.projector}` },
      { messages: [shutter(true), shutter(false)] },
    ),
    createDevice(
      'second-wall',
      'Second wall',
      { kind: 'osc', host: HOST, port: port + DEVICE_PORTS.wall, carrier: 'udp', listens: null },
      { messages: [...layouts, clock] },
    ),
  ];
}
