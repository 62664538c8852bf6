/** The keys of the keyboard, in every room: each does what the person's layout of keys binds it to. */
import { useEffect } from 'react';
import { actionWords } from '#core/control/action';
import { findAction } from '#core/control/actions';
import { type Binding, KEYBOARD } from '#core/control/binding';
import { chordOf } from '#core/control/chord';
import { layoutInUse } from '#core/control/hands-file';
import { bindingFor } from '#core/control/key-layout';
import { focusIsOnItsWay, keepFocus, keeperOf } from '../client/focus';
import { asksForHold } from '#core/desk/registry';
import { useHands } from '../client/hands';
import { roomNow } from '../client/here';
import { handsOf, perform, useWorld } from './do';
import { Hold } from './held';

/** Where something is typed, or lies over the room, only keys that mean the same everywhere and no letter pass. */
function passes(event: KeyboardEvent, { room, action }: Binding): boolean {
  const keeper = keeperOf(event);
  if (keeper === null) return true;
  if (keeper === 'control' || room !== 'all') return false;
  // With Alt some keyboards type signs: those are a text's own.
  const withAlt = event.altKey && !event.getModifierState('AltGraph') && (event.key.length > 1 || /^[ -~]$/.test(event.key));
  const noLetter = /^F\d/.test(event.code) || withAlt || action === 'finder';
  return keeper === 'text' ? noLetter : noLetter || action.startsWith('talk.');
}

/** Follows the keyboard while a show is open. */
export function useKeyboard(): void {
  const world = useWorld();
  useEffect(() => keepFocus(), []);
  useEffect(() => {
    /** What is done when a key that is down is let go, by its place: each by itself, as one talks with one hand and switches with the other. */
    const held = new Map<string, () => void>();
    const letGo = (code: string) => {
      held.get(code)?.();
      held.delete(code);
    };
    const letAllGo = () => [...held.keys()].forEach(letGo);
    const down = (event: KeyboardEvent) => {
      if (event.defaultPrevented || event.isComposing) return;
      // The question mark lies elsewhere on other keyboards.
      const chord = event.key === '?' ? 'Shift+Slash' : chordOf(event);
      const binding = chord === '' ? undefined : bindingFor(layoutInUse(useHands.getState()), roomNow(), KEYBOARD, chord);
      // Meant for a field that is not drawn yet; what means the same everywhere goes on.
      if (focusIsOnItsWay() && binding?.room !== 'all') return event.preventDefault();
      const action = binding && findAction(binding.action);
      if (!binding || action?.takes !== 'press' || !passes(event, binding)) return;
      event.preventDefault();
      if (event.repeat && !action.repeats) return;
      if (!event.repeat) letGo(event.code);
      const { args } = binding;
      const meaning = action.run(handsOf(world.client), args);
      const { release } = action;
      if (release) held.set(event.code, () => perform(world, release(handsOf(world.client), args)));
      if (meaning.kind === 'command' && asksForHold(world.client.state.desk, meaning)) {
        const hold = new Hold(actionWords(action, args, world.client.state.desk.show), () => perform(world, meaning));
        held.set(event.code, () => hold.end());
      } else perform(world, meaning);
    };
    const up = (event: KeyboardEvent) => letGo(event.code);
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', letAllGo);
    return () => {
      letAllGo();
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', letAllGo);
    };
  }, [world]);
}
