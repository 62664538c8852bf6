import { useEffect } from 'react';
import { useSend } from '../host/host-context';
import { bindingFor } from './keymap';

/** Milliseconds. */
const HOLD = 700;

/** True where a key means text or belongs to the control that has the focus. */
function belongsToControl(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null;
  if (!target) return false;
  if (target.closest('input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable], [role=dialog], [role=menu]')) return true;
  // A focused button keeps Space only when reached by the keyboard; after a mouse press Space still means take.
  return event.code === 'Space' && target.matches('button:focus-visible, input');
}

/** Sends the commands of the Desk's keys while mounted. Held keys do not repeat. */
export function useKeys(): void {
  const send = useSend();
  useEffect(() => {
    let held: ReturnType<typeof setTimeout> | undefined;
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || belongsToControl(event)) return;
      const binding = bindingFor(event);
      if (!binding) return;
      event.preventDefault();
      if (event.repeat) return;
      if (binding.hold) held = setTimeout(() => send(binding.type, binding.args), HOLD);
      else send(binding.type, binding.args);
    };
    const up = () => clearTimeout(held);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      clearTimeout(held);
    };
  }, [send]);
}
