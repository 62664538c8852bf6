/** The room Automation: macros, the running order, triggers; one page of it at a time. */
import { lazy, Suspense } from 'react';
import { Play } from 'lucide-react';
import { type AutomationPage } from '#core/control/rooms';
import { useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { Tabs } from '../parts/tabs';
import { CommandDialog, NowDialog } from './add-dialogs';
import { ButtonsPage } from './buttons-page';
import { DevicesPage } from './devices-page';
import { AskDialog } from './asks-panel';
import { DryPanel } from './dry-panel';
import { runMacro } from './edits';
import { LinesToSteps } from './log-actions';
import { LogPanel } from './log-panel';
import { MacroList } from './macro-list';
import { MacroPanel } from './macro-panel';
import { OrderPage } from './order-page';
import { openMacro, setAutomationRoom, useAutomationRoom } from './room-state';
import { StepList } from './step-list';
import { StepPanel } from './step-panel';
import { openTrigger, TriggerForm, TriggerList, TriggerLog } from './trigger-panel';
import { COLUMNS } from '../parts/columns';

/** The editor is large, and wanted by few: it comes when it is opened. */
const MacroText = lazy(() => import('./macro-text'));

/** A page: what there is, what is open of it, and what can be set or seen of that. */
const PAGE = `${COLUMNS} h-full grid-cols-[284px_minmax(0,1fr)_380px] max-wide:grid-cols-[216px_minmax(0,1fr)_292px]`;

function MacrosPage() {
  const client = useShowClient();
  const automation = useShow(({ desk }) => desk.show.automation);
  const { macroId, chosen, side, view } = useAutomationRoom();
  const macro = openMacro({ automation }, macroId);
  return (
    <div className={PAGE}>
      <nav className="flex min-h-0 flex-col border-r border-line" {...region('macros', 'Macros')}>
        <MacroList macro={macro} />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col" {...region('steps', 'Steps')}>
        {macro ? (
          <>
            <header className="flex shrink-0 items-center gap-2 px-2 pt-1.5">
              <h2
                className="min-w-0 flex-1 truncate text-lg font-semibold"
                style={{ borderLeft: `4px solid ${macro.colour}`, paddingLeft: 8 }}
              >
                {macro.name}
              </h2>
              <span role="group" aria-label="Steps as a list or as text" className="flex gap-1">
                <Button
                  pressed={view === 'list'}
                  title="Steps as a list"
                  keyFor="macros.view"
                  onClick={() => setAutomationRoom({ view: 'list' })}
                >
                  List
                </Button>
                <Button
                  pressed={view === 'text'}
                  title="The same as text"
                  keyFor="macros.view"
                  onClick={() => setAutomationRoom({ view: 'text' })}
                >
                  Text
                </Button>
              </span>
              <Button
                look="straw"
                title="Run it from the next frame on"
                keyFor="macros.run"
                unusable={macro.steps.some((s) => s.on) ? null : 'It has no steps that are on.'}
                onClick={() => runMacro(client, macro)}
              >
                <Play size={15} /> Run
              </Button>
            </header>
            {view === 'list' ? (
              <StepList macro={macro} />
            ) : (
              <Suspense fallback={<p className="p-4 text-muted">The editor comes…</p>}>
                <MacroText key={macro.id} macro={macro} />
              </Suspense>
            )}
            <CommandDialog macro={macro} />
            <NowDialog macro={macro} />
          </>
        ) : (
          <p className="p-6 text-muted">
            A macro does at one press what you would do with many. Record one, or add one and choose its steps.
          </p>
        )}
      </section>
      <aside className="flex min-h-0 flex-col border-l border-line" {...region('settings', 'What it does')}>
        {macro && (
          <Tabs
            label="What it does"
            value={side}
            onChange={(value) => setAutomationRoom({ side: value as typeof side })}
            tabs={[
              { value: 'try', label: 'Try it dry', content: <DryPanel key={macro.id} macro={macro} /> },
              {
                value: 'step',
                label: chosen.length > 1 ? `${chosen.length} steps` : 'Step',
                content: <StepPanel macro={macro} steps={macro.steps.filter((s) => chosen.includes(s.id))} />,
              },
              { value: 'macro', label: 'Macro', content: <MacroPanel key={macro.id} macro={macro} /> },
              {
                value: 'log',
                label: 'Log',
                content: <LogPanel first={['Done', 'Out']} actions={(lines) => <LinesToSteps lines={lines} macro={macro} />} />,
              },
            ]}
          />
        )}
      </aside>
    </div>
  );
}

function TriggersPage() {
  const automation = useShow(({ desk }) => desk.show.automation);
  const trigger = openTrigger(
    { automation },
    useAutomationRoom((s) => s.triggerId),
  );
  return (
    <div className={PAGE}>
      <nav className="flex min-h-0 flex-col border-r border-line" {...region('macros', 'Triggers')}>
        <TriggerList trigger={trigger} />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col" {...region('steps', 'What happens')}>
        {trigger ? (
          <TriggerForm key={trigger.id} trigger={trigger} />
        ) : (
          <p className="p-6 text-muted">A trigger does something by itself when something happens. Press Trigger to add one.</p>
        )}
      </section>
      <aside className="flex min-h-0 flex-col border-l border-line" {...region('settings', 'What triggers did')}>
        <h2 className="border-b border-line px-3 py-1.5 text-sm font-semibold">What triggers did</h2>
        <TriggerLog />
      </aside>
    </div>
  );
}

export function AutomationRoom() {
  const page = useAutomationRoom((s) => s.page);
  return (
    <main className="flex h-(--room) flex-col overflow-hidden max-beside:h-auto max-beside:overflow-visible">
      <h1 className="sr-only">Automation</h1>
      <AskDialog />
      <Tabs
        label="Pages of the room"
        value={page}
        onChange={(value) => setAutomationRoom({ page: value as AutomationPage })}
        tabs={[
          { value: 'macros', label: 'Macros', content: <MacrosPage /> },
          { value: 'order', label: 'Running order', content: <OrderPage /> },
          { value: 'triggers', label: 'Triggers', content: <TriggersPage /> },
          { value: 'devices', label: 'Devices', content: <DevicesPage /> },
          { value: 'buttons', label: 'Buttons', content: <ButtonsPage /> },
        ]}
      />
    </main>
  );
}
