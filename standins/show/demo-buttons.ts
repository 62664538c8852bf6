/** Pages of buttons of the demo: the phases of the contest, and the wall on the pier. */
import { commandAct } from '#core/automation/create';
import { createButton, createPage } from '#core/buttons/create';
import { type ButtonAct, type PageButton } from '#core/buttons/document';
import { type Show } from '#core/desk/show';
import { WALL_LAYOUTS } from '../devices/pier';

export function addButtons(show: Show): void {
  const make = (page: string, list: readonly (readonly [act: ButtonAct, change?: Partial<PageButton>])[]) =>
    list.map(([act, change = {}], i) => createButton(`${page}-${i + 1}`, i, act, change));
  const air = (picture: string) => [commandAct('picture.cut', { picture }), { pictureId: picture, colour: '#7a2e35' }] as const;
  const up = (lane: string, name: string) => [commandAct('lane.toggle', { lane }), { name, colour: '#2e5a7a' }] as const;
  const wall = createPage('wall', 'Second wall', {
    columns: 3,
    rows: 2,
    buttons: make(
      'wall',
      Array.from({ length: WALL_LAYOUTS }, (_, i) => [
        commandAct('device.send', { message: `wall-${i + 1}` }),
        { name: `Layout ${i + 1}`, colour: '#4a3f66' },
      ]),
    ),
  });
  const phases = createPage('phases', 'Phases', {
    buttons: make('phases', [
      [commandAct('order.go'), { name: 'Go', colour: '#8a6b2c' }],
      [commandAct('macro.run', { macro: 'launch-window' }), { colour: '#8a6b2c' }],
      [commandAct('run.go'), { name: 'Go on', colour: '#8a6b2c' }],
      [commandAct('automation.holdAll'), { name: 'Hold all', colour: '#5a5a2e' }],
      ...(show.devices.length > 0 ? ([[{ kind: 'page', pageId: 'wall' }, { colour: '#4a3f66' }]] as const) : []),
    ]),
  });
  const row = make('cameras', [air('shore'), air('line'), air('mast'), air('desk'), air('talk')]);
  const lanes = make('lanes', [up('lane-1', 'Names'), up('lane-2', 'Bug'), up('lane-3', 'Clock'), up('lane-4', 'News')]);
  phases.buttons.push(...row.map((b, i) => ({ ...b, place: 5 + i })), ...lanes.map((b, i) => ({ ...b, place: 10 + i })));
  show.pages = show.devices.length > 0 ? [phases, wall] : [phases];
}
