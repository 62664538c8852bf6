/** The keys of the room, drawn as they lie on the keyboard. */
import clsx from 'clsx';
import { useEffect, useState } from 'react';
import { findAction } from './actions';
import { REPLAY_KEYS } from './keys';

const ROWS: string[][] = [
  ['Digit1', 'Digit2', 'Digit3', 'Digit4', 'Digit5', 'Digit6', 'Digit7', 'Digit8', 'Digit9', 'Digit0'],
  ['KeyQ', 'KeyW', 'KeyE', 'KeyR', 'KeyT', 'KeyY', 'KeyU', 'KeyI', 'KeyO', 'KeyP', 'BracketLeft', 'BracketRight'],
  ['KeyA', 'KeyS', 'KeyD', 'KeyF', 'KeyG', 'KeyH', 'KeyJ', 'KeyK', 'KeyL', 'Enter'],
  ['KeyZ', 'KeyX', 'KeyC', 'KeyV', 'KeyB', 'KeyN', 'KeyM', 'Comma', 'Period', 'Slash'],
  ['Space', 'ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown', 'Delete', 'Escape'],
];

const CAPS: Record<string, string> = {
  BracketLeft: '[',
  BracketRight: ']',
  Comma: ',',
  Period: '.',
  Slash: '/',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'Pg ↑',
  PageDown: 'Pg ↓',
  Escape: 'Esc',
};

/** Which of Shift, Ctrl and Alt are held. */
function useHeld(): { shift: boolean; ctrl: boolean; alt: boolean } {
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

/** The keys of Replay as they lie under the hands. Holding Shift, Ctrl or Alt shows what they do then. */
export function KeyDrawing() {
  const held = useHeld();
  const plain = !held.shift && !held.ctrl && !held.alt;
  return (
    <div className="flex flex-col gap-1 overflow-x-auto" role="img" aria-label="Drawing of the keys of Replay">
      <p className="text-muted">
        {plain
          ? 'Hold Shift, Alt or Ctrl to see what the keys do then.'
          : `With ${[held.ctrl && 'Ctrl', held.alt && 'Alt', held.shift && 'Shift'].filter(Boolean).join(' ')}`}
      </p>
      {ROWS.map((row, r) => (
        <div key={r} className="flex gap-1" style={{ paddingLeft: r < 4 ? r * 14 : 0 }}>
          {row.map((code) => {
            const key = REPLAY_KEYS.find(
              (k) =>
                k.code === code && (k.shift ?? false) === held.shift && (k.ctrl ?? false) === held.ctrl && (k.alt ?? false) === held.alt,
            );
            const action = key && findAction(key.action);
            return (
              <div
                key={code}
                title={action?.does}
                className={clsx(
                  'flex h-[52px] flex-col justify-between rounded-[3px] border px-1.5 py-1',
                  code === 'Space' ? 'w-32' : 'w-[66px]',
                  action ? 'border-straw bg-raised' : 'border-line text-muted',
                )}
              >
                <span className="figures text-[13px] leading-none text-muted">{CAPS[code] ?? code.replace(/^(Key|Digit)/, '')}</span>
                <span className="truncate text-[13px] leading-tight">{action?.short ?? ''}</span>
              </div>
            );
          })}
        </div>
      ))}
    </div>
  );
}
