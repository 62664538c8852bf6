/** What the room Automation does itself: choosing macros and steps, moving them, trying. */
import { type Macro } from '#core/automation/document';
import { type ActWorld, type Acts } from '../client/acts';
import { focusSoon } from '../client/focus';
import { say } from '../client/say';
import { addMacro, duplicateSteps, removeSteps } from './edits';
import { chooseStep, openMacro, openMacroById, setAutomationRoom, useAutomationRoom } from './room-state';

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

const move = (by: number) =>
  withSteps((world, macro, steps) => {
    const first = macro.steps.findIndex((s) => s.id === steps[0]);
    world.send('step.move', { macro: macro.id, steps, index: Math.max(0, first + by) });
  });

export const AUTOMATION_ACTS: Acts = {
  'macros.next': (world) => stepMacro(world, 1),
  'macros.before': (world) => stepMacro(world, -1),
  'macros.run': (world) => {
    const macro = opened(world);
    if (macro) world.send('macro.run', { macro: macro.id });
    else say.caution('There is no macro yet.', { id: 'hands' });
  },
  'macros.new': (world) => {
    addMacro(world.client);
    focusSoon('input[aria-label="Name of the macro"]');
  },
  'macros.try': () => setAutomationRoom({ side: 'try', tries: room().tries + 1 }),
  'steps.before': (world) => stepStep(world, -1),
  'steps.next': (world) => stepStep(world, 1),
  'steps.up': move(-1),
  'steps.down': move(1),
  'steps.add': (world) => {
    if (opened(world)) setAutomationRoom({ open: 'command' });
    else say.caution('Add a macro first.', { id: 'hands' });
  },
  'steps.duplicate': withSteps(({ client }, macro, steps) => duplicateSteps(client, macro, steps)),
  'steps.remove': withSteps(({ client }, macro, steps) => removeSteps(client, macro, steps)),
  'steps.onOff': withSteps((world, macro, steps) => {
    const on = !macro.steps.some((s) => steps.includes(s.id) && s.on);
    world.send('step.set', { macro: macro.id, steps, on });
  }),
};
