/** Edits of the running order that a button and a key share. */
import { type ShowClient } from '#engine/client/show-client';
import { say } from '../client/say';
import { setAutomationRoom, useAutomationRoom } from './room-state';

/** Adds an item behind the chosen one, or at the end, and chooses it. */
export function addItem(client: ShowClient): void {
  const { items } = client.state.desk.show.order;
  const at = items.findIndex((i) => i.id === useAutomationRoom.getState().items.at(-1));
  const done = client.dispatch({ type: 'order.add', args: { index: at === -1 ? items.length : at + 1 } });
  if (done.ok) setAutomationRoom({ items: [String(done.result.id)] });
  else say.caution(done.error.message);
}

export function duplicateItems(client: ShowClient, items: readonly string[]): void {
  const done = client.dispatch({ type: 'order.duplicate', args: { items } });
  if (done.ok) setAutomationRoom({ items: done.result.ids as string[] });
  else say.caution(done.error.message);
}

/** Removes items, and chooses the one that takes their place. */
export function removeItems(client: ShowClient, items: readonly string[]): void {
  const all = client.state.desk.show.order.items;
  const at = all.findIndex((i) => i.id === items[0]);
  const rest = all.filter((i) => !items.includes(i.id));
  const done = client.dispatch({ type: 'order.remove', args: { items } });
  const next = rest[Math.min(at, rest.length - 1)];
  if (done.ok) setAutomationRoom({ items: next ? [next.id] : [] });
  else say.caution(done.error.message);
}

/** Opens the window for the presenter and the crew, or brings it to the front. */
export const openOrderWindow = (showId: string): void =>
  window.open(`/order?${new URLSearchParams({ show: showId }).toString()}`, 'bivoca-order', 'popup,width=960,height=540')?.focus();
