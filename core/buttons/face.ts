/** What a button says and does, and whether it is lit. */
import { isSo } from '../automation/events';
import { actWords, sentence } from '../automation/words';
import { type Command } from '../commands/command';
import { type Desk } from '../desk/air';
import { picturesWithin } from '../desk/pictures';
import { type Show } from '../desk/show';
import { type PageButton } from './document';

/** What stands on a button. */
export function buttonWords(show: Show, { name, act }: PageButton): string {
  if (name !== '') return name;
  if (act.kind === 'page') return show.pages.find((p) => p.id === act.pageId)?.name ?? 'no page yet';
  return sentence(actWords(show, act));
}

/** The command that a press sends; null for a button that opens a page. */
export const commandOf = ({ act }: PageButton): Command | null => (act.kind === 'command' ? { type: act.type, args: act.args } : null);

/** True while a button is lit at a frame: its condition is so, or what it does is under way. */
export function isLit(desk: Desk, { act, lit }: PageButton, frame: number): boolean {
  if (lit) return (isSo(desk, lit.is, frame) ?? false) === lit.so;
  if (act.kind === 'page') return false;
  const { show, air } = desk;
  const { macro, picture, lane } = act.args;
  if (typeof macro === 'string') return Object.values(air.automation.runs).some((r) => r.macroId === macro);
  if (typeof lane === 'string') return Object.hasOwn(air.lanes, lane) && air.lanes[lane]?.fade.to === 1;
  if (act.type === 'picture.setNext') return typeof picture === 'string' && air.nextId === picture;
  if (typeof picture === 'string') return picturesWithin(show, air.onAirId).has(picture);
  return act.type === 'automation.holdAll' && air.automation.held;
}
