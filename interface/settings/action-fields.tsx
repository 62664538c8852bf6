/** Choosing an action and what it needs: for keys and controllers alike. */
import { type Action, type ActionArgs } from '#core/control/action';
import { ACTIONS } from '#core/control/actions';
import { KEY_ROOMS, type KeyRoom, ROOMS } from '#core/control/rooms';
import { NumberField } from '../parts/number-field';

export const roomName = (room: KeyRoom): string => (room === 'all' ? 'every room' : ROOMS[room].name);

/** The arguments that an action begins with. */
export const firstArgs = ({ params = [] }: Action): ActionArgs =>
  Object.fromEntries(
    params.filter((p) => !p.optional).map((p) => [p.name, p.kind === 'word' ? (p.words[0] ?? '') : Math.max(p.min, Math.min(p.max, 1))]),
  );

/** The room in which a key counts. */
export function RoomSelect({ value, onChange }: { value: KeyRoom; onChange: (room: KeyRoom) => void }) {
  return (
    <select aria-label="Where it counts" value={value} onChange={(e) => onChange(e.target.value as KeyRoom)}>
      {KEY_ROOMS.map((room) => (
        <option key={room} value={room}>
          {roomName(room)}
        </option>
      ))}
    </select>
  );
}

/** An action, by its room and group. */
export function ActionSelect({
  label,
  value,
  onChange,
  keep = () => true,
}: {
  label: string;
  value: string;
  onChange: (id: string) => void;
  keep?: (action: Action) => boolean;
}) {
  const groups = new Map<string, Action[]>();
  for (const action of ACTIONS.filter(keep)) {
    const name = `${action.room === 'all' ? 'Every room' : ROOMS[action.room].name} · ${action.group}`;
    groups.set(name, [...(groups.get(name) ?? []), action]);
  }
  return (
    <select aria-label={label} className="w-72" value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">does nothing</option>
      {[...groups].map(([name, actions]) => (
        <optgroup key={name} label={name}>
          {actions.map((a) => (
            <option key={a.id} value={a.id}>
              {a.does.replace(/\{(\w+)\}/g, '…')}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}

const without = (args: ActionArgs, name: string): ActionArgs => Object.fromEntries(Object.entries(args).filter(([n]) => n !== name));

/** What an action needs besides: which angle, which deck. */
export function ArgsFields({ action, args, onChange }: { action: Action; args: ActionArgs; onChange: (args: ActionArgs) => void }) {
  return (
    <>
      {(action.params ?? []).map((param) =>
        param.kind === 'word' || (param.optional && param.max <= 2) ? (
          <select
            key={param.name}
            aria-label={param.label}
            value={String(args[param.name] ?? '')}
            onChange={(e) => {
              const rest = without(args, param.name);
              onChange(
                e.target.value === '' ? rest : { ...rest, [param.name]: param.kind === 'word' ? e.target.value : Number(e.target.value) },
              );
            }}
          >
            {param.optional && <option value="">{param.name === 'deck' ? 'the chosen deck' : 'none'}</option>}
            {(param.kind === 'word' ? param.words : ['1', '2']).map((word) => (
              <option key={word} value={word}>
                {param.kind === 'word' ? (param.names?.[word] ?? word) : `deck ${word}`}
              </option>
            ))}
          </select>
        ) : (
          <label key={param.name} className="flex items-center gap-1 text-[13px] text-muted">
            {param.label}
            <NumberField
              className="w-16"
              label={param.label}
              min={param.optional ? Math.min(0, param.min) : param.min}
              max={param.max}
              value={Number(args[param.name] ?? 0)}
              onCommit={(v) => {
                const rest = without(args, param.name);
                const none = param.optional === true && v < param.min;
                onChange(none ? rest : { ...rest, [param.name]: Math.round(v) });
              }}
            />
          </label>
        ),
      )}
    </>
  );
}
