/** The room Automation: macros, their steps as sentences, and what a dry run says. */
import { Play } from 'lucide-react';
import { useSend, useShow } from '../client/show-client';
import { Button } from '../parts/button';
import { region } from '../parts/region';
import { useRoving } from '../parts/roving';
import { Tabs } from '../parts/tabs';
import { CommandDialog, NowDialog } from './add-dialogs';
import { DryPanel } from './dry-panel';
import { MacroList } from './macro-list';
import { MacroPanel } from './macro-panel';
import { openMacro, setAutomationRoom, useAutomationRoom } from './room-state';
import { StepList } from './step-list';
import { StepPanel } from './step-panel';
import { openTrigger, TriggerForm, TriggerList, TriggerLog } from './trigger-panel';

export function AutomationRoom() {
  const send = useSend();
  const automation = useShow(({ desk }) => desk.show.automation);
  const { page, macroId, triggerId, chosen, side } = useAutomationRoom();
  const trigger = openTrigger({ automation }, triggerId);
  const macro = openMacro({ automation }, macroId);
  const list = useRoving<HTMLElement>();
  return (
    <main className="grid h-(--room) grid-cols-[284px_minmax(0,1fr)_380px] overflow-hidden max-[1099px]:h-auto max-[1099px]:grid-cols-1 max-[1099px]:overflow-visible">
      <h1 className="sr-only">Automation</h1>
      <nav ref={list} className="flex min-h-0 flex-col border-r border-line" {...region('macros', 'Macros')}>
        <Tabs
          label="Macros or triggers"
          value={page}
          onChange={(value) => setAutomationRoom({ page: value as typeof page })}
          tabs={[
            { value: 'macros', label: 'Macros', content: <MacroList macro={macro} /> },
            { value: 'triggers', label: 'Triggers', content: <TriggerList trigger={trigger} /> },
          ]}
        />
      </nav>
      <section className="flex min-h-0 min-w-0 flex-col" {...region('steps', 'Steps')}>
        {page === 'triggers' ? (
          trigger ? (
            <TriggerForm key={trigger.id} trigger={trigger} />
          ) : (
            <p className="p-6 text-muted">A trigger does something by itself when something happens. Press Trigger to add one.</p>
          )
        ) : macro ? (
          <>
            <header className="flex shrink-0 items-center gap-2 px-2 pt-1.5">
              <h2
                className="min-w-0 flex-1 truncate text-lg font-semibold"
                style={{ borderLeft: `4px solid ${macro.colour}`, paddingLeft: 8 }}
              >
                {macro.name}
              </h2>
              <Button
                look="straw"
                title="Run it from the next frame on"
                keyFor="macros.run"
                unusable={macro.steps.some((s) => s.on) ? null : 'It has no steps that are on.'}
                onClick={() => send('macro.run', { macro: macro.id })}
              >
                <Play size={15} /> Run
              </Button>
            </header>
            <StepList macro={macro} />
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
        {page === 'triggers' && (
          <>
            <h2 className="border-b border-line px-3 py-1.5 text-sm font-semibold">What triggers did</h2>
            <TriggerLog />
          </>
        )}
        {page === 'macros' && macro && (
          <Tabs
            label="What it does"
            value={side}
            onChange={(value) => setAutomationRoom({ side: value as typeof side })}
            tabs={[
              {
                value: 'try',
                label: 'Try it dry',
                content: <DryPanel key={macro.id} macro={macro} />,
              },
              {
                value: 'step',
                label: chosen.length > 1 ? `${chosen.length} steps` : 'Step',
                content: <StepPanel macro={macro} steps={macro.steps.filter((s) => chosen.includes(s.id))} />,
              },
              { value: 'macro', label: 'Macro', content: <MacroPanel key={macro.id} macro={macro} /> },
            ]}
          />
        )}
      </aside>
    </main>
  );
}
