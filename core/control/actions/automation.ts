/** Actions of macros: to run, hold and record them everywhere, and to work on their steps in their room. */
import { MOST_COLUMNS, MOST_PAGES, MOST_ROWS } from '../../buttons/document';
import { isLit } from '../../buttons/lit';
import { buttonAt } from '../../buttons/find';
import { type Action, command, numberArg, refuse } from '../action';
import { actionsOf, number, word } from '../make';
import { AUTOMATION_PAGES } from '../rooms';

const everywhere = actionsOf('all', 'Macros');
const macros = actionsOf('automation', 'Macros');
const devices = actionsOf('automation', 'Devices');
const buttons = actionsOf('automation', 'Buttons');
const order = actionsOf('automation', 'Running order');
const steps = actionsOf('automation', 'Steps');

export const AUTOMATION_ACTIONS: readonly Action[] = [
  everywhere.press(
    'macro.runByNumber',
    'Run macro {number}',
    'Macro {number}',
    (_, args) => command('macro.runByNumber', { number: numberArg(args, 'number') }),
    {
      params: [number('number', 'Number of the macro', 1, 99)],
      lit: ({ desk }, args) => {
        const macro = desk.show.automation.macros.find((m) => m.number === numberArg(args, 'number'));
        return Object.values(desk.air.automation.runs).some((r) => r.macroId === macro?.id);
      },
    },
  ),
  everywhere.press('run.go', 'Let the macro that waits go on', 'Go on', () => command('run.go')),
  everywhere.press(
    'automation.holdAll',
    'Hold everything automatic, or let it run again',
    'Hold all',
    () => command('automation.holdAll'),
    {
      lit: ({ desk }) => desk.air.automation.held,
    },
  ),
  everywhere.press('run.stop', 'Stop all macros', 'Stop macros', () => command('run.stop')),
  everywhere.press(
    'automation.record',
    'Record a macro; pressed again, keep it',
    'Rec macro',
    ({ desk }) =>
      desk.air.automation.recording === null
        ? command('automation.record')
        : command('automation.stopRecording', { waits: 'kept', elsewhere: true }),
    { lit: ({ desk }) => desk.air.automation.recording !== null },
  ),
  everywhere.press('automation.recordWait', 'Put a wait for a press into the macro that is recorded', 'Wait', ({ desk }) =>
    desk.air.automation.recording === null ? refuse('No macro is being recorded.') : command('automation.recordWait'),
  ),
  everywhere.press('order.go', 'Go: take the next item of the running order', 'Go', () => command('order.go')),
  everywhere.press(
    'buttons.press',
    'Press button {place} of page {page}',
    'Button {place}',
    ({ desk }, args) => {
      const [page, place] = [numberArg(args, 'page'), numberArg(args, 'place')];
      const button = buttonAt(desk.show, page, place);
      if (!button) return refuse(`Page ${page} has no button at place ${place}.`);
      const { act } = button;
      if (act.kind === 'command') return command(act.type, act.args);
      const opens = desk.show.pages.findIndex((p) => p.id === act.pageId) + 1;
      return opens === 0 ? refuse('This button opens no page yet.') : { kind: 'act', id: 'buttons.open', args: { page: opens } };
    },
    {
      params: [number('page', 'Number of the page', 1, MOST_PAGES), number('place', 'Place on it', 1, MOST_COLUMNS * MOST_ROWS)],
      lit: ({ desk, frame }, args) => {
        const button = buttonAt(desk.show, numberArg(args, 'page'), numberArg(args, 'place'));
        return button !== undefined && isLit(desk, button, frame);
      },
    },
  ),
  everywhere.act('buttons.open', 'Open page {page} of buttons', 'Buttons {page}', {
    params: [number('page', 'Number of the page', 1, MOST_PAGES)],
  }),
  buttons.act('buttons.newPage', 'New page of buttons', 'Page'),
  everywhere.act('order.window', 'Running order for the presenter, in a window of its own', 'Presenter'),
  macros.act('automation.page', 'Page {page} of the room', 'Page', {
    params: [word('page', 'Page', AUTOMATION_PAGES, { order: 'running order' })],
  }),
  devices.act('devices.message', 'New message to the open device', 'Message'),
  order.act('order.new', 'New item of the running order', 'Item'),
  order.act('order.next', 'Go takes the chosen item next', 'Set next'),
  order.act('order.skip', 'Skip the chosen items, or do not', 'Skip'),
  macros.act('macros.next', 'Next macro', 'Next'),
  macros.act('macros.before', 'Macro before', 'Before'),
  macros.act('macros.run', 'Run the open macro', 'Run'),
  macros.act('macros.new', 'New macro', 'New'),
  macros.act('macros.view', 'Steps as text, or as a list', 'Text'),
  macros.act('macros.try', 'Try the open macro dry', 'Try'),
  steps.act('steps.up', 'Chosen steps further up', 'Up'),
  steps.act('steps.down', 'Chosen steps further down', 'Down'),
  steps.act('steps.before', 'Step before', 'Step up'),
  steps.act('steps.next', 'Step after', 'Step down'),
  steps.act('steps.add', 'Add a step', 'Step'),
  steps.act('steps.duplicate', 'Duplicate the chosen steps', 'Duplicate'),
  steps.act('steps.remove', 'Remove the chosen steps', 'Remove'),
  steps.act('steps.onOff', 'Chosen steps on or off', 'On/off'),
];
