/** New devices and messages. */
import { type Device, type DeviceKind, type DeviceMessage, type DeviceSettings } from './document';

const FIRST: { [K in DeviceKind]: Extract<DeviceSettings, { kind: K }> } = {
  http: { kind: 'http', address: 'http://127.0.0.1:8080' },
  tcp: { kind: 'tcp', host: '127.0.0.1', port: 5000, ending: 'lf' },
  udp: { kind: 'udp', host: '127.0.0.1', port: 5000, listens: null },
  websocket: { kind: 'websocket', address: 'ws://127.0.0.1:8080' },
  osc: { kind: 'osc', host: '127.0.0.1', port: 8000, carrier: 'udp', listens: null },
  midi: { kind: 'midi', port: '' },
};

/** Where a new device of a kind is, until somebody says where. */
export const firstSettings = (kind: DeviceKind): DeviceSettings => ({ ...FIRST[kind] });

export const createDevice = (id: string, name: string, settings: DeviceSettings, change: Partial<Device> = {}): Device => ({
  id,
  name,
  on: true,
  settings,
  answers: settings.kind === 'http',
  waitSeconds: 2,
  retries: 1,
  messages: [],
  ...change,
});

export const createMessage = (id: string, name: string, change: Partial<DeviceMessage> = {}): DeviceMessage => ({
  id,
  name,
  method: 'POST',
  path: '',
  text: '',
  follows: false,
  ...change,
});
