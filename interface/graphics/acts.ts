/** What the room Graphics does itself: choosing, finding, drawing, copying, trying. */
import { numberArg } from '#core/control/action';
import { tickersOnAir } from '#core/desk/keep-tickers';
import { type Graphic } from '#core/graphics/document';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { foundEntries } from '#core/graphics/search';
import { chosenEntry, chosenGraphics, openGraphic, openGraphicById, setGraphicsRoom, useGraphicsRoom } from './room-state';

const room = () => useGraphicsRoom.getState();
const opened = ({ client }: ActWorld): Graphic | undefined => openGraphic(client.state.desk.show, room().graphicId);
const isDrawing = () => room().tab === 'draw';

function stepGraphic(world: ActWorld, by: number): void {
  const { list } = world.client.state.desk.show.graphics;
  const at = list.findIndex((g) => g.id === opened(world)?.id);
  const next = list[Math.min(list.length - 1, Math.max(0, at + by))];
  if (next) openGraphicById(next.id);
}

function stepEntry(world: ActWorld, by: number): void {
  const graphic = opened(world);
  if (!graphic) return;
  const list = foundEntries(graphic, room().search);
  const at = list.findIndex((e) => e.id === chosenEntry(graphic, room().entryId)?.id);
  const next = list[Math.min(list.length - 1, Math.max(0, at + by))];
  if (next) setGraphicsRoom({ entryId: next.id });
}

function stepElement(world: ActWorld, by: number): void {
  const elements = opened(world)?.elements ?? [];
  const at = elements.findIndex((e) => e.id === room().chosen[0]);
  const next = elements[(Math.max(at, by > 0 ? -1 : 0) + by + elements.length) % Math.max(1, elements.length)];
  if (next) setGraphicsRoom({ chosen: [next.id] });
}

/** Enter: the chosen entry is prepared in the lane; when it is there already, it is shown. */
function enterEntry(world: ActWorld): void {
  const { show } = world.client.state.desk;
  const { entry, graphic, graphicLane: lane } = chosenGraphics(show);
  const id = entry ?? graphic;
  if (id === null || lane === null) return;
  const ready = show.lanes.find((l) => l.id === lane)?.content?.id === id;
  // Shown already: new words come on air.
  if (ready) world.send('lane.show', { lane });
  else world.send('lane.setContent', { lane, content: { kind: 'picture', id } });
}

function remove(world: ActWorld): void {
  const { graphic, elements, entry } = chosenGraphics(world.client.state.desk.show);
  if (isDrawing()) {
    if (graphic !== null && elements.length > 0 && world.send('element.remove', { graphic, elements })) setGraphicsRoom({ chosen: [] });
    return;
  }
  if (entry === null) return;
  const list = foundEntries(opened(world) as Graphic, room().search);
  const at = list.findIndex((e) => e.id === entry);
  if (world.send('entry.remove', { entry })) setGraphicsRoom({ entryId: (list[at + 1] ?? list[at - 1])?.id ?? null });
}

/** Opens the ticker that is on air, else the first there is, unless one is open: what is urgent leaves no time to look for it. */
function openTicker(world: ActWorld): void {
  const isTicker = (graphic: Graphic | undefined) => graphic?.elements.some((e) => e.content.kind === 'ticker') === true;
  if (isTicker(opened(world))) return;
  const { show, air } = world.client.state.desk;
  const up = tickersOnAir(air).find((t) => t.up)?.shown.graphic.id ?? show.graphics.list.find(isTicker)?.id;
  if (up !== undefined) openGraphicById(up);
}

/** Adds an entry and goes to its first field; in Draw, a graphic. */
function add(world: ActWorld): void {
  const graphic = opened(world);
  if (isDrawing() || !graphic) {
    const done = world.client.dispatch({ type: 'graphic.add' });
    if (done.ok) openGraphicById(String(done.result.id));
    return;
  }
  const done = world.client.dispatch({ type: 'entry.add', args: { graphic: graphic.id, values: [] } });
  if (!done.ok) return;
  setGraphicsRoom({ entryId: String(done.result.id), search: '', panel: 'entries' });
  focusSoon('[data-region="entry"] :is(input, textarea, select)');
}

export const GRAPHICS_ACTS: Acts = {
  'graphics.tab': ({ go }) => {
    go('graphics');
    setGraphicsRoom({ tab: isDrawing() ? 'fill' : 'draw', trial: null, playing: false });
  },
  'graphics.before': (world) => stepGraphic(world, -1),
  'graphics.after': (world) => stepGraphic(world, 1),
  'graphics.find': ({ go }) => {
    go('graphics');
    setGraphicsRoom({ tab: 'fill', panel: 'entries' });
    focusSoon('[data-role="find-entry"]');
  },
  'graphics.edit': ({ go }) => {
    go('graphics');
    setGraphicsRoom({ tab: 'fill', panel: 'entries' });
    focusSoon('[data-region="entry"] :is(input, textarea, select)');
  },
  'graphics.sheets': ({ go }) => {
    go('graphics');
    setGraphicsRoom({ tab: 'fill', panel: room().panel === 'sheets' ? 'entries' : 'sheets' });
  },
  'graphics.urgent': (world) => {
    world.go('graphics');
    openTicker(world);
    setGraphicsRoom({ tab: 'fill', panel: 'entries' });
    focusSoon('[data-role="urgent-item"]');
  },
  'graphics.lane': ({ client }, args) => {
    const lane = client.state.desk.show.lanes.find((l) => l.number === numberArg(args, 'number'));
    if (lane) setGraphicsRoom({ laneId: lane.id });
  },
  'graphics.enter': (world) => void (isDrawing() || enterEntry(world)),
  'graphics.add': add,
  'graphics.space': (world) => {
    if (isDrawing()) return setGraphicsRoom({ playing: !room().playing, trial: room().trial ?? 0 });
    const { graphicLane } = chosenGraphics(world.client.state.desk.show);
    if (graphicLane !== null) world.send('lane.toggle', { lane: graphicLane });
    return undefined;
  },
  'graphics.arrow': (world, args) => {
    const [x, y] = [numberArg(args, 'x', 0), numberArg(args, 'y', 0)];
    const { graphic, elements } = chosenGraphics(world.client.state.desk.show);
    if (!isDrawing()) return y === 0 ? undefined : stepEntry(world, y);
    if (room().trial !== null && elements.length === 0)
      return setGraphicsRoom({ trial: Math.max(0, (room().trial ?? 0) + x), playing: false });
    if (graphic !== null && elements.length > 0) world.send('element.nudge', { graphic, elements, x, y });
    return undefined;
  },
  'graphics.element': (world, { kind }) => {
    const graphic = opened(world);
    if (!graphic) return;
    setGraphicsRoom({ tab: 'draw' });
    const done = world.client.dispatch({ type: 'element.add', args: { graphic: graphic.id, kind } });
    if (done.ok) setGraphicsRoom({ chosen: [String(done.result.id)] });
  },
  'graphics.nextElement': (world) => stepElement(world, 1),
  'graphics.elementBefore': (world) => stepElement(world, -1),
  'graphics.all': (world) =>
    setGraphicsRoom({ chosen: (opened(world)?.elements ?? []).filter((e) => !e.locked && e.parentId === null).map((e) => e.id) }),
  'graphics.none': () => setGraphicsRoom({ chosen: [], trial: null, playing: false }),
  'graphics.copy': (world) => {
    const graphic = opened(world);
    const { elements } = chosenGraphics(world.client.state.desk.show);
    if (graphic && elements.length > 0)
      setGraphicsRoom({
        copied: graphic.elements.filter((e) => elements.includes(e.id) || (e.parentId !== null && elements.includes(e.parentId))),
      });
  },
  'graphics.paste': (world) => {
    const graphic = opened(world);
    if (!graphic || room().copied.length === 0) return;
    const done = world.client.dispatch({ type: 'element.paste', args: { graphic: graphic.id, from: { elements: [...room().copied] } } });
    if (done.ok) setGraphicsRoom({ chosen: done.result.ids as string[] });
  },
  'graphics.pasteLook': (world) => {
    const { graphic, elements } = chosenGraphics(world.client.state.desk.show);
    const from = room().copied[0];
    if (graphic !== null && from && elements.length > 0) world.send('element.giveLook', { graphic, elements, from: from.id });
  },
  'graphics.remove': remove,
};
