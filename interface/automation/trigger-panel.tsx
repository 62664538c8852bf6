/** Triggers: the list of them, what happens and what is done then, and the log of what they did. */
import { Plus, Trash2, X } from 'lucide-react';
import { createWhen } from '#core/automation/create';
import { type CommandAct } from '#core/automation/document';
import { canBeStep } from '#core/automation/record';
import { type Condition, type Trigger } from '#core/automation/document';
import { actWords, sentence } from '#core/automation/words';
import { whenWords } from '#core/automation/events';
import { COMMANDS } from '#core/desk/registry';
import { type Show } from '#core/desk/show';
import { formatTimecode } from '#core/time/timecode';
import { say } from '../client/say';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { Button } from '../parts/button';
import { IconButton } from '../parts/icon-button';
import { Check, Choice, Line } from '../parts/fields';
import { NumberField } from '../parts/number-field';
import { setAutomationRoom } from './room-state';
import { CommandFields } from './command-fields';
import { ALL_EVENTS, ALL_STATES, WhenFields } from './when-fields';

export const openTrigger = ({ automation }: Pick<Show, 'automation'>, id: string | null): Trigger | undefined =>
  automation.triggers.find((t) => t.id === id) ?? automation.triggers[0];

export function TriggerList({ trigger }: { trigger: Trigger | undefined }) {
  const client = useShowClient();
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const { held, states } = useShow(({ desk: { air } }) => ({ held: air.automation.held, states: air.automation.triggers }));
  const { triggers, macros } = show.automation;
  const any = triggers.some((t) => t.armed);
  const add = () => {
    const macro = macros[0]?.id;
    const then: CommandAct =
      macro === undefined ? { kind: 'command', type: 'picture.take', args: {} } : { kind: 'command', type: 'macro.run', args: { macro } };
    const done = client.dispatch({ type: 'trigger.add', args: { when: createWhen('on-air'), then } });
    if (done.ok) setAutomationRoom({ triggerId: String(done.result.id) });
    else say.caution(done.error.message);
  };
  return (
    <>
      <div className="flex shrink-0 flex-wrap gap-1 border-b border-line p-1.5">
        <Button title="New trigger" onClick={add}>
          <Plus size={15} /> Trigger
        </Button>
        <Button
          title={any ? 'Disarm all of them' : 'Arm all of them'}
          unusable={triggers.length === 0 ? 'There are no triggers yet.' : null}
          onClick={() => send('trigger.armAll', { armed: !any })}
        >
          {any ? 'Disarm all' : 'Arm all'}
        </Button>
        <Button
          pressed={held}
          title="Macros are paused and no trigger acts, until it is pressed again"
          keyFor="automation.holdAll"
          onClick={() => send('automation.holdAll')}
        >
          {held ? 'Held' : 'Hold all'}
        </Button>
      </div>
      <ul className="min-h-0 flex-1 overflow-y-auto" aria-label="Triggers">
        {triggers.map((t) => (
          <li key={t.id} className={`flex items-center border-b border-line ${t.id === trigger?.id ? 'bg-raised' : ''}`}>
            <input
              type="checkbox"
              className="ml-2"
              aria-label={`${t.name} is armed`}
              title="Armed"
              checked={t.armed}
              onChange={(e) => send('trigger.set', { trigger: t.id, armed: e.target.checked })}
            />
            <button
              type="button"
              aria-pressed={t.id === trigger?.id}
              className={`flex min-w-0 flex-1 flex-col px-2 py-1 text-left ${t.armed ? '' : 'opacity-60'}`}
              onClick={() => setAutomationRoom({ triggerId: t.id })}
            >
              <span className="truncate">{t.name}</span>
              <span className="truncate text-[13px] text-muted">
                {whenWords(show, t.when)}
                {(states[t.id]?.acted ?? 0) > 0 && <span className="text-next"> · {states[t.id]?.acted}×</span>}
              </span>
            </button>
          </li>
        ))}
        {triggers.length === 0 && (
          <li className="p-3 text-sm text-muted">
            No triggers yet. A trigger does something by itself when something happens, such as running a macro when a clock ends.
          </li>
        )}
      </ul>
    </>
  );
}

export function TriggerForm({ trigger }: { trigger: Trigger }) {
  const send = useSend();
  const show = useShow(({ desk }) => desk.show);
  const set = (change: object) => send('trigger.set', { trigger: trigger.id, ...change });
  const setConditions = (conditions: Condition[]) => send('trigger.setConditions', { trigger: trigger.id, conditions });
  const commands = COMMANDS.filter(canBeStep);
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3">
      <div className="flex items-end gap-2">
        <Line showLabel max={60} label="Name of the trigger" value={trigger.name} onSave={(name) => set({ name })} />
        <Button
          look="quiet"
          aria-label="Remove this trigger"
          title="Remove this trigger"
          onClick={() => send('trigger.remove', { trigger: trigger.id })}
        >
          <Trash2 size={15} />
        </Button>
      </div>
      <p className="text-lg">
        When <strong>{whenWords(show, trigger.when)}</strong>, then <strong>{sentence(actWords(show, trigger.then))}</strong>.
      </p>
      <section aria-label="When" className="border-t border-line pt-2">
        <WhenFields when={trigger.when} label="When" events={ALL_EVENTS} onChange={(when) => set({ when })} />
      </section>
      <section aria-label="Only if" className="flex flex-col gap-2 border-t border-line pt-2">
        {trigger.conditions.map((c, i) => (
          <div key={i} className="flex items-end gap-2">
            <select
              aria-label={`Condition ${i + 1} has to be so, or must not`}
              value={c.so ? 'so' : 'not'}
              onChange={(e) =>
                setConditions(trigger.conditions.map((old, at) => (at === i ? { ...old, so: e.target.value === 'so' } : old)))
              }
            >
              <option value="so">only if</option>
              <option value="not">only if not</option>
            </select>
            <WhenFields
              when={c.is}
              label={`Condition ${i + 1}`}
              events={ALL_STATES}
              onChange={(is) => setConditions(trigger.conditions.map((old, at) => (at === i ? { ...old, is } : old)))}
            />
            <IconButton label={`Remove condition ${i + 1}`} onClick={() => setConditions(trigger.conditions.filter((_, at) => at !== i))}>
              <X size={14} />
            </IconButton>
          </div>
        ))}
        <div className="flex flex-wrap items-end gap-3">
          <Button
            unusable={trigger.conditions.length >= 8 ? 'A trigger has at most eight conditions.' : null}
            onClick={() => setConditions([...trigger.conditions, { is: createWhen('on-air'), so: true }])}
          >
            <Plus size={14} /> Only if…
          </Button>
          <Check label="once only" on={trigger.once} onChange={(once) => set({ once })} />
          <NumberField
            showLabel
            label="Not more often than every (s)"
            digits={1}
            min={0}
            max={86_400}
            value={trigger.every}
            onCommit={(every) => set({ every })}
          />
        </div>
      </section>
      <section aria-label="Then" className="flex max-w-md flex-col gap-2 border-t border-line pt-2">
        <Choice
          label="Then"
          value={trigger.then.type}
          all={commands.map((c) => [c.type, c.title] as const)}
          onChange={(type) => set({ then: { kind: 'command', type, args: {} } })}
        />
        <CommandFields act={trigger.then} onChange={(then) => set({ then })} />
      </section>
    </div>
  );
}

export function TriggerLog() {
  const { log, rate } = useShow(({ desk: { show, air } }) => ({ log: air.automation.log, rate: show.rate }));
  return (
    <ol className="min-h-0 flex-1 overflow-y-auto p-2" aria-label="What triggers did">
      {[...log].reverse().map((line, i) => (
        <li key={i} className="flex gap-2 border-b border-line py-1 text-[13px]">
          <span className="figures shrink-0 text-muted">{formatTimecode(line.frame, rate)}</span>
          <span className="min-w-0">
            <strong>{line.name}</strong>{' '}
            {line.why === null ? <span className="text-next">acted</span> : <span className="text-caution">did not act: {line.why}</span>}
          </span>
        </li>
      ))}
      {log.length === 0 && (
        <li className="text-sm text-muted">Nothing has happened yet. What triggers do, and why others do not, is kept here.</li>
      )}
    </ol>
  );
}
