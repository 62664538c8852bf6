/** Devices outside: what there are, their messages, and the log to learn from. */
import { useShow } from '../client/show-client';
import { region } from '../parts/region';
import { DeviceForm } from './device-form';
import { DeviceList } from './device-list';
import { LinesToMessages, LinesToSteps } from './log-actions';
import { LogPanel } from './log-panel';
import { useAutomationRoom } from './room-state';
import { COLUMNS } from '../parts/columns';

export function DevicesPage() {
  const devices = useShow(({ desk }) => desk.show.devices);
  const deviceId = useAutomationRoom((s) => s.deviceId);
  const device = devices.find((d) => d.id === deviceId) ?? devices[0];
  return (
    <div className={`${COLUMNS} h-full grid-cols-[252px_minmax(0,1fr)_400px] max-wide:grid-cols-[208px_minmax(0,1fr)_300px]`}>
      <nav className="flex min-h-0 flex-col border-r border-line" {...region('devices', 'Devices')}>
        <DeviceList device={device} />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col" {...region('device', 'Device and messages')}>
        {device ? (
          <DeviceForm key={device.id} device={device} />
        ) : (
          <p className="p-6 text-muted">
            Press Device and say how it is reached. What it is told is written once, and sent by a step, a key or a trigger.
          </p>
        )}
      </section>
      <aside className="flex min-h-0 flex-col border-l border-line" {...region('log', 'Log')}>
        <LogPanel
          actions={(lines) => (
            <>
              <LinesToMessages lines={lines} device={device} />
              <LinesToSteps lines={lines} macro={undefined} />
            </>
          )}
        />
      </aside>
    </div>
  );
}
