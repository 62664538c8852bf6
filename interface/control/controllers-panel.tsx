/** Hands-on controllers: which are there, what their keys and wheels do, and learning them. */
import { type ControlRole } from '#core/control/control';
import { type ControlDriver } from '#engine/control/driver';
import { Button } from '../parts/button';
import { REPLAY_ACTIONS } from '../replay/actions';
import { bind, bindingOf, unbind, useControls } from './bindings';

const ROLES: Record<ControlRole, string> = { press: 'presses', jog: 'is the jog', shuttle: 'is the shuttle', speed: 'is the speed' };

/** Binds the control that was moved last. */
function Learn() {
  const last = useControls((s) => s.last);
  const own = useControls((s) => s.own);
  if (!last) return <p className="p-2 text-muted">Press or turn a control: it appears here, and can be given something to do.</p>;
  const { device, control, kind } = last;
  const binding = bindingOf(device, control);
  const mine = own.some((b) => b.device === device && b.control === control);
  const roles: ControlRole[] =
    kind === 'button'
      ? ['press']
      : kind === 'wheel' || kind === 'touch'
        ? ['jog']
        : kind === 'lever'
          ? ['shuttle', 'speed']
          : ['jog', 'shuttle', 'speed'];
  const role = binding?.role ?? '';
  return (
    <div className="flex flex-col gap-1 p-2" role="status">
      <span className="figures text-straw">
        {device} · {control}
      </span>
      <div className="flex flex-wrap items-center gap-1">
        {roles.map((r) =>
          r === 'press' ? (
            <select
              key={r}
              aria-label={`What ${control} does`}
              className="w-64"
              value={binding?.action ?? ''}
              onChange={(e) => bind({ device, control, role: 'press', action: e.target.value })}
            >
              <option value="">does nothing</option>
              {REPLAY_ACTIONS.map((a) => (
                <option key={a.id} value={a.id}>
                  {a.does}
                </option>
              ))}
            </select>
          ) : (
            <Button key={r} pressed={role === r} onClick={() => bind({ device, control, role: r, action: '' })}>
              {ROLES[r]}
            </Button>
          ),
        )}
        {mine && (
          <Button look="quiet" onClick={() => unbind(device, control)}>
            As at first
          </Button>
        )}
      </div>
    </div>
  );
}

/** Controllers: what is connected, and what each control does. */
export function ControllersPanel({ drivers }: { drivers: readonly ControlDriver[] }) {
  const states = useControls((s) => s.states);
  return (
    <div className="flex flex-col">
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
      <h3 className="px-2 pt-2 font-semibold">Learn a control</h3>
      <Learn />
    </div>
  );
}
