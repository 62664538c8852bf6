/** The keys that switch, in the rooms that have them. */
import { useEffect } from 'react';
import { useSend } from '../client/show-client';
import { bindingFor } from './keymap';

/** Milliseconds. */
const HOLD = 700;

/** True where a key means text or belongs to the control that has the focus; `reached` when the focus came by Tab. */
function belongsToControl(event: KeyboardEvent, reached: boolean): boolean {
  const target = event.target as HTMLElement | null;
  if (!target) return false;
  if (target.closest('input:not([type=checkbox]):not([type=range]), textarea, select, [contenteditable], [role=dialog], [role=menu]'))
    return true;
  // A focused button keeps Space only when reached by Tab; after a mouse press Space still means take, whatever keys
  // were pressed between (the browser's own :focus-visible comes on with the first of them).
  return event.code === 'Space' && (target.matches('input') || (reached && target.matches('button, [role=tab]')));
}

/** Sends the commands of the Desk's keys while mounted. Held keys do not repeat. */
export function useKeys(): void {
  const send = useSend();
  useEffect(() => {
    let held: ReturnType<typeof setTimeout> | undefined;
    let byTab = false;
    let reached = false;
    const down = (event: KeyboardEvent) => {
      byTab = event.code === 'Tab';
      if (event.defaultPrevented || belongsToControl(event, reached)) return;
      const binding = bindingFor(event);
      if (!binding) return;
      event.preventDefault();
      if (event.repeat) return;
      if (binding.hold) held = setTimeout(() => send(binding.type, binding.args), HOLD);
      else send(binding.type, binding.args);
    };
    const pressed = () => {
      byTab = false;
    };
    const focused = () => {
      reached = byTab;
    };
    const up = () => clearTimeout(held);
    window.addEventListener('pointerdown', pressed, true);
    window.addEventListener('focusin', focused);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('pointerdown', pressed, true);
      window.removeEventListener('focusin', focused);
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      clearTimeout(held);
    };
  }, [send]);
}
