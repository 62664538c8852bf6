/** Commands for the running order: its items, and taking them. */
import { begin, START_FRAMES } from '../automation/begin';
import { createMacro } from '../automation/create';
import { CommandError, defineCommand, NoArgs } from '../commands/command';
import { type Desk } from '../desk/air';
import { remove } from '../desk/remove';
import { Colour, Flag, ListOf, Num, OneOf, Ref, Refs, Text, Whole } from '../schema/fields';
import { plainCopy } from '../schema/plain-copy';
import { DAY_SECONDS } from '../time/day';
import { createItem } from './create';
import { ItemLane, ItemSeat, MOST_ITEMS, MOST_PARTS, OrderItem, TAKES } from './document';
import { itemOf, itemOn, itemToCome } from './find';
import { stepsOfItem } from './go';

class ItemArg {
  @Ref('item', 'item') item!: string;
}
class ItemsArg {
  @Refs('item', MOST_ITEMS, 'items') items!: string[];
}
class AddArgs {
  @Text(120, 'name', { min: 1, optional: true }) name?: string;
  @Whole(0, MOST_ITEMS, 'place in the list, from 0; without it, the end', { optional: true }) index?: number;
}
class SetArgs extends ItemArg {
  @Text(120, 'name', { min: 1, optional: true }) name?: string;
  @Colour('colour', { optional: true }) colour?: string;
  @Num(0, DAY_SECONDS, 'planned length, seconds; 0 for none', { optional: true }) seconds?: number;
  @Num(0, DAY_SECONDS, 'begins at this time of day, seconds after midnight', { optional: true, nullable: true }) hard?: number | null;
  @Flag('floats: *Go* passes over it', { optional: true }) floats?: boolean;
  @Ref('picture', 'picture or layout', { optional: true, nullable: true }) picture?: string | null;
  @OneOf(TAKES, 'how the picture is taken', { optional: true }) takes?: OrderItem['takes'];
  @Ref('clip', 'clip that is played out', { optional: true, nullable: true }) clip?: string | null;
  @Ref('macro', 'macro that runs', { optional: true, nullable: true }) macro?: string | null;
  @Text(4000, 'notes for the crew', { optional: true }) notes?: string;
}
class LanesArgs extends ItemArg {
  @ListOf(() => ItemLane, MOST_PARTS, 'lanes that it shows and hides') lanes!: ItemLane[];
}
class SeatsArgs extends ItemArg {
  @ListOf(() => ItemSeat, MOST_PARTS, 'who sits where') seats!: ItemSeat[];
}
class MoveArgs extends ItemsArg {
  @Whole(0, MOST_ITEMS, 'place of the first of them in the list without them, from 0') index!: number;
}
class BringArgs {
  @ListOf(() => OrderItem, MOST_ITEMS, 'items; identities are given anew') list!: OrderItem[];
  @Flag('the items that are there go') replace!: boolean;
}
class SetUpArgs {
  @Num(0, DAY_SECONDS, 'planned beginning, seconds after midnight', { optional: true, nullable: true }) startsAt?: number | null;
  @Num(0, DAY_SECONDS, 'time at which the show has to be over', { optional: true, nullable: true }) endsAt?: number | null;
  @Flag('the picture of the item after is put into Next', { optional: true }) prepares?: boolean;
}
class NextArgs {
  @Ref('item', 'item that Go takes next; null for the one after', { nullable: true }) item!: string | null;
}
class SkipArgs extends ItemsArg {
  @Flag('passed over this time') skipped!: boolean;
}

/** Items that were on which are kept. */
const MOST_PAST = 2000;

/** @throws CommandError when so many more would be too many. */
function roomFor({ show }: Desk, more: number): void {
  if (show.order.items.length + more > MOST_ITEMS) throw new CommandError('too-many', `A running order has at most ${MOST_ITEMS} items.`);
}

/** The items with these identities, in the order of the list. @throws CommandError when one is not there. */
const someOf = (desk: Desk, ids: readonly string[]): OrderItem[] => {
  const wanted = new Set(ids.map((id) => itemOf(desk, id, 'items').id));
  return desk.show.order.items.filter((i) => wanted.has(i.id));
};

/** What was on is over at a frame. */
function leave(desk: Desk, frame: number): void {
  const { order } = desk.air;
  const on = itemOn(desk);
  if (order.onId === null) return;
  order.past = [...order.past.slice(1 - MOST_PAST), { itemId: order.onId, name: on?.name ?? '', from: order.since, to: frame }];
  order.onId = null;
}

/** Takes an item to air: as a macro of its steps, so that every refusal is said and nothing else is lost. */
function take(desk: Desk, item: OrderItem, frame: number, id: string): void {
  const { order } = desk.air;
  const at = frame + START_FRAMES;
  leave(desk, at);
  Object.assign(order, { onId: item.id, since: at, nextId: null, skipped: order.skipped.filter((s) => s !== item.id) });
  const steps = stepsOfItem(desk, item, itemToCome(desk));
  if (steps.length > 0) begin(desk, createMacro(id, item.name, 0, { colour: item.colour, onFailure: 'go-on', steps }), undefined, at, id);
}

export const orderCommands = [
  defineCommand({
    type: 'order.add',
    title: 'Add an item to the running order',
    about: 'An empty item. Returns its `id`.',
    args: AddArgs,
    run: (desk, { name, index }, { newId }) => {
      roomFor(desk, 1);
      const { items } = desk.show.order;
      const item = createItem(newId(), name ?? `Item ${items.length + 1}`, items.length);
      items.splice(index ?? items.length, 0, item);
      return { id: item.id };
    },
  }),
  defineCommand({
    type: 'order.set',
    title: 'Set up an item of the running order',
    about: 'Its name, times, what it takes to air, and notes. What is on stays on air as it is.',
    args: SetArgs,
    mergeKey: ({ item, ...change }) => `item:${item}:${Object.keys(change).join()}`,
    run: (desk, { item: id, picture, clip, macro, ...change }) => {
      const item = itemOf(desk, id);
      Object.assign(item, plainCopy(change));
      if (picture !== undefined) item.pictureId = picture;
      if (clip !== undefined) item.clipId = clip;
      if (macro !== undefined) item.macroId = macro;
    },
  }),
  defineCommand({
    type: 'order.setLanes',
    title: 'Set the lanes of an item',
    about: 'What it shows in lanes, and which it hides. Lanes that it does not name stay as they are.',
    args: LanesArgs,
    mergeKey: ({ item }) => `item-lanes:${item}`,
    run: (desk, { item, lanes }) => {
      itemOf(desk, item).lanes = plainCopy(lanes);
    },
  }),
  defineCommand({
    type: 'order.setSeats',
    title: 'Set the seats of an item',
    about: 'Who sits where once it is on. Seats that it does not name stay as they are.',
    args: SeatsArgs,
    mergeKey: ({ item }) => `item-seats:${item}`,
    run: (desk, { item, seats }) => {
      itemOf(desk, item).seats = plainCopy(seats);
    },
  }),
  defineCommand({
    type: 'order.duplicate',
    title: 'Duplicate items of the running order',
    about: 'Copies stand behind the last of them. Returns their `ids`.',
    args: ItemsArg,
    run: (desk, { items: ids }, { newId }) => {
      const found = someOf(desk, ids);
      roomFor(desk, found.length);
      const { items } = desk.show.order;
      const copies = found.map((i) => ({ ...plainCopy(i), id: newId() }));
      const last = found.at(-1);
      if (last) items.splice(items.findIndex((i) => i.id === last.id) + 1, 0, ...copies);
      return { ids: copies.map((c) => c.id) };
    },
  }),
  defineCommand({
    type: 'order.move',
    title: 'Move items of the running order',
    about: 'To another place of the list. What is on stays on; what comes next is what stands after it then.',
    args: MoveArgs,
    run: (desk, { items: ids, index }) => {
      const moved = someOf(desk, ids);
      const rest = desk.show.order.items.filter((i) => !moved.includes(i));
      rest.splice(index, 0, ...moved);
      desk.show.order.items = rest;
    },
  }),
  defineCommand({
    type: 'order.remove',
    title: 'Remove items from the running order',
    about: 'What is on air stays; what they name stays in the show.',
    args: ItemsArg,
    run: (desk, { items }) => {
      for (const { id } of someOf(desk, items)) remove(desk, 'item', id);
    },
  }),
  defineCommand({
    type: 'order.bring',
    title: 'Bring items into the running order',
    about: 'A list of items, as from a file, behind those that are there or in their place.',
    args: BringArgs,
    run: (desk, { list, replace }, { newId }) => {
      const { order } = desk.show;
      if (!replace) roomFor(desk, list.length);
      order.items = [...(replace ? [] : order.items), ...plainCopy(list).map((item) => ({ ...item, id: newId() }))];
    },
  }),
  defineCommand({
    type: 'order.setUp',
    title: 'Set up the running order',
    about: 'Its planned beginning, when it has to be over, and whether the next picture is put into Next.',
    args: SetUpArgs,
    mergeKey: (change) => `order:${Object.keys(change).join()}`,
    run: ({ show }, change) => {
      Object.assign(show.order, change);
    },
  }),
  defineCommand({
    type: 'order.go',
    title: 'Go to the next item',
    says: 'Go to the next item of the running order',
    about: 'Takes what the next item of the running order says to air, and comes to the item after it. Refused at the end.',
    args: NoArgs,
    run: (desk, _, { frame, newId }) => {
      const item = itemToCome(desk);
      if (!item)
        throw new CommandError(
          'order-over',
          desk.show.order.items.length === 0
            ? 'The running order has no items yet.'
            : 'The running order is over. Start it anew, or choose an item.',
        );
      take(desk, item, frame, newId());
      return { item: item.id };
    },
  }),
  defineCommand({
    type: 'order.goTo',
    title: 'Go to an item',
    says: 'Go to {item} of the running order',
    about: 'Takes an item to air now, wherever it stands; the one after it comes next.',
    args: ItemArg,
    run: (desk, { item }, { frame, newId }) => take(desk, itemOf(desk, item), frame, newId()),
  }),
  defineCommand({
    type: 'order.setNext',
    title: 'Choose the item that Go takes',
    about: 'The item that *Go* takes next, wherever it stands; null for the one after what is on.',
    args: NextArgs,
    run: (desk, { item }) => {
      desk.air.order.nextId = item === null ? null : itemOf(desk, item).id;
    },
  }),
  defineCommand({
    type: 'order.skip',
    title: 'Skip items',
    about: '*Go* passes over them this time, until the running order is started anew; or not any more.',
    args: SkipArgs,
    run: (desk, { items, skipped }) => {
      const ids = someOf(desk, items).map((i) => i.id);
      const { order } = desk.air;
      const rest = order.skipped.filter((s) => !ids.includes(s));
      order.skipped = skipped ? [...rest, ...ids] : rest;
      if (skipped && order.nextId !== null && ids.includes(order.nextId)) order.nextId = null;
    },
  }),
  defineCommand({
    type: 'order.end',
    title: 'End the item that is on',
    about: 'Its time ends; nothing changes on air.',
    args: NoArgs,
    run: (desk, _, { frame }) => {
      if (desk.air.order.onId === null) throw new CommandError('order-over', 'No item of the running order is on.');
      leave(desk, frame);
    },
  }),
  defineCommand({
    type: 'order.reset',
    title: 'Start the running order anew',
    about: 'Forgets which items were on and which are skipped: *Go* takes the first. Nothing changes on air.',
    args: NoArgs,
    run: ({ air }) => {
      air.order = { onId: null, since: 0, nextId: null, skipped: [], past: [] };
    },
  }),
];
