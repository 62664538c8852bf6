/** Finds items, and the one that *Go* takes next. */
import { CommandError } from '../commands/command';
import { type Desk } from '../desk/air';
import { type OrderItem } from './document';

/** @throws CommandError when the running order has no such item. */
export function itemOf({ show }: Pick<Desk, 'show'>, id: string, field = 'item'): OrderItem {
  const found = show.order.items.find((i) => i.id === id);
  if (!found) throw new CommandError('unknown-item', `There is no item "${id}" in the running order.`, field);
  return found;
}

/** The item that is on; undefined where none is, or it was removed. */
export const itemOn = ({ show, air }: Desk): OrderItem | undefined => show.order.items.find((i) => i.id === air.order.onId);

/** Place of the item that was on last, from 0; −1 when none was. One that was removed gives way to the one that was on before it. */
function lastPlace({ show, air }: Desk): number {
  const ids = [...air.order.past.map((p) => p.itemId), ...(air.order.onId === null ? [] : [air.order.onId])];
  for (const id of ids.reverse()) {
    const at = show.order.items.findIndex((i) => i.id === id);
    if (at !== -1) return at;
  }
  return -1;
}

/** True for an item that *Go* comes to by itself. */
export const isInTurn = ({ air }: Pick<Desk, 'air'>, item: OrderItem): boolean => !item.floats && !air.order.skipped.includes(item.id);

/** The item that *Go* takes: the chosen one, otherwise the next one in turn; undefined at the end. */
export function itemToCome(desk: Desk): OrderItem | undefined {
  const { items } = desk.show.order;
  const chosen = items.find((i) => i.id === desk.air.order.nextId);
  return chosen ?? items.slice(lastPlace(desk) + 1).find((i) => isInTurn(desk, i));
}

/** The items that *Go* will take one after another from now on. */
export function itemsToCome(desk: Desk): OrderItem[] {
  const first = itemToCome(desk);
  if (!first) return [];
  const { items } = desk.show.order;
  return [first, ...items.slice(items.indexOf(first) + 1).filter((i) => isInTurn(desk, i))];
}
