/** The room Settings: the show, keys, controllers. */
import { type ControlDriver } from '#engine/control/driver';
import { Tabs } from '../parts/tabs';
import { region } from '../parts/region';
import { ConnectionsPanel } from './connections-panel';
import { ControllersPanel } from './controllers-panel';
import { KeysPanel } from './keys-panel';
import { PassesPanel } from './passes-panel';
import { PartsPanel } from './parts-panel';
import { setSettingsRoom, type SettingsTab, useSettingsRoom } from './room-state';
import { ShowSettings } from './show-settings';

/** Settings of the show, and of the person who works it. */
export function SettingsRoom({ controls }: { controls: readonly ControlDriver[] }) {
  const tab = useSettingsRoom((s) => s.tab);
  return (
    <main className="flex h-(--room) flex-col overflow-hidden">
      <h1 className="sr-only">Settings</h1>
      <section className="flex min-h-0 flex-1 flex-col" {...region('settings', 'Settings')}>
        <Tabs
          label="Settings"
          value={tab}
          onChange={(value) => setSettingsRoom({ tab: value as SettingsTab })}
          tabs={[
            { value: 'show', label: 'This show', content: <ShowSettings /> },
            { value: 'passes', label: 'Passes', content: <PassesPanel /> },
            { value: 'parts', label: 'Parts', content: <PartsPanel /> },
            { value: 'keys', label: 'Keys and what is at hand', content: <KeysPanel /> },
            { value: 'connections', label: 'Connections', content: <ConnectionsPanel /> },
            { value: 'controllers', label: 'Controllers', content: <ControllersPanel drivers={controls} /> },
          ]}
        />
      </section>
    </main>
  );
}
