/** The keys of a room, drawn as they lie on the keyboard. */
import clsx from 'clsx';
import { useEffect, useState } from 'react';
import { actionShort, actionWords } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { KEYBOARD } from '#core/control/binding';
import { capOf } from '#core/control/chord';
import { bindingFor } from '#core/control/key-layout';
import { type RoomId } from '#core/control/rooms';
import { useShow } from '../client/show-client';
import { useKeyLayout } from '../client/hands';

const ROWS: string[][] = [
  ['Escape', 'F1', 'F2', 'F3', 'F4', 'F6', 'F7', 'F8', 'F9', 'F10'],
  ['Backquote', 'Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9', 'Digit0'],
  ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP', 'BracketLeft', 'BracketRight'],
  ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL', 'Semicolon', 'Enter'],
  ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma', 'Period', 'Slash'],
  ['Space', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown', 'Delete'],
];

/** Pixels that a row is moved in, as rows are on a keyboard. */
const INDENT = [0, 0, 14, 28, 42, 0];

interface Held {
  shift: boolean;
  ctrl: boolean;
  alt: boolean;
}

/** Which of Shift, Ctrl and Alt are held. */
function useHeld(): Held {
  const [held, setHeld] = useState({ shift: false, ctrl: false, alt: false });
  useEffect(() => {
    const read = (e: KeyboardEvent) => setHeld({ shift: e.shiftKey, ctrl: e.ctrlKey || e.metaKey, alt: e.altKey });
    window.addEventListener('keydown', read, true);
    window.addEventListener('keyup', read, true);
    return () => {
      window.removeEventListener('keydown', read, true);
      window.removeEventListener('keyup', read, true);
    };
  }, []);
  return held;
}

const MODIFIERS = [
  ['Shift', 'shift'],
  ['Alt', 'alt'],
  ['Ctrl', 'ctrl'],
] as const;

/** The keys of a room as they lie under the hands. Holding Shift, Ctrl or Alt, or pressing their names, shows what they do then. */
export function KeyDrawing({ room, onKey }: { room: RoomId; onKey?: (chord: string) => void }) {
  const layout = useKeyLayout();
  const show = useShow(({ desk }) => desk.show);
  const down = useHeld();
  const [pressed, setPressed] = useState<Held>({ shift: false, ctrl: false, alt: false });
  const held = { shift: down.shift || pressed.shift, ctrl: down.ctrl || pressed.ctrl, alt: down.alt || pressed.alt };
  const prefix = `${held.ctrl ? 'Ctrl+' : ''}${held.alt ? 'Alt+' : ''}${held.shift ? 'Shift+' : ''}`;
  return (
    <div className="flex shrink-0 flex-col gap-1 overflow-x-auto pb-1" role="group" aria-label="Drawing of the keys">
      <div className="flex items-center gap-1 text-muted">
        With
        {MODIFIERS.map(([name, key]) => (
          <button
            key={key}
            type="button"
            aria-pressed={held[key]}
            className={clsx('min-h-7 rounded-[3px] border px-2 text-[13px]', held[key] ? 'border-straw text-straw' : 'border-line')}
            onClick={() => setPressed({ ...pressed, [key]: !pressed[key] })}
          >
            {name}
          </button>
        ))}
        <span>held, or pressed here. Dashed keys mean the same in every room.</span>
      </div>
      {ROWS.map((row, r) => (
        <div key={r} className="flex gap-1" style={{ paddingLeft: INDENT[r] }}>
          {row.map((code) => {
            const binding = bindingFor(layout, room, KEYBOARD, prefix + code);
            const action = binding && findAction(binding.action);
            const words = action && actionWords(action, binding.args, show);
            const cap = (
              <>
                <span className="figures text-[13px] leading-none text-muted">{code === 'Backquote' ? '`' : capOf(code)}</span>
                <span className="line-clamp-2 text-[13px] leading-tight break-words">
                  {action ? actionShort(action, binding.args, show) : ''}
                </span>
              </>
            );
            const look = clsx(
              'flex h-[52px] flex-col justify-between overflow-hidden rounded-[3px] border px-1.5 py-1 text-left',
              code === 'Space' ? 'w-32' : 'w-[72px]',
              action ? (binding.room === 'all' ? 'border-straw/60 border-dashed' : 'border-straw bg-raised') : 'border-line text-muted',
            );
            return onKey ? (
              <button key={code} type="button" title={words ?? 'Nothing yet'} className={look} onClick={() => onKey(prefix + code)}>
                {cap}
              </button>
            ) : (
              <div key={code} title={words} className={look}>
                {cap}
              </div>
            );
          })}
        </div>
      ))}
    </div>
  );
}
