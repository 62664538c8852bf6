/** What the room Layouts does itself: choosing, copying, going. */
import { numberArg } from '#core/control/action';
import { type Layout } from '#core/layout/document';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { openLayout, openLayoutById, setLayoutsRoom, useLayoutsRoom } from './room-state';

const room = () => useLayoutsRoom.getState();
const opened = ({ client }: ActWorld): Layout | undefined => openLayout(client.state.desk.show, room().openId);

function stepLayout(world: ActWorld, by: number): void {
  const { layouts, presets } = world.client.state.desk.show;
  const all = [...layouts, ...presets];
  const at = all.findIndex((l) => l.id === opened(world)?.id);
  const next = all[Math.min(all.length - 1, Math.max(0, at + by))];
  if (next) openLayoutById(next.id);
}

function stepBox(world: ActWorld, by: number): void {
  const boxes = opened(world)?.boxes ?? [];
  const at = boxes.findIndex((b) => b.id === room().chosen[0]);
  const next = boxes[(Math.max(at, by > 0 ? -1 : 0) + by + boxes.length) % boxes.length];
  if (next) setLayoutsRoom({ chosen: [next.id], tab: 'box' });
}

const TABS = ['box', 'layout', 'styles', 'seats'] as const;

export const LAYOUT_ACTS: Acts = {
  'layouts.before': (world) => stepLayout(world, -1),
  'layouts.after': (world) => stepLayout(world, 1),
  'layouts.nextBox': (world) => stepBox(world, 1),
  'layouts.boxBefore': (world) => stepBox(world, -1),
  'layouts.all': (world) => setLayoutsRoom({ chosen: (opened(world)?.boxes ?? []).filter((b) => !b.locked).map((b) => b.id) }),
  'layouts.none': () => setLayoutsRoom({ chosen: [] }),
  'layouts.crop': () => setLayoutsRoom({ tools: { ...room().tools, crop: !room().tools.crop } }),
  'layouts.copy': (world) => {
    const layout = opened(world);
    const box = room().chosen[0];
    if (layout && box !== undefined) setLayoutsRoom({ copied: { layout: layout.id, box } });
  },
  'layouts.paste': (world) => {
    const layout = opened(world);
    const { copied, chosen } = room();
    if (layout && copied) world.send('box.paste', { layout: layout.id, boxes: chosen, fromLayout: copied.layout, fromBox: copied.box });
  },
  'layouts.remove': (world) => {
    const layout = opened(world);
    if (layout && room().chosen.length > 0 && world.send('box.remove', { layout: layout.id, boxes: room().chosen }))
      setLayoutsRoom({ chosen: [] });
  },
  'layouts.new': ({ go }) => {
    go('layouts');
    setLayoutsRoom({ mode: 'layouts', adding: true });
    focusSoon('[data-role="starter"]');
  },
  'layouts.content': (world) => {
    if (room().chosen.length === 0) stepBox(world, 1);
    setLayoutsRoom({ tab: 'box' });
    focusSoon('[data-role="box-content"]');
  },
  'layouts.place': (world) => {
    if (room().chosen.length === 0) stepBox(world, 1);
    setLayoutsRoom({ tab: 'box' });
    focusSoon('[data-role="box-place"] input');
  },
  'layouts.tab': (_, args) => {
    const tab = TABS[numberArg(args, 'number') - 1] ?? 'box';
    setLayoutsRoom({ tab });
    focusSoon(
      `[data-region="settings"] ${tab === 'seats' ? '[data-role="occupant"]' : '[role=tabpanel]:not([hidden]) :is(button, input, select)'}`,
    );
  },
  'layouts.framings': () => setLayoutsRoom({ mode: room().mode === 'layouts' ? 'framings' : 'layouts' }),
};
