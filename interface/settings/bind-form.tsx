/** Binds one key: takes the press, and shows what it would collide with before anything is changed. */
import { useEffect, useRef } from 'react';
import { type ActionArgs, argsProblem } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { KEYBOARD } from '#core/control/binding';
import { chordName, chordOf, chordProblem } from '#core/control/chord';
import { bind, conflictsOf } from '#core/control/key-layout';
import { type KeyRoom } from '#core/control/rooms';
import { editLayout, useKeyLayout } from '../client/hands';
import { say } from '../client/say';
import { Button } from '../parts/button';
import { ActionSelect, ArgsFields, firstArgs, RoomSelect } from './action-fields';

/** What is being bound: a room, a key once it was pressed, an action once it was chosen. */
export interface Draft {
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
export function BindForm({
  draft,
  onChange,
  onDone,
}: {
  draft: Draft;
  onChange: (draft: Draft | null) => void;
  onDone: (chord: string) => void;
}) {
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
