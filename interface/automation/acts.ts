/** What the room Automation does itself: choosing macros and steps, moving them, trying. */
import { type Macro } from '#core/automation/document';
import { numberArg } from '#core/control/action';
import { AUTOMATION_PAGES } from '#core/control/rooms';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { say } from '../client/say';
import { addMacro, duplicateSteps, removeSteps, runMacro } from './edits';
import { addItem, duplicateItems, openOrderWindow, removeItems } from './order-edits';
import { chooseItem, chooseStep, openMacro, openMacroById, setAutomationRoom, useAutomationRoom } from './room-state';

const room = () => useAutomationRoom.getState();
const opened = ({ client }: ActWorld): Macro | undefined => openMacro(client.state.desk.show, room().macroId);

function stepMacro(world: ActWorld, by: number): void {
  const { macros } = world.client.state.desk.show.automation;
  const at = macros.findIndex((m) => m.id === opened(world)?.id);
  const next = macros[Math.min(macros.length - 1, Math.max(0, at + by))];
  if (next) openMacroById(next.id);
}

function stepStep(world: ActWorld, by: number): void {
  const steps = opened(world)?.steps ?? [];
  const ends = steps.map((s, i) => (room().chosen.includes(s.id) ? i : -1)).filter((i) => i >= 0);
  const at = by > 0 ? (ends.at(-1) ?? -1) : (ends[0] ?? steps.length);
  const next = steps[Math.min(steps.length - 1, Math.max(0, at + by))];
  if (!next) return;
  chooseStep(next.id, false);
  document.querySelector(`[data-step="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: 'nearest' });
}

/** Does something with the open macro and its chosen steps, or says that none is chosen. */
const withSteps =
  (act: (world: ActWorld, macro: Macro, steps: string[]) => void) =>
  (world: ActWorld): void => {
    const macro = opened(world);
    const steps = macro?.steps.filter((s) => room().chosen.includes(s.id)).map((s) => s.id) ?? [];
    if (macro && steps.length > 0) act(world, macro, steps);
    else say.caution('Choose a step first.', { id: 'hands' });
  };

const moveSteps = (by: number) =>
  withSteps((world, macro, steps) => {
    const first = macro.steps.findIndex((s) => s.id === steps[0]);
    world.send('step.move', { macro: macro.id, steps, index: Math.max(0, first + by) });
  });

const chosenItems = ({ client }: ActWorld): string[] =>
  client.state.desk.show.order.items.filter((i) => room().items.includes(i.id)).map((i) => i.id);

/** Does something with the chosen items of the running order, or says that none is chosen. */
const withItems =
  (act: (world: ActWorld, items: string[]) => void) =>
  (world: ActWorld): void => {
    const items = chosenItems(world);
    if (items.length > 0) act(world, items);
    else say.caution('Choose an item first.', { id: 'hands' });
  };

function stepItem({ client }: ActWorld, by: number): void {
  const { items } = client.state.desk.show.order;
  const at = items.findIndex((i) => i.id === room().items.at(-1));
  const next = items[at === -1 && by < 0 ? items.length - 1 : Math.min(items.length - 1, Math.max(0, at + by))];
  if (!next) return;
  chooseItem(next.id, false);
  document.querySelector(`[data-item="${CSS.escape(next.id)}"]`)?.scrollIntoView({ block: 'nearest' });
}

const moveItems = (by: number) =>
  withItems(({ client, send }, items) => {
    const first = client.state.desk.show.order.items.findIndex((i) => i.id === items[0]);
    send('order.move', { items, index: Math.max(0, first + by) });
  });

/** Lists that are worked by the same keys: the steps of a macro, and the running order on its page. */
const byPage =
  (steps: (world: ActWorld) => void, items: (world: ActWorld) => void) =>
  (world: ActWorld): void =>
    (room().page === 'order' ? items : steps)(world);

export const AUTOMATION_ACTS: Acts = {
  'automation.page': (_, { page }) => {
    const known = AUTOMATION_PAGES.find((p) => p === page);
    if (known) setAutomationRoom({ page: known });
  },
  'devices.message': ({ client }) => {
    const { devices } = client.state.desk.show;
    const device = devices.find((d) => d.id === room().deviceId) ?? devices[0];
    if (!device) return void say.caution('Add a device first.', { id: 'hands' });
    const done = client.dispatch({ type: 'message.add', args: { device: device.id } });
    if (!done.ok) return void say.caution(done.error.message, { id: 'hands' });
    setAutomationRoom({ page: 'devices', deviceId: device.id, messageId: String(done.result.id) });
    return focusSoon('input[aria-label="Name of the message"]');
  },
  'buttons.open': ({ go, client }, args) => {
    const page = client.state.desk.show.pages[numberArg(args, 'page') - 1];
    if (!page) return void say.caution('There is no page of buttons with this number.', { id: 'hands' });
    go('automation');
    return setAutomationRoom({ page: 'buttons', pageId: page.id, buttonId: null, pressing: true });
  },
  'buttons.newPage': ({ client }) => {
    const done = client.dispatch({ type: 'page.add' });
    if (!done.ok) return void say.caution(done.error.message, { id: 'hands' });
    setAutomationRoom({ page: 'buttons', pageId: String(done.result.id), buttonId: null, pressing: false });
    return focusSoon('input[aria-label="Name of the page"]');
  },
  'order.window': ({ client }) => openOrderWindow(client.state.desk.show.id),
  'order.new': ({ client }) => {
    setAutomationRoom({ page: 'order' });
    addItem(client);
    focusSoon('input[aria-label="Name of the item"]');
  },
  'order.next': withItems(({ send }, [item]) => void send('order.setNext', { item })),
  'order.skip': withItems(({ client, send }, items) => {
    const { skipped } = client.state.desk.air.order;
    send('order.skip', { items, skipped: !items.every((i) => skipped.includes(i)) });
  }),
  'macros.next': (world) => stepMacro(world, 1),
  'macros.before': (world) => stepMacro(world, -1),
  'macros.run': (world) => {
    const macro = opened(world);
    if (macro) runMacro(world.client, macro);
    else say.caution('There is no macro yet.', { id: 'hands' });
  },
  'macros.new': (world) => {
    addMacro(world.client);
    focusSoon('input[aria-label="Name of the macro"]');
  },
  'macros.view': () => setAutomationRoom({ page: 'macros', view: room().view === 'list' ? 'text' : 'list' }),
  'macros.try': () => setAutomationRoom({ side: 'try', tries: room().tries + 1 }),
  'steps.before': byPage(
    (world) => stepStep(world, -1),
    (world) => stepItem(world, -1),
  ),
  'steps.next': byPage(
    (world) => stepStep(world, 1),
    (world) => stepItem(world, 1),
  ),
  'steps.up': byPage(moveSteps(-1), moveItems(-1)),
  'steps.down': byPage(moveSteps(1), moveItems(1)),
  'steps.add': (world) => {
    if (opened(world)) setAutomationRoom({ open: 'command' });
    else say.caution('Add a macro first.', { id: 'hands' });
  },
  'steps.duplicate': byPage(
    withSteps(({ client }, macro, steps) => duplicateSteps(client, macro, steps)),
    withItems(({ client }, items) => duplicateItems(client, items)),
  ),
  'steps.remove': byPage(
    withSteps(({ client }, macro, steps) => removeSteps(client, macro, steps)),
    withItems(({ client }, items) => removeItems(client, items)),
  ),
  'steps.onOff': withSteps((world, macro, steps) => {
    const on = !macro.steps.some((s) => steps.includes(s.id) && s.on);
    world.send('step.set', { macro: macro.id, steps, on });
  }),
};
