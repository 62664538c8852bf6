/** Macros of the demo: one press for a whole phase of the contest. */
import { commandAct, createMacro, createStep, createTrigger, createWhen, untilAct, waitAct } from '#core/automation/create';
import { type Trigger } from '#core/automation/document';
import { type Macro, type Step, type StepAct } from '#core/automation/document';
import { type Show } from '#core/desk/show';

type Written = readonly [act: StepAct, note?: string, joined?: true];

const stepsOf = (macro: string, acts: readonly Written[]): Step[] =>
  acts.map(([act, note = '', joined = false], i) => createStep(`${macro}-${i + 1}`, act, { note, joined: joined === true }));

/** Steps in groups: how many of them stand in each, in order. */
const grouped = (steps: readonly Step[], groups: readonly (readonly [name: string, count: number])[]): Step[] => {
  const names = groups.flatMap(([name, count]) => Array.from({ length: count }, () => name));
  return steps.map((step, i) => ({ ...step, group: names[i] ?? '' }));
};

const show = (lane: string, picture: string) => commandAct('lane.showPicture', { lane, picture });
const hide = (lane: string) => commandAct('lane.hide', { lane });

/** The heat: clock, wind and pilot come up from whatever state, and the standings when the clock has ended. */
const launch = (): Macro =>
  createMacro('launch-window', 'Launch window', 0, {
    number: 1,
    note: 'Starts a heat of 90 s from whatever state, and ends it. It goes on by a press, or by itself when the kite leaves the line.',
    onFailure: 'go-on',
    steps: grouped(
      stepsOf('launch', [
        [hide('lane-1'), 'What the last heat left'],
        [hide('lane-2')],
        [commandAct('clock.pause', { clock: 'heat' })],
        [commandAct('clock.setTo', { clock: 'heat', seconds: 90 }), '', true],
        [commandAct('picture.cut', { picture: 'line' })],
        [waitAct(15, 'frames')],
        [show('lane-3', 'heat-clock')],
        [show('lane-2', 'wind-dial')],
        [show('lane-1', 'card-1')],
        [commandAct('clock.start', { clock: 'heat' })],
        [untilAct('press'), 'The kite leaves the line'],
        [hide('lane-1')],
        [hide('lane-2')],
        [untilAct('clock', { clockId: 'heat' })],
        [show('lane-1', 'standings-table')],
        [commandAct('picture.setNext', { picture: 'mast' })],
        [waitAct(4)],
        [hide('lane-3')],
      ]),
      [
        ['Clear what was', 4],
        ['On the line', 7],
        ['In the air', 3],
        ['Over', 4],
      ],
    ),
  });

/** A look around: each camera for two seconds, made by sweeping one step. */
const around = (): Macro =>
  createMacro('look-around', 'Look around', 1, {
    number: 2,
    steps: stepsOf(
      'around',
      ['shore', 'line', 'mast', 'desk'].flatMap((picture, i) => [
        ...(i > 0 ? ([[waitAct(2)]] as const) : []),
        [commandAct('picture.setNext', { picture })] as const,
        [commandAct('picture.take'), '', true] as const,
      ]),
    ),
  });

/** A name for some seconds: whose is asked for when it is run. */
const introduce = (): Macro =>
  createMacro('introduce', 'Introduce', 2, {
    number: 3,
    asks: [{ id: 'introduce-who', name: 'Who', kind: 'entry', otherwise: 'card-1' }],
    steps: stepsOf('introduce', [
      [commandAct('lane.showPicture', { lane: 'lane-1', picture: { asked: 'Who' } })],
      [waitAct(6)],
      [hide('lane-1')],
    ]),
  });

/** The kite leaves the line, as the wind station says: the macro that waits for that goes on. */
const offTheLine = (): Trigger => ({
  ...createTrigger(
    'off-the-line',
    'Kite off the line',
    createWhen('cell-is', { sheetId: 'wind', row: 'Skerry Point', column: 'Kite', value: 'off the line' }),
    commandAct('run.go'),
  ),
  every: 100,
  conditions: [{ is: createWhen('macro-starts', { macroId: 'launch-window' }), so: true }],
});

export function addMacros({ automation }: Show): void {
  automation.macros = [launch(), around(), introduce()];
  automation.triggers = [offTheLine()];
}
