/** Devices of a host: sent on their frame and once, tally followed, what is heard told, one that is away said once. */
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { createWhen } from '#core/automation/create';
import { ActLog } from '#core/log/act-log';
import { type Reached } from '#core/devices/line';
import { type Outgoing } from '#core/devices/problems';
import { FakeHost } from '#tests/support/fake-host';
import { FakeWorker } from '#tests/support/fake-worker';
import { type DeviceLineEvents, type SendResult } from '../devices/device-line';
import { DeviceControl } from './device-control';

const GOOD: SendResult = { ok: true, millis: 3, tries: 1, answer: 'ok', message: '' };

describe('devices of a host', () => {
  let host: FakeHost;
  let log: ActLog;
  let events: DeviceLineEvents;
  let set: (readonly Reached[])[];
  let sent: { id: string; out: Pick<Outgoing, 'path' | 'text'> }[];
  let result: SendResult;
  let midi: string[];
  const open = () => {
    const control = new DeviceControl(host, log, {
      line: (e) => {
        events = e;
        return {
          set: (list) => set.push(list),
          send: (id, { path, text }) => {
            sent.push({ id, out: { path, text } });
            return Promise.resolve(result);
          },
          close: () => undefined,
        };
      },
      midi: () => ({
        set: () => Promise.resolve(),
        send: (port, words) => {
          midi.push(`${port}: ${words}`);
          return Promise.resolve(GOOD);
        },
        names: () => Promise.resolve({ outputs: [], inputs: [] }),
        close: () => undefined,
      }),
    });
    host.follower = control;
    control.follow(host.desk);
    return control;
  };
  const add = (kind: string, text: string, change: Record<string, unknown> = {}) => {
    host.run('device.add', { kind });
    const device = host.desk.show.devices.at(-1)!.id;
    host.run('message.add', { device, text, ...change });
    return { device, message: host.desk.show.devices.at(-1)!.messages[0]!.id };
  };

  beforeEach(() => {
    FakeWorker.started = [];
    vi.useFakeTimers();
    host = new FakeHost();
    host.frame = 100;
    log = new ActLog((tell) => tell(), 100);
    [set, sent, midi] = [[], [], []];
    result = GOOD;
    return () => vi.useRealTimers();
  });

  it('get a message at once and once, and its answer stands in the log', async () => {
    const { device, message } = add('tcp', 'lamp {value} air');
    open();
    host.run('device.send', { message, value: '2' });
    await vi.advanceTimersByTimeAsync(0);
    expect(sent).toEqual([{ id: device, out: { path: '', text: 'lamp 2 air' } }]);
    expect(host.state().devices[device]?.last).toMatchObject({ ok: true, answer: 'ok' });
    expect(log.line(0)).toMatchObject({ kind: 'sent', of: device, text: 'lamp 2 air', result: 'ok' });
    host.run('picture.cut', { picture: 'b' });
    expect(sent).toHaveLength(1);
    // A window that is opened anew does not say again what was said before.
    open();
    host.run('picture.cut', { picture: 'a' });
    expect(sent).toHaveLength(1);
  });

  it('get what a macro sends ahead on its own frame', async () => {
    const { message } = add('udp', 'x');
    open();
    host.commandsAt([{ type: 'device.send', args: { message } }], 106);
    expect(sent).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(170);
    expect(sent).toHaveLength(0);
    await vi.advanceTimersByTimeAsync(60);
    expect(sent).toHaveLength(1);
  });

  it('follow what a message says of tally, and get it when it changes alone', async () => {
    host.run('picture.cut', { picture: 'a' });
    host.run('picture.setNext', { picture: 'c' });
    const name = host.desk.show.sources.find((s) => s.id === 'b')!.name;
    add('tcp', `lamp 1 {tally: ${name}}`, { follows: true });
    const control = open();
    const at = async (frame: number) => {
      host.frame = frame;
      control.tick(host.desk, frame);
      await vi.advanceTimersByTimeAsync(200);
    };
    await at(100);
    await at(101);
    host.run('picture.setNext', { picture: 'b' });
    await at(102);
    host.run('picture.cut', { picture: 'b' });
    await at(103);
    await at(104);
    expect(sent.map((s) => s.out.text)).toEqual(['lamp 1 off', 'lamp 1 next', 'lamp 1 air']);
    // One that has been without current is told again; so is all that could not be sent before the server was there.
    const state = { kind: 'state', deviceId: sent[0]!.id, message: '', waiting: 0 } as const;
    events.state({ ...state, reach: 'away' });
    events.state({ ...state, reach: 'reached' });
    await at(105);
    result = { ...GOOD, ok: false, message: 'The server is not there.' };
    host.run('picture.cut', { picture: 'a' });
    host.run('picture.setNext', { picture: 'c' });
    await at(106);
    await at(107);
    result = GOOD;
    events.connected(true);
    await at(108);
    expect(sent.slice(3).map((s) => s.out.text)).toEqual(['lamp 1 air', 'lamp 1 off', 'lamp 1 off']);
  });

  it('are told to the server while they are on, MIDI to this machine; what is heard is an act, one away is said once', async () => {
    const { device } = add('osc', '1', { path: '/a' });
    const keys = add('midi', 'note 60');
    open();
    expect(set.at(-1)?.map((d) => d.id)).toEqual([device]);
    host.run('device.send', { message: keys.message });
    await vi.advanceTimersByTimeAsync(0);
    expect(midi).toEqual([': note 60']);
    // Nobody waits for it: it stands in the log, and is no act.
    events.heard(device, '/wall/is 3');
    expect([log.line(log.end - 1)?.text, host.desk.air.devices.heard]).toEqual(['/wall/is 3', []]);
    host.run('trigger.add', {
      when: createWhen('device-says', { deviceId: device }),
      then: { kind: 'command', type: 'picture.take', args: {} },
    });
    events.heard(device, '/wall/is 4');
    expect(host.desk.air.devices.heard).toMatchObject([{ deviceId: device, text: '/wall/is 4' }]);
    // What it says while an answer is awaited is taken for that; whoever waits for it hears it all the same.
    result = { ...GOOD, answer: '/wall/pressed 2' };
    host.run('device.send', { message: host.desk.show.devices[0]!.messages[0]!.id });
    await vi.advanceTimersByTimeAsync(0);
    expect(host.desk.air.devices.heard.map((h) => h.text)).toEqual(['/wall/is 4', '/wall/pressed 2']);
    const away = { kind: 'state', deviceId: device, reach: 'away', message: 'nobody listens at this port', waiting: 2 } as const;
    events.state(away);
    events.state({ ...away, waiting: 3 });
    expect(host.notices).toHaveLength(1);
    expect(host.state().devices[device]).toMatchObject({ reach: 'away', waiting: 3 });
    host.run('device.switch', { device, on: false });
    expect(set.at(-1)).toEqual([]);
    expect(host.state().devices[device]).toBeUndefined();
  });
});
