/** Actions of the room Graphics, and of clocks and tableaux everywhere. */
import { whereEntries } from '../../graphics/where';
import { findGraphic } from '../../graphics/find';
import { command, numberArg, refuse, type Action, type ActionArgs, type Hands, type Meaning } from '../action';
import { actionsOf, number, word } from '../make';

const fill = actionsOf('graphics', 'Entries');
const draw = actionsOf('graphics', 'Drawing');
const room = actionsOf('graphics', 'Go to');
const clocks = actionsOf('all', 'Clocks');
const tableaux = actionsOf('all', 'Tableaux');

const CLOCK = [number('number', 'Number of the clock', 1, 99)];
const STEP = [number('x', 'To the right', -100, 100), number('y', 'Down', -100, 100)];

const onClock =
  (type: string, more: (args: ActionArgs) => Record<string, unknown> = () => ({})) =>
  ({ desk }: Hands, args: ActionArgs): Meaning => {
    const clock = desk.show.graphics.clocks.find((c) => c.number === numberArg(args, 'number'));
    return clock ? command(type, { clock: clock.id, ...more(args) }) : refuse(`No clock has the number ${numberArg(args, 'number')}.`);
  };

const onTableau =
  (type: string) =>
  ({ desk }: Hands, args: ActionArgs): Meaning => {
    const tableau = desk.show.tableaux.find((t) => t.number === numberArg(args, 'number'));
    return tableau ? command(type, { tableau: tableau.id }) : refuse(`No tableau has the number ${numberArg(args, 'number')}.`);
  };

/** A command for the lane that is chosen in Graphics. */
const onLane =
  (type: string, more: Record<string, unknown> = {}) =>
  ({ chosen }: Hands): Meaning =>
    chosen.graphicLane === null ? refuse('The show has no lane to work on.') : command(type, { lane: chosen.graphicLane, ...more });

/** A command for the tickers of the graphic that is open. */
const onTicker =
  (type: string) =>
  ({ chosen }: Hands): Meaning =>
    chosen.graphic === null ? refuse('Open a graphic with a ticker first.') : command(type, { graphic: chosen.graphic });

/** Adds to the number of the entry in the lane, or of the chosen one. */
const count =
  (by: number) =>
  ({ desk, chosen }: Hands): Meaning => {
    const held = desk.show.lanes.find((l) => l.id === chosen.graphicLane)?.content?.id ?? null;
    const entry = chosen.entry ?? (findGraphic(desk.show, held)?.entry ? held : null);
    return entry === null ? refuse('Choose an entry with a number first.') : command('entry.step', { entry, by });
  };

/** Puts the chosen entry a place up or down in its table. */
const moveEntry =
  (by: number) =>
  ({ desk, chosen }: Hands): Meaning => {
    const found = findGraphic(desk.show, chosen.entry);
    if (!found?.entry) return refuse('Choose an entry first.');
    const at = found.graphic.entries.findIndex((e) => e.id === found.entry?.id);
    return command('entry.move', { entry: found.entry.id, index: Math.max(0, at + by) });
  };

/** A command for the chosen elements of the graphic that is open. */
const onElements =
  (type: string, more: Record<string, unknown> = {}) =>
  ({ chosen }: Hands): Meaning =>
    chosen.graphic === null || chosen.elements.length === 0
      ? refuse('No element is chosen. Choose one in Graphics, Draw, first.')
      : command(type, { graphic: chosen.graphic, elements: [...chosen.elements], ...more });

const order = (end: 'front' | 'back') => (hands: Hands) => onElements('element.order', { index: end === 'front' ? 400 : 0 })(hands);

export const GRAPHICS_ACTIONS: readonly Action[] = [
  room.act('graphics.tab', 'Fill or Draw', 'Fill/Draw'),
  room.act('graphics.before', 'The graphic before', 'Graphic −'),
  room.act('graphics.after', 'The next graphic', 'Graphic +'),
  room.act('graphics.find', 'Find an entry', 'Find'),
  room.act('graphics.edit', 'Fill in the chosen entry', 'Fill in'),
  room.act('graphics.sheets', 'Sheets', 'Sheets'),
  room.act('graphics.urgent', 'Write an urgent item for the ticker', 'Urgent'),
  room.act('graphics.lane', 'Work on lane {number}', 'Lane {number}', { params: [number('number', 'Number of the lane', 1, 24)] }),
  fill.act('graphics.enter', 'Prepare the chosen entry; again, show it', 'Enter'),
  fill.act('graphics.add', 'New entry, or new graphic in Draw', 'New'),
  fill.press('graphics.hide', 'Hide the lane', 'Hide', onLane('lane.hide')),
  fill.press('graphics.next', 'Next entry in the lane', 'Next entry', onLane('lane.next')),
  fill.press('graphics.previous', 'Entry before in the lane', 'Entry before', onLane('lane.next', { by: -1 })),
  fill.press('graphics.change', 'Change on air: the chosen entry with its edits', 'Change', ({ desk, chosen }) => {
    const found = findGraphic(desk.show, chosen.entry ?? chosen.graphic);
    const where = found && whereEntries(desk.show, desk.air, found.graphic).get(found.entry?.id ?? found.graphic.id);
    if (where?.sign !== 'edited') return refuse('Nothing of this entry differs from what is on air.');
    return where.laneId === null
      ? command('graphic.changeOnAir', { picture: found?.entry?.id ?? found?.graphic.id })
      : command('lane.showPicture', { lane: where.laneId, picture: found?.entry?.id ?? found?.graphic.id });
  }),
  fill.press('graphics.done', 'Mark the chosen entry as done, or as to come', 'Done', ({ desk, chosen }) => {
    const entry = findGraphic(desk.show, chosen.entry)?.entry;
    return entry ? command('entry.mark', { entry: entry.id, done: !entry.done }) : refuse('Choose an entry first.');
  }),
  fill.press('graphics.pauseTicker', 'Stop the ticker of the graphic, or let it go on', 'Ticker', onTicker('ticker.pause')),
  fill.press('graphics.clearTicker', 'Clear the ticker of the graphic', 'Clear ticker', onTicker('ticker.clear')),
  fill.press('graphics.entryUp', 'Move the entry up in its table', 'Entry up', moveEntry(-1), { repeats: true }),
  fill.press('graphics.entryDown', 'Move the entry down in its table', 'Entry down', moveEntry(1), { repeats: true }),
  fill.press('graphics.up', 'Number up by one', '+1', count(1), { repeats: true }),
  fill.press('graphics.down', 'Number down by one', '−1', count(-1), { repeats: true }),
  fill.act('graphics.space', 'Show or hide the lane; in Draw, try the moves', 'Show/try'),
  draw.act('graphics.arrow', 'Choose the entry above or below; in Draw, nudge by {x}, {y}', '{x}, {y}', { params: STEP, repeats: true }),
  draw.act('graphics.element', 'Draw: {kind}', '{kind}', {
    params: [
      word('kind', 'What is drawn', ['text', 'rectangle', 'ellipse', 'polygon', 'line', 'image', 'clock', 'window', 'ticker', 'table']),
    ],
  }),
  draw.act('graphics.nextElement', 'Choose the next element', 'Element +'),
  draw.act('graphics.elementBefore', 'Choose the element before', 'Element −'),
  draw.act('graphics.all', 'Choose all', 'All'),
  draw.act('graphics.none', 'Choose none', 'None'),
  draw.act('graphics.copy', 'Copy the elements', 'Copy'),
  draw.act('graphics.paste', 'Paste', 'Paste'),
  draw.act('graphics.pasteLook', 'Paste the look only', 'Paste look'),
  draw.act('graphics.remove', 'Remove the chosen elements or entry', 'Remove'),
  draw.press('graphics.duplicate', 'Duplicate', 'Duplicate', onElements('element.duplicate')),
  draw.press('graphics.group', 'Group', 'Group', onElements('element.group')),
  draw.press('graphics.ungroup', 'Take the group apart', 'Ungroup', onElements('element.ungroup')),
  draw.press('graphics.front', 'To the front', 'Front', order('front')),
  draw.press('graphics.back', 'To the back', 'Back', order('back')),
  clocks.press('clock.toggle', 'Clock {number}: start or pause', 'Clock {number}', onClock('clock.toggle'), {
    params: CLOCK,
    lit: ({ desk }, args) => {
      const clock = desk.show.graphics.clocks.find((c) => c.number === numberArg(args, 'number'));
      return clock !== undefined && (desk.air.graphics.clocks[clock.id]?.start ?? null) !== null;
    },
  }),
  clocks.press('clock.reset', 'Clock {number}: back to its beginning', 'Reset {number}', onClock('clock.reset'), { params: CLOCK }),
  clocks.press(
    'clock.adjust',
    'Clock {number}: {seconds} seconds more',
    'Clock {seconds}',
    onClock('clock.adjust', (args) => ({ seconds: numberArg(args, 'seconds', 0) })),
    { params: [...CLOCK, number('seconds', 'Seconds, below zero to take some', -600, 600)] },
  ),
  tableaux.press('tableau.next', 'Tableau {number} to Next', 'Tableau {number}', onTableau('tableau.next'), {
    params: [number('number', 'Number of the tableau', 1, 99)],
  }),
  tableaux.press('tableau.take', 'Tableau {number} straight to air', 'Tab. air {number}', onTableau('tableau.take'), {
    params: [number('number', 'Number of the tableau', 1, 99)],
  }),
];
