/** The editor of keys: layouts by name, what each key does in each room, conflicts while binding, files; and what stands at hand. */
import { type ReactNode, useMemo, useState } from 'react';
import { type Action, type ActionArgs, actionWords } from '#core/control/action';
import { ACTIONS } from '#core/control/actions';
import { type Binding, KEYBOARD } from '#core/control/binding';
import { chordName } from '#core/control/chord';
import { MOST_AT_HAND, MOST_SPEEDS } from '#core/control/hands-file';
import { asItComes, bindingsOf, unbind } from '#core/control/key-layout';
import { type RoomId, ROOM_IDS, ROOMS } from '#core/control/rooms';
import { editLayout, setHands, useHands, useKeyLayout } from '../client/hands';
import { say } from '../client/say';
import { KeyDrawing } from '../control/key-drawing';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { useDraft } from '../parts/use-draft';
import { firstArgs, roomName } from './action-fields';
import { BindForm, type Draft } from './bind-form';
import { KeyLayouts } from './key-layouts';

/** An action with the keys that do it. */
function ActionRow({ action, bindings, onBind }: { action: Action; bindings: readonly Binding[]; onBind: (args: ActionArgs) => void }) {
  const layout = useKeyLayout();
  const byArgs = new Map<string, Binding[]>();
  for (const b of bindings) byArgs.set(actionWords(action, b.args), [...(byArgs.get(actionWords(action, b.args)) ?? []), b]);
  const rows: [string, readonly Binding[]][] = byArgs.size > 0 ? [...byArgs] : [[action.does.replace(/\{(\w+)\}/g, '…'), []]];
  return (
    <>
      {rows.map(([words, list]) => (
        <tr key={words} className="border-b border-line">
          <td className="py-1 pr-3">{words}</td>
          <td className="py-1">
            <span className="flex flex-wrap items-center gap-1">
              {list.map((b) => {
                const changed = layout.changes.some((c) => c.device === b.device && c.control === b.control && c.room === b.room);
                return (
                  <span key={`${b.room} ${b.control}`} className="figures flex items-center border border-line bg-raised pl-2 text-[13px]">
                    <span className={changed ? 'text-straw' : ''}>{chordName(b.control)}</span>
                    <button
                      type="button"
                      aria-label={`${chordName(b.control)} no longer does this`}
                      className="grid h-7 w-6 place-items-center text-muted hover:text-text"
                      onClick={() => editLayout((l) => unbind(l, b))}
                    >
                      ×
                    </button>
                  </span>
                );
              })}
              <button
                type="button"
                className="min-h-7 px-1.5 text-[13px] text-muted hover:text-straw"
                aria-label={`Another key for ${words}`}
                onClick={() => onBind(list[0]?.args ?? firstArgs(action))}
              >
                + key
              </button>
            </span>
          </td>
        </tr>
      ))}
    </>
  );
}

/** What stands at hand: transitions on the rail, speeds beside the decks. */
function AtHand() {
  const { transitionsAtHand, speeds } = useHands();
  const [text, setText] = useDraft(speeds.join(' '));
  const [error, setError] = useState<string | null>(null);
  const commit = () => {
    const list = text
      .split(/[ ,;]+/)
      .filter(Boolean)
      .map(Number);
    if (list.length > MOST_SPEEDS || list.some((n) => !Number.isInteger(n) || n < 1 || n > 200))
      return setError('Up to six whole numbers from 1 to 200.');
    setError(null);
    return setHands({ speeds: list });
  };
  return (
    <section className="flex flex-wrap items-end gap-4" aria-label="At hand">
      <NumberField
        className="w-44"
        showLabel
        label="Transitions on the rail"
        min={0}
        max={MOST_AT_HAND}
        value={transitionsAtHand}
        onCommit={(n) => setHands({ transitionsAtHand: Math.round(n) })}
      />
      <label className="flex flex-col gap-0.5">
        <span className="text-xs text-muted">Speeds beside the decks, %</span>
        <input
          className="figures w-52"
          aria-invalid={error !== null}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => e.key === 'Enter' && commit()}
        />
        {error && (
          <span role="alert" className="text-xs text-air">
            {error}
          </span>
        )}
      </label>
    </section>
  );
}

/** The editor of keys. */
export function KeysPanel() {
  const layout = useKeyLayout();
  const [room, setRoom] = useState<RoomId>('desk');
  const [draft, setDraft] = useState<Draft | null>(null);
  const [search, setSearch] = useState('');
  const bindings = useMemo(
    () => bindingsOf(layout).filter((b) => b.device === KEYBOARD && (b.room === room || b.room === 'all')),
    [layout, room],
  );
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const shown = ACTIONS.filter((a) => a.takes === 'press')
    .filter((a) => a.room === room || a.room === 'all' || bindings.some((b) => b.action === a.id) || words.length > 0)
    .filter((a) =>
      words.every((w) =>
        `${a.does} ${a.group} ${bindings
          .filter((b) => b.action === a.id)
          .map((b) => chordName(b.control))
          .join(' ')}`
          .toLowerCase()
          .includes(w),
      ),
    );
  const groups = new Map<string, Action[]>();
  for (const action of shown) {
    const name =
      action.room === 'all'
        ? `In every room · ${action.group}`
        : action.room === room
          ? action.group
          : `${roomName(action.room)} · ${action.group}`;
    groups.set(name, [...(groups.get(name) ?? []), action]);
  }
  const changes = layout.changes.filter((c) => c.device === KEYBOARD);
  return (
    <div className="mx-auto flex max-w-5xl flex-col gap-4 p-4">
      <KeyLayouts />
      <AtHand />
      <div className="flex flex-wrap items-center gap-1" role="group" aria-label="Keys of the room">
        {ROOM_IDS.map((r) => (
          <Button key={r} pressed={r === room} onClick={() => setRoom(r)}>
            {ROOMS[r].name}
          </Button>
        ))}
        <input
          aria-label="Search actions and keys"
          placeholder="Search: take, Shift 3…"
          className="ml-auto w-56"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
        />
      </div>
      {draft && (
        <BindForm
          draft={draft}
          onChange={setDraft}
          onDone={(chord) => {
            setDraft(null);
            say.good(`${chordName(chord)} is bound.`, { id: 'bind' });
          }}
        />
      )}
      <KeyDrawing room={room} onKey={(chord) => setDraft({ room, chord, action: '', args: {} })} />
      {changes.length > 0 && (
        <p className="flex flex-wrap items-center gap-1 text-[13px] text-muted">
          Changed:
          {changes.map((c) => (
            <Button
              key={`${c.room} ${c.control}`}
              className="figures"
              title={`As it comes again, in ${roomName(c.room)}`}
              onClick={() => editLayout((l) => asItComes(l, c))}
            >
              {chordName(c.control)} ↺
            </Button>
          ))}
        </p>
      )}
      <table className="w-full">
        <tbody>
          {[...groups].map(([name, actions]) => (
            <ActionGroup key={name} name={name}>
              {actions.map((action) => (
                <ActionRow
                  key={action.id}
                  action={action}
                  bindings={bindings.filter((b) => b.action === action.id)}
                  onBind={(args) => setDraft({ room: action.room === 'all' ? 'all' : room, chord: null, action: action.id, args })}
                />
              ))}
            </ActionGroup>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function ActionGroup({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <tr>
        <th scope="rowgroup" colSpan={2} className="pt-3 pb-1 text-left font-semibold text-straw">
          {name}
        </th>
      </tr>
      {children}
    </>
  );
}
