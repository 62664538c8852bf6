/** The chosen step: its arguments with the things of the show to choose from, its note, and copies of it with one value swept. */
import { useState } from 'react';
import { type CommandAct, type Macro, type Step, type UntilAct, UNTIL_EVENTS, type WaitAct } from '#core/automation/document';
import { WAITS } from '#core/automation/waits';
import { untilAct } from '#core/automation/create';
import { namedBy } from '#core/automation/words';
import { REF_TARGETS } from '#core/schema/kinds';
import { entitiesOf, nameOf } from '#core/desk/entities';
import { findCommand } from '#core/desk/registry';
import { fieldsOf } from '#core/schema/fields';
import { say } from '../client/say';
import { useSend, useShow, useShowClient } from '../client/show-client';
import { choicesOf } from '../shell/argument-choices';
import { labelOf } from '../shell/argument-form';
import { Button } from '../parts/button';
import { Check, Choice, Line, Num, ThingChoice, TimeOfDayField } from '../parts/fields';
import { NumberField } from '../parts/number-field';
import { CommandFields } from './command-fields';

function WaitFields({ act, onChange }: { act: WaitAct; onChange: (act: WaitAct) => void }) {
  return (
    <div className="flex items-end gap-1">
      <NumberField
        showLabel
        label="How long"
        digits={act.unit === 'frames' ? 0 : 2}
        min={0}
        max={86_400}
        value={act.amount}
        onCommit={(amount) => onChange({ ...act, amount })}
      />
      <select
        aria-label="Unit of the wait"
        value={act.unit}
        onChange={(e) => onChange({ ...act, unit: e.target.value as WaitAct['unit'] })}
      >
        <option value="seconds">seconds</option>
        <option value="frames">frames</option>
      </select>
    </div>
  );
}

function UntilFields({ act, onChange }: { act: UntilAct; onChange: (act: UntilAct) => void }) {
  const show = useShow(({ desk }) => desk.show);
  const { of } = WAITS[act.event];
  const id = of ? act[of.field] : null;
  return (
    <>
      <Choice
        label="It waits until"
        value={act.event}
        all={UNTIL_EVENTS.map((event) => [event, WAITS[event].words] as const)}
        onChange={(event) => onChange(untilAct(event))}
      />
      {of && (
        <ThingChoice
          label={`Which ${REF_TARGETS[of.to].words}`}
          value={typeof id === 'string' ? id : null}
          all={entitiesOf(show, of.to)}
          onChange={(next) => onChange({ ...act, [of.field]: next })}
        />
      )}
      {act.event === 'roll' && (
        <Num
          label="Deck"
          digits={0}
          min={1}
          max={2}
          value={act.deck ?? 1}
          onCommit={(deck) => onChange({ ...act, deck: deck === 2 ? 2 : 1 })}
        />
      )}
      {act.event === 'time' && <TimeOfDayField label="Time of day" value={act.time} onChange={(time) => onChange({ ...act, time })} />}
    </>
  );
}

/** Copies of a step, one for each of several values of one argument. */
function Sweep({ macro, step, act }: { macro: Macro; step: Step; act: CommandAct }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const spec = findCommand(act.type);
  const fields = spec
    ? fieldsOf(spec.args).filter((f) => (f.ref && !f.ref.list) || ['string', 'number'].includes(typeof act.args[f.name]))
    : [];
  const [name, setName] = useState('');
  const [values, setValues] = useState<readonly string[]>([]);
  const [typed, setTyped] = useState('');
  const [wait, setWait] = useState(0);
  const field = fields.find((f) => f.name === name) ?? fields[0];
  if (!field) return null;
  const choices = field.ref ? choicesOf(field, show)?.filter((c) => typeof c.value === 'string') : null;
  const wanted = choices
    ? values
    : typed
        .split(',')
        .map((v) => v.trim())
        .filter(Boolean);
  return (
    <details className="border-t border-line pt-2">
      <summary className="cursor-pointer text-sm font-semibold">One of these for each of…</summary>
      <div className="mt-1 flex flex-col gap-1.5">
        <select aria-label="What is swept" value={field.name} onChange={(e) => (setName(e.target.value), setValues([]))}>
          {fields.map((f) => (
            <option key={f.name} value={f.name}>
              {labelOf(f)}
            </option>
          ))}
        </select>
        {choices ? (
          <ul className="max-h-40 overflow-y-auto border border-line p-1" aria-label="Values">
            {choices.slice(0, 300).map((c) => {
              const id = String(c.value);
              return (
                <li key={id}>
                  <label className="flex min-h-7 items-center gap-2 text-sm">
                    <input
                      type="checkbox"
                      checked={values.includes(id)}
                      onChange={(e) => setValues((now) => (e.target.checked ? [...now, id] : now.filter((v) => v !== id)))}
                    />
                    {c.label}
                  </label>
                </li>
              );
            })}
          </ul>
        ) : (
          <input
            aria-label="Values, parted by commas"
            placeholder="Values, parted by commas"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        )}
        <div className="flex items-end gap-1">
          <NumberField showLabel label="Wait between, s" digits={2} min={0} max={86_400} value={wait} onCommit={setWait} />
          <Button
            unusable={wanted.length === 0 ? 'Choose values first.' : null}
            onClick={() => {
              const done = client.dispatch({
                type: 'step.sweep',
                args: { macro: macro.id, step: step.id, argument: field.name, values: wanted, ...(wait > 0 && { wait }) },
              });
              if (!done.ok) say.caution(done.error.message);
              else setValues([]);
            }}
          >
            Make {wanted.length} {wanted.length === 1 ? 'step' : 'steps'}
          </Button>
          <Button
            title="A macro for each, all else as in this one"
            unusable={wanted.length === 0 ? 'Choose values first.' : null}
            onClick={() => {
              const done = client.dispatch({
                type: 'macro.sweep',
                args: { macro: macro.id, step: step.id, argument: field.name, values: wanted },
              });
              if (!done.ok) say.caution(done.error.message);
              else say.good(`${wanted.length} ${wanted.length === 1 ? 'macro' : 'macros'} made.`);
            }}
          >
            or macros
          </Button>
        </div>
      </div>
    </details>
  );
}

/** Another thing in the place of one, in all chosen steps. */
function Replace({ macro, steps }: { macro: Macro; steps: readonly Step[] }) {
  const client = useShowClient();
  const show = useShow(({ desk }) => desk.show);
  const named = new Map(steps.flatMap(({ act }) => (act.kind === 'command' ? namedBy(act).map(({ id, to }) => [id, to] as const) : [])));
  const [from, setFrom] = useState('');
  const [to, setTo] = useState('');
  const first = named.has(from) ? from : [...named.keys()][0];
  const kind = first === undefined ? undefined : named.get(first);
  if (first === undefined || kind === undefined) return null;
  return (
    <details className="border-t border-line pt-2">
      <summary className="cursor-pointer text-sm font-semibold">Put another thing in its place…</summary>
      <div className="mt-1 flex flex-col gap-1.5">
        <select aria-label="What is replaced" value={first} onChange={(e) => setFrom(e.target.value)}>
          {[...named].map(([id, target]) => (
            <option key={id} value={id}>
              {nameOf(show, target, id)}
            </option>
          ))}
        </select>
        <ThingChoice label="By what" value={to || null} all={entitiesOf(show, kind)} onChange={(id) => setTo(id ?? '')} />
        <Button
          unusable={to === '' ? 'Choose what takes its place.' : null}
          onClick={() => {
            const done = client.dispatch({
              type: 'step.replace',
              args: { macro: macro.id, steps: steps.map((s) => s.id), from: first, to },
            });
            if (done.ok) say.good(`${String(done.result.changed)} steps changed.`);
            else say.caution(done.error.message);
          }}
        >
          Replace in {steps.length} {steps.length === 1 ? 'step' : 'steps'}
        </Button>
      </div>
    </details>
  );
}

export function StepPanel({ macro, steps }: { macro: Macro; steps: readonly Step[] }) {
  const send = useSend();
  const [step] = steps;
  if (!step) return <p className="p-3 text-sm text-muted">Choose a step: what it does can be changed here. Shift adds others.</p>;
  const set = (change: object) => send('step.set', { macro: macro.id, steps: steps.map((s) => s.id), ...change });
  const { act } = step;
  return (
    <div className="flex flex-col gap-2 p-3" key={step.id}>
      {steps.length > 1 ? (
        <p className="text-sm">{steps.length} steps are chosen: what is set here is set for all of them.</p>
      ) : act.kind === 'command' ? (
        <CommandFields act={act} asks={macro.asks} onChange={(next) => set({ act: next })} />
      ) : act.kind === 'wait' ? (
        <WaitFields act={act} onChange={(next) => set({ act: next })} />
      ) : (
        <UntilFields act={act} onChange={(next) => set({ act: next })} />
      )}
      <Check label="together with the step before: all or none" on={step.joined} onChange={(joined) => set({ joined })} />
      <Line showLabel empty label="Note" value={step.note} max={200} onSave={(note) => set({ note })} />
      <Line showLabel empty label="Group" value={step.group} max={40} onSave={(group) => set({ group })} />
      {steps.length === 1 && act.kind === 'command' && <Sweep macro={macro} step={step} act={act} />}
      <Replace macro={macro} steps={steps} />
    </div>
  );
}
