/** Whether a button is lit. */
import { isSo } from '../automation/events';
import { type Desk } from '../desk/air';
import { picturesWithin } from '../desk/pictures';
import { type PageButton } from './document';

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
