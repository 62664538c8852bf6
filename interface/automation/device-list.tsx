/** The devices outside: on and off, and how it stands with each. */
import { Plus } from 'lucide-react';
import { placeWords } from '#core/devices/address';
import { type Device, DEVICE_KINDS, type DeviceKind } from '#core/devices/document';
import { type DeviceStatus } from '#engine/client/state';
import { say } from '../client/say';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { Popover } from '../parts/popover';
import { setAutomationRoom } from './room-state';

export const KIND_WORDS: Record<DeviceKind, string> = {
  http: 'HTTP',
  tcp: 'TCP',
  udp: 'UDP',
  websocket: 'WebSocket',
  osc: 'OSC',
  midi: 'MIDI',
};

/** How it stands with a device, in a word and a tone. */
export function reachWords(device: Device, status: DeviceStatus | undefined): { words: string; tone: string } {
  if (!device.on) return { words: 'off', tone: 'text-muted' };
  if (status?.reach === 'away') return { words: 'AWAY', tone: 'text-caution' };
  if (status?.reach === 'reached') return { words: 'there', tone: 'text-next' };
  return { words: '–', tone: 'text-muted' };
}

export function DeviceList({ device }: { device: Device | undefined }) {
  const client = useShowClient();
  const send = useSend();
  const devices = useShow(({ desk }) => desk.show.devices);
  const status = useShow((s) => s.devices);
  const add = (kind: DeviceKind) => {
    const done = client.dispatch({ type: 'device.add', args: { kind } });
    if (done.ok) setAutomationRoom({ deviceId: String(done.result.id), messageId: null });
    else say.caution(done.error.message);
  };
  return (
    <>
      <div className="flex shrink-0 gap-1 border-b border-line p-1.5">
        <Popover
          label="Kind of device"
          align="start"
          trigger={
            <Button title="New device">
              <Plus size={15} /> Device
            </Button>
          }
        >
          <div className="flex w-36 flex-col gap-1">
            {DEVICE_KINDS.map((kind) => (
              <Button key={kind} onClick={() => add(kind)}>
                {KIND_WORDS[kind]}
              </Button>
            ))}
          </div>
        </Popover>
        <Button
          title="A row of lamps, a projector and a second wall, in a window of their own: to learn and to try against"
          onClick={() => window.open('/pier-devices', 'bivoca-pier-devices', 'popup,width=760,height=560')?.focus()}
        >
          Simulated
        </Button>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Devices">
        {devices.map((d) => {
          const reach = reachWords(d, status[d.id]);
          return (
            <li key={d.id} className={`flex items-center border-b border-line ${d.id === device?.id ? 'bg-raised' : ''}`}>
              <input
                type="checkbox"
                className="ml-2"
                aria-label={`${d.name} is on`}
                title="On: messages are sent to it, and it is heard"
                checked={d.on}
                onChange={(e) => send('device.switch', { device: d.id, on: e.target.checked })}
              />
              <button
                type="button"
                data-device={d.id}
                aria-pressed={d.id === device?.id}
                className={`min-w-0 flex-1 px-2 py-1 text-left ${d.on ? '' : 'opacity-60'}`}
                onClick={() => setAutomationRoom({ deviceId: d.id, messageId: null })}
              >
                <span className="flex items-baseline gap-2">
                  <span className="min-w-0 flex-1 truncate">{d.name}</span>
                  <span className={`figures text-[13px] ${reach.tone}`}>{reach.words}</span>
                </span>
                <span className="block truncate text-[13px] text-muted">
                  {KIND_WORDS[d.settings.kind]} · {placeWords(d.settings)}
                </span>
              </button>
            </li>
          );
        })}
        {devices.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No devices yet. Lights, walls, players and anything else that takes HTTP, TCP, UDP, WebSocket, OSC or MIDI can be told what to
            do, and can set off triggers.
          </li>
        )}
      </ul>
    </>
  );
}
