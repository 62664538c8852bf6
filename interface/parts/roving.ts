/** One stop of Tab for a list, a bank or a matrix, with arrows inside. */
import { type RefCallback, useCallback } from 'react';
import { isText, reach, reachableIn, wasReached } from '../client/focus';

type Way = 'ArrowLeft' | 'ArrowRight' | 'ArrowUp' | 'ArrowDown';
const WAYS: readonly string[] = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'];

const middle = (e: Element) => {
  const { left, top, width, height } = e.getBoundingClientRect();
  return { x: left + width / 2, y: top + height / 2 };
};

/** The nearest of `items` in a direction: what lies straight ahead goes before what lies aside. */
function ahead(from: Element, items: readonly HTMLElement[], way: Way): HTMLElement | null {
  const start = middle(from);
  let best: HTMLElement | null = null;
  let least = Infinity;
  for (const item of items) {
    if (item === from) continue;
    const { x, y } = middle(item);
    const along = { ArrowLeft: start.x - x, ArrowRight: x - start.x, ArrowUp: start.y - y, ArrowDown: y - start.y }[way];
    const aside = Math.abs(way === 'ArrowLeft' || way === 'ArrowRight' ? y - start.y : x - start.x);
    if (along < 4) continue;
    const cost = along + aside * 3;
    if (cost < least) [best, least] = [item, cost];
  }
  return best;
}

/** True when an arrow belongs to the control itself: the caret within a text, the value of a slider or a list. */
function own(target: HTMLElement, way: Way): boolean {
  const across = way === 'ArrowLeft' || way === 'ArrowRight';
  if (target instanceof HTMLInputElement && isText(target)) {
    const { selectionStart: a, selectionEnd: b, value } = target;
    // Number fields step by the others.
    if (!across) return target.inputMode === 'decimal';
    return !(a === 0 && b === value.length) && (way === 'ArrowLeft' ? b !== 0 : a !== value.length);
  }
  if (isText(target) || target.matches('[role=listbox]')) return true;
  // Lists and sliders in a bank are worked up and down, and left sideways.
  return target.matches('select, input[type=range], [role=slider]') && !across;
}

/**
 * Makes what is in an element one stop of Tab. Arrows go to the nearest control in their direction, Home and End to the ends. After a
 * press with the mouse the arrows are the room's, unless `always`.
 */
export function useRoving<T extends HTMLElement>({ always = false } = {}): RefCallback<T> {
  return useCallback(
    (box: T | null) => {
      if (!box) return undefined;
      let current: HTMLElement | null = null;
      const items = () =>
        reachableIn(box).filter(
          (e) =>
            e.closest('[data-roving]') === box &&
            !e.closest('[role=tablist]') &&
            !e.matches('ul, ol, [role=tabpanel], [class*=overflow-]:not(button, input, select, [role=slider])'),
        );
      const sync = () => {
        // The browser makes a stop of what scrolls and holds no other.
        for (const scrolls of box.querySelectorAll<HTMLElement>('ul, ol, [class*=overflow-]'))
          if (!scrolls.hasAttribute('tabindex')) scrolls.tabIndex = -1;
        const all = items();
        if (!current || !box.contains(current)) current = all.find((e) => e.dataset.first !== undefined) ?? all[0] ?? null;
        for (const item of all) {
          const index = item === current ? 0 : -1;
          if (item.tabIndex !== index) item.tabIndex = index;
        }
      };
      const focusin = (event: FocusEvent) => {
        if (event.target instanceof HTMLElement && items().includes(event.target)) current = event.target;
        sync();
      };
      /** Fields that belong together go by Tab, as in any form. */
      const field = (target: HTMLElement, back: boolean): HTMLElement | undefined => {
        const fields = items().filter(
          (e) => isText(e) && e.closest('li, tr, form, [role=group]') === target.closest('li, tr, form, [role=group]'),
        );
        return fields[fields.indexOf(target) + (back ? -1 : 1)];
      };
      const keydown = (event: KeyboardEvent) => {
        const { target, code } = event;
        if (target instanceof HTMLElement && code === 'Tab' && isText(target)) {
          const to = field(target, event.shiftKey);
          if (!to) return;
          event.preventDefault();
          reach(to);
        }
        if (!(target instanceof HTMLElement) || event.ctrlKey || event.metaKey || event.altKey || event.shiftKey) return;
        if (!always && !wasReached()) return;
        const all = items();
        if (!all.includes(target)) return;
        const ends = (code === 'Home' || code === 'End') && !isText(target) && !target.matches('[role=slider], input[type=range]');
        if (!ends && (!WAYS.includes(code) || own(target, code as Way))) return;
        event.preventDefault();
        event.stopPropagation();
        const to = ends ? all.at(code === 'Home' ? 0 : -1) : ahead(target, all, code as Way);
        if (to) reach(to);
      };
      box.dataset.roving = '';
      sync();
      const observer = new MutationObserver(sync);
      observer.observe(box, { childList: true, subtree: true });
      box.addEventListener('focusin', focusin);
      box.addEventListener('keydown', keydown, true);
      return () => {
        observer.disconnect();
        box.removeEventListener('focusin', focusin);
        box.removeEventListener('keydown', keydown, true);
      };
    },
    [always],
  );
}
