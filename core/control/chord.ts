/** Keys pressed together, by their place on the keyboard, so that they agree on keyboards of every language. `code` values: W3C UI Events KeyboardEvent code. */

/** What a key event says of itself. */
export interface KeyPress {
  code: string;
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
}

const FORM = /^(Ctrl\+)?(Alt\+)?(Shift\+)?([A-Z][A-Za-z0-9]{0,30})$/;
const ALONE = /^(Shift|Control|Alt|Meta|OS)(Left|Right)?$|^(CapsLock|NumLock|Fn|FnLock|ContextMenu)$/;

/** `Ctrl+Alt+Shift+KeyX`, in this order; the command key of some keyboards counts as Ctrl. Empty for a modifier alone. */
export function chordOf({ code, shiftKey, ctrlKey, metaKey, altKey }: KeyPress): string {
  if (code === '' || ALONE.test(code)) return '';
  return `${ctrlKey || metaKey ? 'Ctrl+' : ''}${altKey ? 'Alt+' : ''}${shiftKey ? 'Shift+' : ''}${code}`;
}

/** Chords that the browser does not give away, or that a page should leave to it. */
const KEPT = new Set([
  'Tab',
  'Shift+Tab',
  'Ctrl+Tab',
  'Ctrl+Shift+Tab',
  'Ctrl+KeyW',
  'Ctrl+KeyT',
  'Ctrl+KeyN',
  'Ctrl+Shift+KeyW',
  'Ctrl+Shift+KeyT',
  'Ctrl+Shift+KeyN',
  'F5',
  'Ctrl+F5',
  'Ctrl+KeyR',
  'Ctrl+Shift+KeyR',
  'F11',
  'F12',
  'Alt+F4',
]);

/** Why a chord cannot be bound; null when it can. */
export function chordProblem(chord: string): string | null {
  if (!FORM.test(chord)) return `"${chord}" is no key.`;
  return KEPT.has(chord) ? `${chordName(chord)} belongs to the browser. Choose another key.` : null;
}

const CAPS: Readonly<Record<string, string>> = {
  BracketLeft: '[',
  BracketRight: ']',
  Comma: ',',
  Period: '.',
  Slash: '/',
  Backslash: '\\',
  Semicolon: ';',
  Quote: '’',
  Minus: '−',
  Equal: '=',
  Backquote: 'left of 1',
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  PageUp: 'Page ↑',
  PageDown: 'Page ↓',
  Escape: 'Esc',
};

/** What stands on the key of a `code`. */
export const capOf = (code: string): string => CAPS[code] ?? code.replace(/^(Key|Digit)/, '').replace(/^Numpad/, 'Num ');

/** "Shift 3", "Space": a chord as people say it. */
export function chordName(chord: string): string {
  const parts = chord.split('+');
  return [...parts.slice(0, -1), capOf(parts.at(-1) ?? '')].join(' ');
}
