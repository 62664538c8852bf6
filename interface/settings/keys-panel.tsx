/** The editor of keys: layouts by name, what each key does in each room, conflicts while binding, files; and what stands at hand. */
import { Download, Plus, Trash2, Upload } from 'lucide-react';
import { nanoid } from 'nanoid';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type Action, type ActionArgs, actionWords, argsProblem } from '#core/control/action';
import { ACTIONS, findAction } from '#core/control/actions';
import { type Binding, KEYBOARD } from '#core/control/binding';
import { chordName, chordOf, chordProblem } from '#core/control/chord';
import { HandsError, layoutInUse, MOST_AT_HAND, MOST_LAYOUTS, nameFor, readHands, writeHands } from '#core/control/hands-file';
import { asItComes, bind, bindingsOf, conflictsOf, FIRST_LAYOUT, unbind } from '#core/control/key-layout';
import { type KeyRoom, type RoomId, ROOM_IDS, ROOMS } from '#core/control/rooms';
import { editLayout, setHands, useHands, useKeyLayout } from '../client/hands';
import { say } from '../client/say';
import { KeyDrawing } from '../control/key-drawing';
import { Button } from '../parts/button';
import { NumberField } from '../parts/number-field';
import { saveFile } from '../parts/save-file';
import { ActionSelect, ArgsFields, firstArgs, roomName, RoomSelect } from './action-fields';

/** Which layout of keys is in use; new ones, names, files. */
function Layouts() {
  const hands = useHands();
  const now = layoutInUse(hands);
  const own = now.id !== FIRST_LAYOUT.id;
  const [name, setName] = useState(now.name);
  useEffect(() => setName(now.name), [now.name]);
  const picker = useRef<HTMLInputElement>(null);
  const rename = () => {
    const clean = name.trim();
    if (clean === '' || clean === now.name) setName(now.name);
    else setHands({ layouts: hands.layouts.map((l) => (l.id === now.id ? { ...l, name: clean } : l)) });
  };
  const add = () => {
    const id = nanoid(8);
    setHands({ layoutId: id, layouts: [...hands.layouts, { ...now, id, name: nameFor(hands) }] });
  };
  const read = async (file: File) => {
    try {
      const text = await file.text();
      setHands(readHands(text));
      say.good(`${file.name} is in: keys, controllers and what stands at hand.`);
    } catch (error) {
      say.trouble(`${file.name} cannot be read: ${error instanceof HandsError ? error.message : String(error)} Nothing was changed.`);
    }
  };
  return (
    <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Layouts of keys">
      <select aria-label="Layout of keys" value={now.id} onChange={(e) => setHands({ layoutId: e.target.value })}>
        {hands.layouts.map((l) => (
          <option key={l.id} value={l.id}>
            {l.name}
          </option>
        ))}
      </select>
      {own && (
        <input
          aria-label="Name of the layout of keys"
          maxLength={60}
          className="w-40"
          value={name}
          onChange={(e) => setName(e.target.value)}
          onBlur={rename}
          onKeyDown={(e) => e.key === 'Enter' && rename()}
        />
      )}
      <Button onClick={add} unusable={hands.layouts.length >= MOST_LAYOUTS ? `There can be ${MOST_LAYOUTS} layouts of keys.` : null}>
        <Plus size={15} /> New, from this one
      </Button>
      {own && (
        <Button
          look="quiet"
          onClick={() => {
            const before = hands;
            setHands({ layoutId: FIRST_LAYOUT.id, layouts: hands.layouts.filter((l) => l.id !== now.id) });
            say.info(`${now.name} was removed.`, { action: { label: 'Undo', onClick: () => setHands(before) } });
          }}
        >
          <Trash2 size={14} /> Remove
        </Button>
      )}
      <span className="ml-auto flex gap-2">
        <Button
          onClick={() => saveFile(new File([writeHands(hands)], 'bivoca-keys.json', { type: 'application/json' }), 'bivoca-keys.json')}
        >
          <Download size={15} /> Export
        </Button>
        <Button onClick={() => picker.current?.click()}>
          <Upload size={15} /> Import…
        </Button>
        <input
          ref={picker}
          type="file"
          accept="application/json,.json"
          className="hidden"
          aria-label="File with layouts of keys"
          onChange={(e) => {
            const file = e.target.files?.[0];
            e.target.value = '';
            if (file) void read(file);
          }}
        />
      </span>
      <p className="w-full text-[13px] text-muted">
        {own
          ? `${now.changes.length} ${now.changes.length === 1 ? 'key differs' : 'keys differ'} from how it comes.`
          : 'The first change begins a layout of your own; this one stays.'}
      </p>
    </div>
  );
}

/** What is being bound: a room, a key once it was pressed, an action once it was chosen. */
interface Draft {
  room: KeyRoom;
  chord: string | null;
  action: string;
  args: ActionArgs;
}

/** Takes the next key that is pressed. */
function Press({ onKey, onCancel }: { onKey: (chord: string) => void; onCancel: () => void }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.focus();
    const down = (event: KeyboardEvent) => {
      const chord = chordOf(event);
      if (chord === '') return;
      event.preventDefault();
      event.stopImmediatePropagation();
      const problem = chordProblem(chord);
      if (problem) say.caution(problem, { id: 'bind' });
      else onKey(chord);
    };
    window.addEventListener('keydown', down, true);
    return () => window.removeEventListener('keydown', down, true);
  }, [onKey]);
  return (
    <div ref={box} tabIndex={-1} role="status" className="flex items-center gap-2 bg-straw px-3 py-1 font-semibold text-deep">
      Press the key, with Shift, Ctrl or Alt if you like.
      <button type="button" className="underline" onClick={onCancel}>
        Cancel
      </button>
    </div>
  );
}

/** Binds one key: shows what it would collide with before anything is changed. */
function BindForm({ draft, onChange, onDone }: { draft: Draft; onChange: (draft: Draft | null) => void; onDone: (chord: string) => void }) {
  const layout = useKeyLayout();
  const action = findAction(draft.action);
  const place = { device: KEYBOARD, control: draft.chord ?? '', room: draft.room };
  const conflicts = draft.chord === null ? [] : conflictsOf(layout, place);
  const problem = !action ? 'Choose what it should do.' : draft.chord === null ? 'Press a key first.' : argsProblem(action, draft.args);
  return (
    <div className="flex flex-col gap-2 border-l-4 border-straw bg-raised p-3" role="group" aria-label="Bind a key">
      <div className="flex flex-wrap items-center gap-2">
        {draft.chord === null ? (
          <Press onKey={(chord) => onChange({ ...draft, chord })} onCancel={() => onChange(null)} />
        ) : (
          <Button className="figures text-lg!" title="Choose another key" onClick={() => onChange({ ...draft, chord: null })}>
            {chordName(draft.chord)}
          </Button>
        )}
        <span className="text-muted">in</span>
        <RoomSelect value={draft.room} onChange={(room) => onChange({ ...draft, room })} />
        <ActionSelect
          label="What the key does"
          value={draft.action}
          keep={(a) => a.takes === 'press'}
          onChange={(id) => {
            const found = findAction(id);
            onChange({ ...draft, action: id, args: found ? firstArgs(found) : {} });
          }}
        />
        {action && <ArgsFields action={action} args={draft.args} onChange={(args) => onChange({ ...draft, args })} />}
      </div>
      {conflicts.map((c) => (
        <p key={c.text} role="alert" className="text-caution">
          {c.text}
        </p>
      ))}
      <div className="flex gap-2">
        <Button
          look="straw"
          unusable={problem}
          onClick={() => {
            if (draft.chord === null) return;
            editLayout((l) =>
              bind(l, { device: KEYBOARD, control: draft.chord ?? '', room: draft.room, action: draft.action, args: draft.args }),
            );
            onDone(draft.chord);
          }}
        >
          {conflicts.some((c) => c.kind === 'taken') ? 'Bind it all the same' : 'Bind it'}
        </Button>
        <Button onClick={() => onChange(null)}>Leave it</Button>
      </div>
    </div>
  );
}

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
  const [text, setText] = useState(speeds.join(' '));
  const [error, setError] = useState<string | null>(null);
  useEffect(() => setText(speeds.join(' ')), [speeds]);
  const commit = () => {
    const list = text
      .split(/[ ,;]+/)
      .filter(Boolean)
      .map(Number);
    if (list.length > 6 || list.some((n) => !Number.isInteger(n) || n < 1 || n > 200))
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
      <Layouts />
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
            <FragmentGroup key={name} name={name}>
              {actions.map((action) => (
                <ActionRow
                  key={action.id}
                  action={action}
                  bindings={bindings.filter((b) => b.action === action.id)}
                  onBind={(args) => setDraft({ room: action.room === 'all' ? 'all' : room, chord: null, action: action.id, args })}
                />
              ))}
            </FragmentGroup>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function FragmentGroup({ name, children }: { name: string; children: React.ReactNode }) {
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
