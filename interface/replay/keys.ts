/** Keys of the room Replay, as data: place on the keyboard → action. Some may be held down to repeat. */

export interface ReplayKey {
  code: string;
  shift?: boolean;
  ctrl?: boolean;
  alt?: boolean;
  action: string;
  repeats?: boolean;
}

const digits = (prefix: string, from: number, to: number, change: Partial<ReplayKey>): ReplayKey[] =>
  Array.from({ length: to - from + 1 }, (_, i) => ({ code: `Digit${from + i}`, action: `${prefix}-${from + i}`, ...change }));

export const REPLAY_KEYS: readonly ReplayKey[] = [
  { code: 'Space', action: 'toggle' },
  { code: 'KeyJ', action: 'back' },
  { code: 'KeyK', action: 'pause' },
  { code: 'KeyL', action: 'on' },
  { code: 'KeyJ', shift: true, action: 'reverse' },
  { code: 'ArrowLeft', action: 'step-back', repeats: true },
  { code: 'ArrowRight', action: 'step', repeats: true },
  { code: 'ArrowLeft', shift: true, action: 'step-back-10', repeats: true },
  { code: 'ArrowRight', shift: true, action: 'step-10', repeats: true },
  { code: 'End', action: 'live' },
  { code: 'Home', action: 'oldest' },
  { code: 'KeyQ', action: 'speed-25' },
  { code: 'KeyQ', shift: true, action: 'speed-33' },
  { code: 'KeyW', action: 'speed-50' },
  { code: 'KeyE', action: 'speed-75' },
  { code: 'KeyR', action: 'speed-100' },
  { code: 'BracketLeft', action: 'slower', repeats: true },
  { code: 'BracketRight', action: 'faster', repeats: true },
  { code: 'BracketLeft', shift: true, action: 'slower-1', repeats: true },
  { code: 'BracketRight', shift: true, action: 'faster-1', repeats: true },
  ...digits('angle', 1, 8, {}),
  { code: 'KeyD', action: 'other-deck' },
  { code: 'KeyD', shift: true, action: 'gang' },
  { code: 'KeyT', action: 'go-to' },
  { code: 'KeyI', action: 'mark-in' },
  { code: 'KeyO', action: 'mark-out' },
  { code: 'KeyI', shift: true, action: 'to-in' },
  { code: 'KeyO', shift: true, action: 'to-out' },
  { code: 'KeyP', action: 'make-clip' },
  { code: 'KeyP', shift: true, action: 'clear-marks' },
  { code: 'KeyG', action: 'grab-1' },
  { code: 'KeyG', shift: true, action: 'grab-2' },
  { code: 'KeyG', alt: true, action: 'grab-3' },
  { code: 'KeyU', action: 'in-here' },
  { code: 'KeyU', shift: true, action: 'out-here' },
  { code: 'Comma', action: 'in-1', repeats: true },
  { code: 'Period', action: 'in1', repeats: true },
  { code: 'Comma', shift: true, action: 'out-1', repeats: true },
  { code: 'Period', shift: true, action: 'out1', repeats: true },
  { code: 'Comma', alt: true, action: 'in-10', repeats: true },
  { code: 'Period', alt: true, action: 'in10', repeats: true },
  { code: 'Comma', alt: true, shift: true, action: 'out-10', repeats: true },
  { code: 'Period', alt: true, shift: true, action: 'out10', repeats: true },
  { code: 'KeyS', action: 'split' },
  { code: 'KeyD', ctrl: true, action: 'duplicate' },
  { code: 'Delete', action: 'remove' },
  { code: 'Backspace', action: 'remove' },
  ...digits('rate', 0, 5, { alt: true }),
  { code: 'KeyC', action: 'copy' },
  { code: 'KeyC', shift: true, action: 'move' },
  { code: 'ArrowUp', alt: true, action: 'up', repeats: true },
  { code: 'ArrowDown', alt: true, action: 'down', repeats: true },
  { code: 'ArrowUp', action: 'clip-before', repeats: true },
  { code: 'ArrowDown', action: 'clip-after', repeats: true },
  { code: 'ArrowUp', shift: true, action: 'add-before', repeats: true },
  { code: 'ArrowDown', shift: true, action: 'add-after', repeats: true },
  { code: 'KeyA', ctrl: true, action: 'all' },
  { code: 'Escape', action: 'none' },
  { code: 'Slash', action: 'search' },
  { code: 'PageUp', action: 'reel-before' },
  { code: 'PageDown', action: 'reel-after' },
  { code: 'KeyY', action: 'target' },
  { code: 'KeyX', action: 'closer', repeats: true },
  { code: 'KeyZ', action: 'wider', repeats: true },
  { code: 'KeyF', action: 'follow' },
  { code: 'KeyM', action: 'jog-panel' },
  { code: 'Enter', action: 'roll' },
  { code: 'Enter', shift: true, action: 'cue' },
  { code: 'Enter', ctrl: true, action: 'roll-reel' },
  { code: 'KeyA', action: 'to-air' },
  { code: 'KeyA', shift: true, action: 'reel-to-air' },
  { code: 'KeyN', action: 'next' },
  { code: 'KeyN', shift: true, action: 'previous' },
  { code: 'KeyH', action: 'again' },
  { code: 'KeyV', action: 'look-back' },
  { code: 'KeyB', action: 'return' },
  { code: 'KeyA', alt: true, action: 'record' },
  { code: 'KeyZ', ctrl: true, action: 'undo' },
  { code: 'KeyZ', ctrl: true, shift: true, action: 'redo' },
];

/** The key that an event means, if any. */
export function replayKeyFor(event: Pick<KeyboardEvent, 'code' | 'shiftKey' | 'ctrlKey' | 'metaKey' | 'altKey'>): ReplayKey | undefined {
  const ctrl = event.ctrlKey || event.metaKey;
  return REPLAY_KEYS.find(
    (k) =>
      k.code === event.code && (k.shift ?? false) === event.shiftKey && (k.ctrl ?? false) === ctrl && (k.alt ?? false) === event.altKey,
  );
}

/** "Shift G": a key as people say it; empty when nothing is bound to the action. */
export function keyOf(action: string): string {
  const key = REPLAY_KEYS.find((k) => k.action === action);
  if (!key) return '';
  const names: Record<string, string> = {
    ArrowLeft: '←',
    ArrowRight: '→',
    ArrowUp: '↑',
    ArrowDown: '↓',
    BracketLeft: '[',
    BracketRight: ']',
    Comma: ',',
    Period: '.',
    Slash: '/',
  };
  const cap = names[key.code] ?? key.code.replace(/^(Key|Digit)/, '');
  return [key.ctrl && 'Ctrl', key.alt && 'Alt', key.shift && 'Shift', cap].filter(Boolean).join(' ');
}
