/** A person's layouts of keys and what stands at hand, kept in this browser. */
import { nanoid } from 'nanoid';
import { create } from 'zustand';
import { type ActionArgs } from '#core/control/action';
import { changeLayout, FIRST_HANDS, type HandsFile, layoutInUse, readHands, writeHands } from '#core/control/hands-file';
import { bind, keyNames, type KeyLayout } from '#core/control/key-layout';
import { readOldBindings } from '#core/control/old-bindings';
import { useHere } from './here';

const KEY = 'bivoca.hands';

/** Where bindings of controllers were kept before. */
const OLD_KEY = 'bivoca.controls';

/** Hands of somebody who has bound controllers in an older Bivoca. */
function fromBefore(): HandsFile {
  const text = localStorage.getItem(OLD_KEY);
  const old = text === null ? [] : readOldBindings(JSON.parse(text));
  return old.length === 0 ? FIRST_HANDS : changeLayout(FIRST_HANDS, (layout) => old.reduce(bind, layout), 'own');
}

function stored(): HandsFile {
  try {
    const text = localStorage.getItem(KEY);
    return text === null ? fromBefore() : readHands(text);
  } catch {
    // What cannot be read is left where it is until something is changed.
    return FIRST_HANDS;
  }
}

export const useHands = create<HandsFile>(stored);

/** Other windows of this browser take a change over at once. */
window.addEventListener('storage', (event) => event.key === KEY && useHands.setState(stored()));

/** Changes what is kept for this person. */
export function setHands(change: Partial<HandsFile>): void {
  useHands.setState(change);
  localStorage.setItem(KEY, writeHands(useHands.getState()));
}

/** Changes the layout of keys in use; a layout of one's own is begun when it is the first one. */
export const editLayout = (change: (layout: KeyLayout) => KeyLayout): void =>
  setHands(changeLayout(useHands.getState(), change, nanoid(8)));

/** The layout of keys in use. */
export const useKeyLayout = (): KeyLayout => useHands(layoutInUse);

/** The key that does an action in this room, as people say it; empty when there is none. */
export function useKeyName(action: string, args?: ActionArgs): string {
  const room = useHere((s) => s.room);
  const layout = useKeyLayout();
  return action === '' ? '' : (keyNames(layout, room, action, args)[0] ?? '');
}
