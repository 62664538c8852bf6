/** What is open and chosen in the room Automation; lives as long as the page. */
import { create } from 'zustand';
import { type Macro } from '#core/automation/document';
import { type AutomationPage } from '#core/control/rooms';
import { type Show } from '#core/desk/show';

interface AutomationRoomState {
  macroId: string | null;
  /** What the room is about now. */
  page: AutomationPage;
  /** Items of the running order that are chosen. */
  items: string[];
  triggerId: string | null;
  /** Steps of the open macro. */
  chosen: string[];
  side: 'step' | 'try' | 'macro' | 'log';
  deviceId: string | null;
  /** Page of buttons, and the button of it that is chosen. */
  pageId: string | null;
  buttonId: string | null;
  /** A press does what a button does; otherwise it chooses it. */
  pressing: boolean;
  messageId: string | null;
  /** Steps as a list, or as text. */
  view: 'list' | 'text';
  /** Macro that asks for something before it runs. */
  asking: string | null;
  /** Groups of steps that are folded, by macro and name. */
  folded: string[];
  /** What is open over the room. */
  open: 'command' | 'now' | null;
  /** Counts how often the open macro was asked to be tried: each time it is tried anew. */
  tries: number;
}

export const useAutomationRoom = create<AutomationRoomState>(() => ({
  page: 'macros',
  items: [],
  macroId: null,
  triggerId: null,
  deviceId: null,
  pageId: null,
  buttonId: null,
  pressing: false,
  messageId: null,
  chosen: [],
  side: 'try',
  view: 'list',
  asking: null,
  folded: [],
  open: null,
  tries: 0,
}));

export const setAutomationRoom = (change: Partial<AutomationRoomState>): void => useAutomationRoom.setState(change);

/** The macro that is open: the chosen one, otherwise the first. */
export const openMacro = ({ automation }: Pick<Show, 'automation'>, macroId: string | null): Macro | undefined =>
  automation.macros.find((m) => m.id === macroId) ?? automation.macros[0];

/** Opens a macro; its steps are not chosen. */
export const openMacroById = (macroId: string): void => setAutomationRoom({ macroId, chosen: [] });

/** Chooses one step; with `add` it is taken to the others or out of them. */
export function chooseStep(id: string, add: boolean): void {
  const { chosen } = useAutomationRoom.getState();
  const next = !add ? [id] : chosen.includes(id) ? chosen.filter((c) => c !== id) : [...chosen, id];
  setAutomationRoom({ chosen: next, ...(next.length > 0 && { side: 'step' as const }) });
}

/** Chooses one item of the running order; with `add` it is taken to the others or out of them. */
export function chooseItem(id: string, add: boolean): void {
  const { items } = useAutomationRoom.getState();
  setAutomationRoom({ items: !add ? [id] : items.includes(id) ? items.filter((c) => c !== id) : [...items, id] });
}
