/** Hands-on controllers: which are there, what their keys, wheels and levers do, and binding them. */
import { useState } from 'react';
import { type Action, type ActionArgs, actionWords } from '#core/control/action';
import { ACTIONS, findAction } from '#core/control/actions';
import { type Binding } from '#core/control/binding';
import { type ControlEvent } from '#core/control/control';
import { asItComes, bind, bindingsOf, conflictsOf, unbind } from '#core/control/key-layout';
import { PLAIN_TRAVEL, type Travel } from '#core/control/lever';
import { type KeyRoom } from '#core/control/rooms';
import { type ControlDriver } from '#engine/control/driver';
import { editLayout, useKeyLayout } from '../client/hands';
import { useControls } from '../control/controllers';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { ActionSelect, ArgsFields, firstArgs, roomName, RoomSelect } from './action-fields';

/** What an event of this kind can be bound to. */
function fits(kind: ControlEvent['kind'], { takes }: Action): boolean {
  if (kind === 'button') return takes === 'press';
  if (kind === 'wheel' || kind === 'touch') return takes === 'clicks';
  return kind === 'lever' ? takes === 'level' : true;
}

/** How the travel of a lever is read. */
function TravelFields({
  travel,
  pickUp,
  onChange,
}: {
  travel: Travel;
  pickUp: boolean;
  onChange: (travel: Travel, pickUp: boolean) => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <NumberField
        className="w-28"
        showLabel
        label="Dead zone"
        unit="%"
        min={0}
        max={50}
        value={Math.round(travel.deadZone * 100)}
        onCommit={(v) => onChange({ ...travel, deadZone: v / 100 }, pickUp)}
      />
      <NumberField
        className="w-28"
        showLabel
        label="Curve, 1 is even"
        min={1}
        max={4}
        digits={1}
        value={travel.curve}
        onCommit={(curve) => onChange({ ...travel, curve }, pickUp)}
      />
      <label className="flex min-h-8 items-center gap-1.5">
        <input type="checkbox" checked={travel.turned} onChange={(e) => onChange({ ...travel, turned: e.target.checked }, pickUp)} /> the
        other way round
      </label>
      <label className="flex min-h-8 items-center gap-1.5" title="Takes hold only where the thing stands, so that nothing jumps">
        <input type="checkbox" checked={pickUp} onChange={(e) => onChange(travel, e.target.checked)} /> picks up where it stands
      </label>
    </div>
  );
}

/** Binds the control that was moved last. */
function Learn() {
  const last = useControls((s) => s.last);
  const layout = useKeyLayout();
  const [room, setRoom] = useState<KeyRoom>('all');
  if (!last) return <p className="p-2 text-muted">Press, turn or move a control: it appears here, and can be given something to do.</p>;
  const place = { device: last.device, control: last.control, room };
  const same = (b: Binding) => b.device === place.device && b.control === place.control && b.room === room;
  const binding = bindingsOf(layout).find(same);
  const action = binding && findAction(binding.action);
  const set = (change: Partial<Binding>) => editLayout((l) => bind(l, { ...place, action: '', args: {}, ...binding, ...change }));
  const others = conflictsOf(layout, place).filter((c) => c.kind !== 'taken');
  return (
    <div className="flex flex-col gap-2 p-2" role="status" aria-label="The control that was moved last">
      <span className="figures text-lg text-straw">
        {last.device} · {last.control}
      </span>
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-muted">In</span>
        <RoomSelect value={room} onChange={setRoom} />
        <ActionSelect
          label={`What ${last.control} does`}
          value={binding?.action ?? ''}
          keep={(a) => fits(last.kind, a)}
          onChange={(id) => {
            const found = findAction(id);
            if (found)
              set({
                action: id,
                args: firstArgs(found),
                ...(found.takes === 'level'
                  ? { travel: PLAIN_TRAVEL, pickUp: found.id !== 'replay.shuttle' }
                  : { travel: undefined, pickUp: undefined }),
              });
            else editLayout((l) => unbind(l, place));
          }}
        />
        {action && <ArgsFields action={action} args={binding.args} onChange={(args: ActionArgs) => set({ args })} />}
        {layout.changes.some(same) && (
          <Button look="quiet" onClick={() => editLayout((l) => asItComes(l, place))}>
            As it comes
          </Button>
        )}
      </div>
      {action?.takes === 'level' && (
        <TravelFields
          travel={binding?.travel ?? PLAIN_TRAVEL}
          pickUp={binding?.pickUp ?? false}
          onChange={(travel, pickUp) => set({ travel, pickUp })}
        />
      )}
      {others.map((c) => (
        <p key={c.text} className="text-[13px] text-caution">
          {c.text}
        </p>
      ))}
    </div>
  );
}

/** What the controls of one kind do, in the layout in use. */
function Bound({ device, label }: { device: string; label: string }) {
  const layout = useKeyLayout();
  const list = bindingsOf(layout).filter((b) => b.device === device);
  return (
    <section aria-label={`Bound on ${label}`}>
      <h3 className="text-xs font-semibold text-muted">{label}</h3>
      {list.length === 0 && <p className="text-[13px] text-muted">Nothing yet: move a control.</p>}
      <ul className="grid grid-cols-3 gap-x-4 max-beside:grid-cols-1">
        {list.map((b) => {
          const action = findAction(b.action);
          const room = b.room === 'all' ? '' : ` · ${roomName(b.room)}`;
          return (
            <li key={`${b.room} ${b.control}`} className="flex items-center gap-2 text-[13px]">
              <span className="figures w-24 shrink-0 truncate text-straw">{b.control}</span>
              <span className="min-w-0 flex-1 truncate" title={action ? actionWords(action, b.args) : b.action}>
                {action ? actionWords(action, b.args) : b.action}
                {room}
              </span>
              <button
                type="button"
                aria-label={`${b.control} does nothing`}
                className="grid h-7 w-6 place-items-center text-muted hover:text-text"
                onClick={() => editLayout((l) => unbind(l, b))}
              >
                ×
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** Controllers: what is connected, and what each control does. */
export function ControllersPanel({ drivers }: { drivers: readonly ControlDriver[] }) {
  const states = useControls((s) => s.states);
  return (
    <div className="mx-auto flex max-w-3xl flex-col gap-2 p-4">
      <h2 className="text-lg font-semibold">Move a control to bind it</h2>
      <Learn />
      <h2 className="text-lg font-semibold">What is connected</h2>
      <ul aria-label="Controllers">
        {drivers.map(({ id, label, choose }) => (
          <li key={id} className="flex items-center gap-2 border-b border-line p-2">
            <span className="min-w-0 flex-1">
              {label}
              <span className="block truncate text-[13px] text-muted">{states[id] ?? 'not started'}</span>
            </span>
            {choose && <Button onClick={() => void choose().catch(() => undefined)}>Choose…</Button>}
            {id === 'panel' && (
              <Button onClick={() => window.open('/panel', 'bivoca-jog-panel', 'popup,width=420,height=860')}>In a window</Button>
            )}
          </li>
        ))}
      </ul>
      <h2 className="text-lg font-semibold">What is bound</h2>
      {drivers.map(({ id, label }) => (
        <Bound key={id} device={id} label={label} />
      ))}
      <p className="text-muted">
        {ACTIONS.length} things can be bound: to keys, buttons, wheels, levers and pedals. They are kept in the same layouts as the keys.
      </p>
    </div>
  );
}
