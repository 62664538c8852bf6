/**
 * Who has the keys. A text that is typed keeps them; a list, a slider or a button that has been used gives them back to the room. Focus
 * is never lost: what has it and goes away leaves it to its part of the room.
 */

import { flushSync } from 'react-dom';
import { roomNow, useHere } from './here';
import { isOnItsWay } from './on-its-way';

const REACHABLE =
  'a[href], button, input:not([type=hidden]), select, textarea, summary, [contenteditable=true], [tabindex]:not([data-region]):not(main)';
const OVERLAY = '[role=dialog], [role=alertdialog], [role=menu]';
const NO_TEXT = 'checkbox radio range color file button submit reset image'.split(' ');
const ARROWS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End', 'PageUp', 'PageDown'];

/** True where typing goes into a text. */
export function isText(element: Element | null): boolean {
  if (element instanceof HTMLInputElement) return !NO_TEXT.includes(element.type);
  return element instanceof HTMLTextAreaElement || (element instanceof HTMLElement && element.isContentEditable);
}

const isShown = (element: Element): boolean => element.getClientRects().length > 0;

/** What can have the focus in an element, in order. */
export const reachableIn = (element: ParentNode): HTMLElement[] =>
  [...element.querySelectorAll<HTMLElement>(REACHABLE)].filter((e) => !(e as HTMLButtonElement).disabled && isShown(e));

/** The focus came by a key: Tab, an arrow, the key of a part. A control that was reached so keeps Space and Enter. */
let reached = false;
/** Used by a key since it has the focus: from then on Space means the room again. */
let spent = false;
/** Where Tab goes on from, after a field has given the keys back. */
let point: HTMLElement | null = null;
let last: { element: HTMLElement; path: HTMLElement[]; index: number } | null = null;

export const wasReached = (): boolean => reached;

/** The control that has the focus has been used by a key, other than by a press that the browser tells of. */
export const spend = (): void => void (spent = true);

/** Focuses by a key. */
export function reach(element: HTMLElement): void {
  element.focus();
  reached = true;
  if (element instanceof HTMLInputElement && isText(element)) element.select();
}

const roomOf = (element: Element): HTMLElement | null =>
  element.closest<HTMLElement>('main') ?? document.querySelector<HTMLElement>('main');

/** Gives the keys back to the room: the focus goes to the part around `element`, and Tab goes on from there. */
export function giveBack(element: HTMLElement): void {
  const home = element.closest<HTMLElement>('[data-region]') ?? roomOf(element);
  if (!home || element.closest(OVERLAY)) return;
  element.blur();
  home.focus({ preventScroll: true });
  point = element;
}

/** Why a key belongs to what has the focus: a text, something over the room, or the control itself; null when it is the room's. */
export function keeperOf(
  event: Pick<KeyboardEvent, 'target' | 'code' | 'ctrlKey' | 'metaKey' | 'shiftKey'>,
): 'text' | 'overlay' | 'control' | null {
  const target = event.target instanceof HTMLElement ? event.target : null;
  if (!target) return null;
  if (isText(target)) return 'text';
  if (target.closest(OVERLAY)) return 'overlay';
  const { code } = event;
  if (event.ctrlKey || event.metaKey || (event.shiftKey && code === 'Enter')) return null;
  if (target instanceof HTMLSelectElement) return ARROWS.includes(code) || code === 'Enter' ? 'control' : null;
  if (target.matches('input[type=range], [role=slider], input[type=radio], [role=separator]'))
    return ARROWS.includes(code) ? 'control' : null;
  if (!target.matches('button, a[href], summary, input, [role=tab], [role=button]') || !reached) return null;
  if (code === 'Enter') return 'control';
  return code === 'Space' && !spent && !target.matches('a[href]') ? 'control' : null;
}

/** Said at a part of a room that is wanted and hidden, where there is room for one part at a time: the room brings it forward. */
export const WANTED = 'bivoca-wanted';

/** The parts of the room, in reading order; those too that can be brought forward. */
const regions = (): HTMLElement[] =>
  [...document.querySelectorAll<HTMLElement>('[data-region]')].filter((r) => isShown(r) || r.closest('[data-one-part]') !== null);

/** Focuses the first thing in a part that is one stop of Tab, or the part itself. */
function goToRegion(region: HTMLElement): void {
  if (!isShown(region)) flushSync(() => region.dispatchEvent(new Event(WANTED, { bubbles: true })));
  const all = reachableIn(region);
  reach(all.find((e) => e.tabIndex >= 0 && e.dataset.first !== undefined) ?? all.find((e) => e.tabIndex >= 0) ?? region);
}

/** Milliseconds that a room may take to be drawn. */
const PATIENCE_MS = 5000;
/** Milliseconds that something may take to open in a room that is drawn already. */
const OPENS_MS = 500;

/** What is waited for: until when, and whether its room is still being drawn. */
let awaited: { until: number; room: boolean } | null = null;

/** The room of the address is the one that is drawn. */
const isDrawn = (): boolean => useHere.getState().room === roomNow();

/** True while the focus is on its way into a room that is being drawn: a key pressed now is meant for where it goes, and must not work the show. */
export const focusIsOnItsWay = (): boolean =>
  awaited !== null && awaited.room && performance.now() < awaited.until && !isDrawn() && !isText(document.activeElement);

/** Does `act` with what `find` finds: at once where it is there already, otherwise as soon as its room is. `missing` is called where it never comes. */
function soon(find: () => HTMLElement | undefined, act: (element: HTMLElement) => void, missing?: () => void): void {
  // What a choice just before has brought is drawn now, not a moment later.
  flushSync(() => undefined);
  const room = !isDrawn();
  const start = performance.now();
  const mine = { until: start + (room ? PATIENCE_MS : OPENS_MS), room };
  awaited = mine;
  const look = () => {
    // Something else is waited for since.
    if (awaited !== mine) return;
    const found = isDrawn() ? find() : undefined;
    // What it is in may be fetched first.
    if (isOnItsWay()) mine.until = Math.min(start + PATIENCE_MS, Math.max(mine.until, performance.now() + OPENS_MS));
    if (found || performance.now() > mine.until) awaited = null;
    if (found) act(found);
    else if (awaited === null) missing?.();
    else requestAnimationFrame(look);
  };
  look();
}

/** Does `act` with what `selector` finds, as soon as it is there; `missing` where it never comes. */
export const whenThere = (selector: string, act: (element: HTMLElement) => void, missing?: () => void): void =>
  soon(() => [...document.querySelectorAll<HTMLElement>(selector)].find(isShown), act, missing);

/** Focuses what `selector` finds, as soon as it is there. */
export const focusSoon = (selector: string, missing?: () => void): void => whenThere(selector, reach, missing);

/** Goes to a part of the room, by its place in reading order from 0. */
export const goToPart = (place: number): void => soon(() => regions()[place], goToRegion);

/** Goes to the part after, or before, the one that has the focus. */
export function stepPart(by: 1 | -1): void {
  soon(() => {
    const all = regions();
    const at = all.findIndex((r) => r.contains(document.activeElement));
    return all[(at < 0 ? (by > 0 ? 0 : all.length - 1) : at + by + all.length) % all.length];
  }, goToRegion);
}

function remember(element: HTMLElement): void {
  const path: HTMLElement[] = [];
  for (let e = element.parentElement; e; e = e.parentElement) path.push(e);
  last = { element, path, index: path[0] ? reachableIn(path[0]).indexOf(element) : -1 };
}

/** Focus that fell to the page goes to what took the place of what had it, or to its part. */
function rescue(): void {
  if (!last || last.element.isConnected || (document.activeElement !== document.body && document.activeElement !== null)) return;
  const { path, index } = last;
  const parent = path.find((e) => e.isConnected && e !== document.body && e !== document.documentElement);
  const by = reached;
  const heir = parent === path[0] && parent && index >= 0 ? reachableIn(parent)[index] : undefined;
  (heir ?? parent?.closest<HTMLElement>('[data-region]') ?? document.querySelector<HTMLElement>('main'))?.focus({ preventScroll: true });
  reached = by;
}

/** Watches the focus of the page until the returned function is called. */
export function keepFocus(): () => void {
  let byKey = false;
  let arrowed: EventTarget | null = null;
  const keydown = (event: KeyboardEvent) => {
    byKey = event.code === 'Tab';
    const target = event.target instanceof HTMLElement ? event.target : null;
    if (!target) return;
    arrowed = ARROWS.includes(event.code) ? target : null;
    if (event.code === 'Tab' && point?.isConnected && target.matches('[data-region], main')) {
      point.focus({ preventScroll: true });
      byKey = true;
    }
    if (target.closest(OVERLAY)) return;
    if (target instanceof HTMLSelectElement && event.code === 'Enter' && !event.shiftKey && !event.ctrlKey && !event.altKey) {
      event.preventDefault();
      target.showPicker();
    }
    if (target.matches('input[type=checkbox]') && event.code === 'Enter' && reached) {
      event.preventDefault();
      target.click();
    }
    // Escape leaves the text, and nothing else.
    if (event.code === 'Escape' && isText(target)) event.preventDefault();
  };
  /** After the field has had its say: one that found a fault keeps the focus. At once, so that the very next key is the room's. */
  const leave = (event: KeyboardEvent) => {
    const { target, code } = event;
    if (!(target instanceof HTMLElement) || !isText(target) || event.isComposing || target.closest(OVERLAY)) return;
    if (code !== 'Escape' && code !== 'NumpadEnter' && (code !== 'Enter' || target instanceof HTMLTextAreaElement)) return;
    const go = () => {
      flushSync(() => undefined);
      const active = document.activeElement;
      if ((active === target || active === document.body) && target.getAttribute('aria-invalid') !== 'true') giveBack(target);
    };
    // Enter sends the form around a field only while the field has the focus.
    if (code !== 'Escape' && target instanceof HTMLInputElement && target.form) setTimeout(go);
    else go();
  };
  const pointerdown = () => {
    byKey = false;
    reached = false;
  };
  const pointerup = (event: PointerEvent) => {
    const target = event.target instanceof HTMLElement ? event.target.closest<HTMLElement>('input[type=range], [role=slider]') : null;
    if (target && document.activeElement === target) giveBack(target);
  };
  const change = (event: Event) => {
    const target = event.target;
    // A list whose choice goes on by arrows keeps them until it is left.
    if (!(target instanceof HTMLElement) || document.activeElement !== target) return;
    if (target instanceof HTMLSelectElement && arrowed !== target) giveBack(target);
    if (target instanceof HTMLInputElement && target.type === 'color') giveBack(target);
  };
  const focusin = (event: FocusEvent) => {
    if (!(event.target instanceof HTMLElement)) return;
    reached = byKey;
    spent = false;
    if (!event.target.matches('[data-region], main')) point = null;
    if (!event.target.closest(OVERLAY)) remember(event.target);
  };
  const click = (event: MouseEvent) => {
    // Pressed by a key.
    if (event.detail === 0) spent = true;
  };
  const observer = new MutationObserver(rescue);
  observer.observe(document.body, { childList: true, subtree: true });
  const ended = new AbortController();
  const { signal } = ended;
  window.addEventListener('keydown', keydown, { capture: true, signal });
  window.addEventListener('pointerdown', pointerdown, { capture: true, signal });
  window.addEventListener('focusin', focusin, { capture: true, signal });
  window.addEventListener('click', click, { capture: true, signal });
  // After what they speak of has had its say.
  window.addEventListener('keydown', leave, { signal });
  window.addEventListener('pointerup', pointerup, { signal });
  window.addEventListener('change', change, { signal });
  return () => {
    observer.disconnect();
    ended.abort();
  };
}
